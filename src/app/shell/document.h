#pragma once
// The open project with its undo history, and the machine that follows from the variant in hand.

#include "machine/drawing.h"
#include "machine/machine.h"
#include "machine/parameter.h"
#include "project/answers.h"
#include "project/project.h"
#include "shell/project_edit.h"
#include "storage/journal.h"

#include <QObject>
#include <QString>
#include <QTimer>
#include <QUndoStack>
#include <functional>
#include <memory>
#include <optional>
#include <unordered_map>

namespace mavlo::app {

/// A machine that could be built, with its drawing. Shared with the threads that compute.
struct DrawnMachine : Built {
    Drawing drawing;
};

/// Builds a design of the project, or leaves in `problems` what keeps it from being built.
std::shared_ptr<const DrawnMachine> build_design(const Project& project, const Design& design,
                                                 Problems& problems);

class Document : public QObject {
    Q_OBJECT
  public:
    explicit Document(QObject* parent = nullptr);
    ~Document() override;

    const Project& project() const { return m_project; }
    const Variant& variant() const { return m_project.in_hand(); }
    const Design& design() const { return variant().design; }
    QString file() const { return m_file; }
    QUndoStack& undo_stack() { return m_undo; }
    const AnswerStore& answers() const { return m_answers; }
    /// Counts the projects that were opened: what was asked of an earlier one is none of this.
    int generation() const { return m_generation; }

    /// The last machine that could be built, and what keeps the present design from it (empty: nothing).
    std::shared_ptr<const DrawnMachine> built() const { return m_built; }
    const Problems& problems() const { return m_problems; }
    bool is_good() const { return m_problems.empty(); }
    /// The reference variant's machine; empty when it cannot be built.
    std::shared_ptr<const DrawnMachine> reference() const { return m_reference; }

    /// A value of the present design where it resolves, else of the last that did.
    double value(const std::string& path) const;
    /// The parameter as the present design's kinds have it; null where the design does not use it.
    const Parameter* used(const std::string& path) const;

    /// A starting shape; with other slots and poles than its own where they are given.
    void open_new(const QString& shape, int slots = 0, int poles = 0);
    /// A project without a file, of one design.
    void open_design(const QString& name, const Design& design);
    std::optional<Problem> open(const QString& file);
    /// Goes on with what a program left behind that ended in the middle.
    std::optional<Problem> recover(const LeftBehind& left);
    /// Answers go with the project.
    std::optional<Problem> save(const QString& file);
    /// Whether the file says something else than when it was opened or saved.
    bool is_changed_elsewhere() const;
    /// Keeps an answer with the project as it stands; says what went wrong with the disk.
    std::optional<Problem> keep(const Answer& answer, const Ask& ask);

    /// Sets a parameter as the user typed it. Consecutive calls with the same non-zero `gesture` are one undo
    /// step.
    /// A quantity may be typed with a decimal comma (typed_number.h).
    std::optional<Problem> set_text(const std::string& path, const QString& text, int gesture = 0);
    /// Of a drag that begins, whatever is dragged: no other one has its number.
    static int next_gesture();
    /// Replaces the whole design of the variant in hand, as one step to undo; gestures as above.
    void set_design(const QString& label, const Design& design, int gesture = 0);
    /// Any other change of the project, such as of its materials; likewise.
    void change(const QString& label, const std::function<void(Project&)>& how) { edit(label, how); }
    void add_variant(const QString& name);
    void remove_variant(const QString& name);
    void choose_variant(const QString& name);
    void set_reference(const QString& name);

  Q_SIGNALS:
    void changed(); ///< the project; every view follows
    void opened();  ///< another project
    void file_changed();

  private:
    void begin(SharedProject project, const QString& file, AnswerStore answers);
    void write_journal();
    std::string typed_text(const std::string& path, const QString& text) const;
    void edit(const QString& label, const std::function<void(Project&)>& change, int gesture = 0);
    void show(const SharedProject& project);
    void rebuild();

    SharedProject m_shared;
    Project m_project;
    QString m_file;
    std::string m_file_hash; ///< of what the file said
    int m_generation = 0;
    Journal m_journal;
    QTimer m_journal_delay;
    std::vector<std::filesystem::path> m_scratch; ///< folders of answers that go with the program
    QUndoStack m_undo;
    AnswerStore m_answers;
    std::shared_ptr<const DrawnMachine> m_built, m_reference;
    Problems m_problems;
    Values m_values;
    std::unordered_map<std::string, const Parameter*> m_used;
};

} // namespace mavlo::app
