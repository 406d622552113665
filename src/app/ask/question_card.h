#pragma once
// A question as a card: its inputs, its price before it runs, its state, and the button that asks it.

#include "question/question.h"
#include "shell/document.h"
#include "shell/refusal_label.h"

#include <QComboBox>
#include <QFrame>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <map>
#include <optional>

namespace mavlo::app {

enum class AnswerState { None, Fresh, Stale, Queued, Running, Failed };

class QuestionCard : public QFrame {
    Q_OBJECT
  public:
    QuestionCard(Document& document, const QuestionKind& kind, QWidget* parent = nullptr);

    QString title() const; ///< as of this machine
    QString tells() const;
    const QuestionKind& kind() const { return m_kind; }
    Ask ask() const; ///< of the design as it stands, with the inputs as typed
    /// As if typed; false when there is no such input.
    bool set_input(const std::string& key, const QString& text);
    void set_state(AnswerState state, const QString& detail = {});
    void show_failure(const Problem& problem);
    /// The cursor into a field, unfolded where it is not seen; false when there is no such input.
    bool show_input(const std::string& key);
    AnswerState state() const { return m_state; }
    void set_chosen(bool chosen);
    /// What the folded row says at its end: the answer's one figure; empty: its price, or why it cannot be
    /// asked.
    void set_result(const QString& figure);
    /// Of the machine in hand; a question that it cannot be asked says why.
    void fit(const Machine& machine);
    bool applies() const { return m_unmet.isEmpty(); }
    const QString& unmet() const { return m_unmet; }
    /// Seconds, as far as the pace is known; empty: it cannot be asked.
    std::optional<double> seconds() const;
    bool matches(const QString& words) const; ///< title, what it tells, its figures
    /// Seconds for one field on one thread, for the price.
    void set_pace(double seconds_per_solve);
    void refresh_price();

  Q_SIGNALS:
    void chosen();
    void asked();
    void stop_wanted();
    void inputs_changed();
    void place_wanted(const std::string& path); ///< of a refusal

  protected:
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void enterEvent(QEnterEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

  private:
    QString standard_text(const QuestionInput& input) const;

    Document& m_document;
    const QuestionKind& m_kind;
    void add_inputs(QVBoxLayout* body);
    QWidget* add_field(const QuestionInput& input);

    void dress();
    struct InputRow {
        const QuestionInput* input;
        QLabel *label, *unit;
        QWidget* field;
    };
    void dress_inputs(bool linear);
    std::vector<QuestionInput> m_shown; ///< the inputs as they are read of this machine
    bool m_linear = false;              ///< whether that is a straight one

    std::vector<InputRow> m_rows;
    std::map<std::string, QLineEdit*> m_inputs;
    std::map<std::string, QComboBox*> m_choices;
    QVBoxLayout* m_layout;
    QLabel *m_title, *m_tells, *m_end;
    QString m_result, m_unmet;
    QWidget* m_body; ///< all but the title; folded away while another card is chosen
    RefusalLabel *m_price, *m_status;
    QPushButton *m_button, *m_more = nullptr;
    AnswerState m_state = AnswerState::None;
    double m_pace = 0.05;
    bool m_chosen = false;
};

QString state_word(AnswerState state);
QString seconds_text(double seconds); ///< "0.4 s", "12 s", "3 min"

} // namespace mavlo::app
