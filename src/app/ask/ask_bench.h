#pragma once
// The Ask bench: cards on the left, the chosen question's answer on the right.

#include "ask/answer_view.h"
#include "ask/overview.h"
#include "ask/pinned_answer.h"
#include "ask/question_list.h"
#include "compute/jobs.h"
#include "figure/park.h"

#include <QScrollArea>
#include <QWidget>
#include <deque>
#include <map>

namespace mavlo::app {

class AskBench : public QWidget {
    Q_OBJECT
  public:
    AskBench(Document& document, Jobs& jobs, QWidget* parent = nullptr);

    void choose(const std::string& question);
    void ask(const std::string& question, bool with_error = false);
    void set_pace(double seconds_per_solve_draft);
    /// "--with KEY": the cursor into that field of the question in hand, or of the first that has it.
    void show_input(const std::string& place);
    bool is_idle() const { return m_running.empty() && m_view->is_idle(); }
    AnswerView& answer_view() { return *m_view; }
    QuestionCard* card(const std::string& question) const;
    /// The newest answer to a question for the variant in hand, fresh or stale.
    const Answer* answer(const std::string& question) const;

  Q_SIGNALS:
    void refused(const mavlo::Problem& problem);
    void place_wanted(const std::string& path); ///< of a row on another bench
    void probe_wanted(mavlo::Dq current);       ///< a working point to look at
    /// A full answer to the design as it stands came in (or went stale: no value).
    void full_figure(const QString& figure, std::optional<double> value);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void follow_document();
    void show_chosen();
    void show_overview();
    QString why_stale(const Answer& answer) const;
    bool submit_question(const std::string& question, bool with_error);
    std::vector<OtherAnswer> others(const std::string& question, const Answer& shown) const;
    void update_state(const std::string& question);
    void report_progress();
    void show_growing(int job, const std::vector<Curve>& curves);
    void finished(const std::string& question, const Ask& ask, const Result<Answer>& result);
    void export_answer(const QString& suffix);
    void check_point(const PickedPoint& point);
    int submit(const QString& name, const std::string& question, const Ask& wanted, const PointStore& points,
               std::function<void(const Result<Answer>&)> done);
    void keep(const Answer& answer, const Ask& ask);
    /// The project that asked.
    struct Origin {
        int generation;
        AnswerStore answers;
    };
    Origin origin() const;
    bool is_of_another(const Origin& of, const Result<Answer>& result, const Ask& ask);
    void tell_failure(const Problems& problems);
    void ask_beside(const Counterpart& counterpart);
    void pin(const QString& title, const Answer& answer);
    void lay_beside(const std::string& question, const Answer& answer);
    std::string key(const std::string& question) const;

    Document& m_document;
    Jobs& m_jobs;
    QuestionList* m_list;
    Overview* m_overview;
    PinnedAnswer* m_pinned;
    AnswerView* m_view;
    std::string m_chosen;
    std::map<std::string, Answer> m_answers;             ///< newest, by variant and question
    std::map<std::string, std::deque<Answer>> m_earlier; ///< by question, newest first
    std::map<std::string, Problem> m_failures;
    std::map<std::string, Design> m_seen; ///< designs that were in hand, by their hashes
    std::map<std::string, int> m_running; ///< job ids by question
    double m_draft_pace = 0;              ///< seconds a field at draft quality, one thread
    double m_normal_pace = 0;             ///< measured seconds a field at normal quality, one thread
};

} // namespace mavlo::app
