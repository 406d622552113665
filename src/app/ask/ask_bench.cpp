#include "ask/ask_bench.h"

#include "ask/answer_figure.h"
#include "question/figure_names.h"
#include "question/input_words.h"
#include "question/key_figure.h"
#include "question/straight.h"
#include "question/words.h"
#include "shell/bench.h"
#include "shell/changed_dimensions.h"
#include "shell/file_to_write.h"
#include "shell/spoken.h"
#include "shell/theme.h"
#include "shell/told_problem.h"

#include <QHBoxLayout>
#include <algorithm>
#include <cmath>

namespace mavlo::app {

AskBench::AskBench(Document& document, Jobs& jobs, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_jobs(jobs)
    , m_list(new QuestionList(document, this))
    , m_overview(new Overview(this))
    , m_pinned(new PinnedAnswer(this))
    , m_view(new AnswerView(document, this)) {
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    connect(m_list, &QuestionList::chosen, this, &AskBench::choose);
    connect(m_list, &QuestionList::asked, this, [this](const std::string& name) { ask(name); });
    connect(m_list, &QuestionList::inputs_changed, this, &AskBench::update_state);
    connect(m_list, &QuestionList::stop_wanted, this, [this](const std::string& name) {
        if (const auto job = m_running.find(name); job != m_running.end()) m_jobs.stop(job->second);
    });
    connect(m_overview, &Overview::chosen, this, &AskBench::choose);
    connect(m_overview, &Overview::all_stale_wanted, this, [this](const std::vector<std::string>& questions) {
        for (const std::string& name : questions) submit_question(name, false);
        show_chosen();
    });
    for (const QuestionCard* c : m_list->cards())
        connect(c, &QuestionCard::place_wanted, this, &AskBench::place_wanted);
    m_list->setFixedWidth(376);
    layout->addWidget(m_list);
    layout->addWidget(m_overview, 1);
    m_pinned->hide();
    layout->addWidget(m_pinned, 2);
    layout->addWidget(m_view, 3);
    connect(m_view, &AnswerView::pin_wanted, this, &AskBench::pin);
    connect(m_pinned, &PinnedAnswer::dropped, this, [this] {
        m_pinned->hide();
        m_view->set_narrow(false);
    });
    connect(&m_view->plot(), &Plot::cursor_moved, &m_pinned->plot(), &Plot::show_cursor);
    connect(&m_pinned->plot(), &Plot::cursor_moved, &m_view->plot(), &Plot::show_cursor);
    connect(m_view, &AnswerView::export_wanted, this, &AskBench::export_answer);
    connect(m_view, &AnswerView::probe_wanted, this, [this](const PickedPoint& p) {
        Q_EMIT probe_wanted({p.id, p.iq});
    });
    connect(m_view, &AnswerView::check_wanted, this, &AskBench::check_point);
    connect(m_view, &AnswerView::error_wanted, this, [this] { ask(m_chosen, true); });
    connect(m_view, &AnswerView::counterpart_wanted, this, &AskBench::ask_beside);
    connect(m_view, &AnswerView::heat_wanted, this, [this](const QString& losses) {
        card("heat")->set_input("losses", losses);
        choose("heat");
        ask("heat");
    });
    connect(&jobs, &Jobs::changed, this, &AskBench::report_progress);
    connect(&jobs, &Jobs::grown, this, &AskBench::show_growing);
    connect(&document, &Document::changed, this, &AskBench::follow_document);
    connect(&document, &Document::opened, this, [this] {
        m_running.clear(); // what goes on belongs to the project that asked
        m_answers.clear();
        m_earlier.clear();
        m_failures.clear();
        m_seen.clear();
        choose({});
        follow_document();
    });
    choose({});
    follow_document();
}

void AskBench::show_input(const std::string& place) {
    const std::string key = input_key(place);
    if (QuestionCard* c = card(m_chosen); c && c->show_input(key)) return;
    for (QuestionCard* c : m_list->cards())
        if (c->applies() && c->show_input(key)) return choose(c->kind().name);
}

void AskBench::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    follow_document();
    choose(m_chosen);
}

QuestionCard* AskBench::card(const std::string& question) const {
    return m_list->card(question);
}

std::string AskBench::key(const std::string& question) const {
    return m_document.variant().name + "\n" + question;
}

const Answer* AskBench::answer(const std::string& question) const {
    const auto found = m_answers.find(key(question));
    return found == m_answers.end() ? nullptr : &found->second;
}

void AskBench::choose(const std::string& question) {
    m_chosen = question;
    m_list->set_chosen(question);
    m_overview->setVisible(question.empty());
    m_view->setVisible(!question.empty());
    show_chosen();
}

namespace {
bool answers_key_figure(const std::string& question) {
    const auto& figures = registry<KeyFigure>().all();
    return std::any_of(figures.begin(), figures.end(),
                       [&](const KeyFigure& figure) { return figure.answered_by == question; });
}
} // namespace

void AskBench::follow_document() {
    if (m_document.is_good()) m_seen.emplace(m_document.built()->hash, m_document.design());
    m_list->follow_document();
    for (QuestionCard* c : m_list->cards()) {
        // Changing back finds the kept answer again. Out of sight only what the tell-tales show is looked for.
        if (!isVisible() && !answers_key_figure(c->kind().name)) continue;
        if (m_document.is_good())
            if (auto kept = m_document.answers().find(c->kind().name, c->ask(), *m_document.built()))
                m_answers[key(c->kind().name)] = *kept;
        update_state(c->kind().name);
    }
    show_chosen();
}

namespace {

/// The figure that answers the question.
QString figure_in_row(const Answer& answer) {
    const auto names = headline_figures(answer);
    const Figure* figure = names.empty() ? nullptr : figure_of(answer, names.front());
    return figure ? QString::fromStdString(shown_figure(*figure)) : QString();
}

/// An answer counts for the tell-tales only where it was asked as the design says; more positions do not
/// matter.
bool at_rating(Ask ask, const Answer& answer, const Built& built) {
    ask.with = answer.inputs;
    const std::string asked = answer_key(answer.question, ask, built);
    ask.with = {{"points", answer.inputs.at("points")}};
    return asked == answer_key(answer.question, ask, built);
}

} // namespace

void AskBench::update_state(const std::string& question) {
    QuestionCard* c = card(question);
    if (m_running.contains(question)) return;
    const Answer* found = answer(question);
    bool fresh = false;
    if (found && m_document.is_good()) {
        const auto inputs = question_inputs(c->kind(), c->ask().with, m_document.built()->machine.values);
        Ask as_answered = c->ask();
        as_answered.with = found->inputs;
        fresh = inputs && found->design == m_document.built()->hash &&
                answer_key(question, c->ask(), *m_document.built()) ==
                    answer_key(question, as_answered, *m_document.built());
    }
    c->set_result(found ? figure_in_row(*found) : QString());
    if (const auto failure = m_failures.find(key(question)); failure != m_failures.end())
        c->show_failure(failure->second);
    else
        c->set_state(!found ? AnswerState::None : fresh ? AnswerState::Fresh : AnswerState::Stale);
    for (const KeyFigure& figure : registry<KeyFigure>().all())
        if (figure.answered_by == question && found && m_document.built()) {
            const auto value = full_value(*found, figure.name, m_document.built()->machine);
            if (!value) continue;
            const bool current = m_document.is_good() && found->design == m_document.built()->hash;
            Q_EMIT full_figure(QString::fromStdString(figure.name),
                               current && at_rating(c->ask(), *found, *m_document.built()) ? value
                                                                                           : std::nullopt);
        }
    if (question == m_chosen) show_chosen();
}

/// The answers there are, in the order of the questions, and what was not asked yet.
void AskBench::show_overview() {
    if (!isVisible()) return;
    std::vector<Overview::Entry> entries;
    for (const QuestionCard* c : m_list->cards()) {
        if (!c->applies()) continue;
        const Answer* found = answer(c->kind().name);
        const auto seconds = c->seconds();
        const bool stale = found && c->state() == AnswerState::Stale;
        entries.push_back(
            {&c->kind(), c->title(), c->tells(), found, c->state(), stale ? why_stale(*found) : QString(),
             seconds ? tr("ask it · about %1").arg(seconds_text(*seconds)) : QString(), seconds.value_or(0)});
    }
    m_overview->show_entries(QString::fromStdString(m_document.variant().name), entries);
}

/// What changed in the design since, where it was seen.
QString AskBench::why_stale(const Answer& answer) const {
    constexpr std::size_t most = 2;
    if (m_document.is_good() && answer.design == m_document.built()->hash) return tr("asked otherwise");
    const auto seen = m_seen.find(answer.design);
    if (seen == m_seen.end()) return tr("the design changed since");
    const QStringList changes = changed_dimensions(seen->second, m_document.design());
    if (changes.isEmpty()) return tr("the design changed since");
    QStringList told = changes.mid(0, int(most));
    if (changes.size() > int(most)) told << tr("and %1 more").arg(changes.size() - int(most));
    return told.join(QStringLiteral(", "));
}

void AskBench::show_chosen() {
    if (m_chosen.empty()) return show_overview();
    const QuestionCard* c = card(m_chosen);
    if (!c) return;
    const QString title = c->title();
    if (const Answer* found = answer(m_chosen)) {
        // Others are read from the disk: not while a hand drags on another bench.
        m_view->show_answer(title, *found, c->state(),
                            isVisible() ? others(m_chosen, *found) : std::vector<OtherAnswer>{});
        if (c->state() == AnswerState::Stale) m_view->show_progress(tr("stale: %1").arg(why_stale(*found)));
    } else
        m_view->show_nothing(title, c->tells() + tr(" It has not been asked of this variant yet."));
}

namespace {

constexpr std::size_t most_earlier = 6;

/// By what an answer was asked otherwise than the one shown.
QString difference(const Answer& other, const Answer& shown) {
    QStringList words;
    if (other.variant != shown.variant) words << QString::fromStdString(other.variant);
    const auto asked = inputs_in_words(shown);
    for (const std::string& input : inputs_in_words(other))
        if (std::find(asked.begin(), asked.end(), input) == asked.end()) words << QString::fromStdString(input);
    if (words.isEmpty())
        words << (other.design == shown.design ? QObject::tr("before") : QObject::tr("earlier design"));
    return words.join(QStringLiteral(", "));
}

} // namespace

/// What can be laid over an answer: that of other variants, and what was asked before.
std::vector<OtherAnswer> AskBench::others(const std::string& question, const Answer& shown) const {
    std::vector<OtherAnswer> list;
    for (const Variant& variant : m_document.project().variants) {
        if (variant.name == shown.variant) continue;
        Ask asked = card(question)->ask();
        asked.design = variant.design;
        asked.variant = variant.name;
        if (auto kept = m_document.answers().find(question, asked)) {
            kept->variant = variant.name; // variants that are alike share their answers
            list.push_back({difference(*kept, shown), std::move(*kept)});
        }
    }
    if (const auto earlier = m_earlier.find(question); earlier != m_earlier.end())
        for (const Answer& answer : earlier->second)
            if (answer.curves != shown.curves) list.push_back({difference(answer, shown), answer});
    return list;
}

void AskBench::ask(const std::string& question, bool with_error) {
    if (submit_question(question, with_error)) choose(question);
}

/// Whether it is under way now; the window stays where it is.
bool AskBench::submit_question(const std::string& question, bool with_error) {
    if (m_running.contains(question)) return false;
    QuestionCard* c = card(question);
    Ask wanted = c->ask();
    wanted.with_error = with_error;
    if (!m_document.is_good()) {
        Q_EMIT refused(m_document.problems().front());
        return false;
    }
    if (const auto price = question_price(c->kind(), wanted, m_document.built()->machine); !price) {
        Q_EMIT refused(price.problems().front());
        return false;
    }
    m_failures.erase(key(question));
    m_running[question] =
        submit(c->title().toLower(), question, wanted, PointStore(m_document.answers().folder()),
               [this, wanted, question, of = origin()](const Result<Answer>& result) {
                   if (!is_of_another(of, result, wanted)) finished(question, wanted, result);
               });
    c->set_state(AnswerState::Queued);
    return true;
}

/// Asks beside the window; `done` in the window's thread.
int AskBench::submit(const QString& name, const std::string& question, const Ask& wanted,
                     const PointStore& points, std::function<void(const Result<Answer>&)> done) {
    auto result = std::make_shared<std::optional<Result<Answer>>>();
    return m_jobs.submit(
        name,
        [wanted, points, question, result](const Watch& watch) {
            *result = watch.stop.stop_requested() ? Result<Answer>(stopped())
                                                  : ask_question(question, wanted, {0, watch, points});
        },
        [result, done = std::move(done)] { done(*result ? **result : Result<Answer>(stopped())); });
}

void AskBench::keep(const Answer& answer, const Ask& ask) {
    if (const auto problem = m_document.keep(answer, ask)) Q_EMIT refused(*problem);
}

AskBench::Origin AskBench::origin() const {
    return {m_document.generation(), m_document.answers()};
}

/// An answer that comes after another project was opened is kept with the one that asked.
bool AskBench::is_of_another(const Origin& of, const Result<Answer>& result, const Ask& ask) {
    if (of.generation == m_document.generation()) return false;
    if (result) of.answers.keep(*result, ask);
    return true;
}

/// Of what was asked aside; being stopped is none.
void AskBench::tell_failure(const Problems& problems) {
    if (!is_stopped(problems)) Q_EMIT refused(problems.front());
}

/// The full field at a point of a map, to stand beside what the map says.
void AskBench::check_point(const PickedPoint& point) {
    if (m_running.contains("check")) return;
    Ask wanted = card("load")->ask();
    wanted.with = {{"current", QString::number(point.amplitude(), 'g', 9).toStdString()},
                   {"advance", QString::number(point.advance(), 'g', 9).toStdString()},
                   {"speed", QString::number(point.speed, 'g', 9).toStdString()}};
    m_view->picked().show_running();
    m_running["check"] = submit(tr("check of a working point"), "load", wanted, {},
                                [this, of = m_document.generation()](const Result<Answer>& result) {
                                    if (of != m_document.generation()) return;
                                    m_running.erase("check");
                                    if (!result) return tell_failure(result.problems());
                                    m_view->picked().show_full(*result);
                                });
}

/// The same question in another way; the answer in hand stays, and both stand side by side.
void AskBench::ask_beside(const Counterpart& counterpart) {
    if (m_running.contains("beside") || !m_document.is_good()) return;
    const std::string question = m_chosen;
    Ask wanted = card(question)->ask();
    wanted.with = counterpart.inputs;
    if (const auto kept = m_document.answers().find(question, wanted)) return lay_beside(question, *kept);
    m_running["beside"] = submit(card(question)->title().toLower() + ", " + spoken(counterpart.label), question,
                                 wanted, PointStore(m_document.answers().folder()),
                                 [this, wanted, question, of = origin()](const Result<Answer>& result) {
                                     if (is_of_another(of, result, wanted)) return;
                                     m_running.erase("beside");
                                     if (!result) return tell_failure(result.problems());
                                     keep(*result, wanted);
                                     lay_beside(question, *result);
                                 });
}

void AskBench::pin(const QString& title, const Answer& answer) {
    m_pinned->show_answer(title, answer);
    m_view->set_narrow(true);
}

void AskBench::lay_beside(const std::string& question, const Answer& answer) {
    auto& earlier = m_earlier[question];
    if (std::none_of(earlier.begin(), earlier.end(),
                     [&](const Answer& e) { return e.curves == answer.curves; }))
        earlier.push_front(answer);
    if (earlier.size() > most_earlier) earlier.pop_back();
    if (question != m_chosen) return;
    show_chosen();
    if (const Answer* shown = this->answer(question)) m_view->show_beside(difference(answer, *shown));
}

void AskBench::finished(const std::string& question, const Ask& ask, const Result<Answer>& result) {
    m_running.erase(question);
    const std::string where = ask.variant + "\n" + question;
    if (result) {
        if (const auto before = m_answers.find(where); before != m_answers.end()) {
            auto& earlier = m_earlier[question];
            earlier.push_front(before->second);
            if (earlier.size() > most_earlier) earlier.pop_back();
        }
        m_answers[where] = *result;
        keep(*result, ask);
        if (result->effort.solves > 0)
            m_normal_pace = result->effort.seconds * result->effort.threads / result->effort.solves;
        for (QuestionCard* c : m_list->cards())
            if (m_normal_pace > 0) c->set_pace(m_normal_pace);
    } else if (!is_stopped(result.problems())) {
        m_failures[where] = result.problems().front();
    }
    m_view->set_arriving(true);
    update_state(question); // shows it, where it is the one in hand
    m_view->set_arriving(false);
    if (question != m_chosen) show_chosen();
}

void AskBench::set_pace(double seconds_per_solve_draft) {
    if (m_normal_pace > 0) return; // measured is better than guessed
    // A normal field costs some two draft ones, but a sweep's positions are near each other and need fewer
    // steps.
    const bool another = std::abs(seconds_per_solve_draft - m_draft_pace) > 0.1 * m_draft_pace;
    m_draft_pace = seconds_per_solve_draft;
    for (QuestionCard* c : m_list->cards()) c->set_pace(0.8 * seconds_per_solve_draft);
    if (another && m_chosen.empty()) show_overview();
}

void AskBench::report_progress() {
    for (const auto& state : m_jobs.states())
        for (const auto& [question, id] : m_running)
            if (id == state.id && state.running && card(question)) {
                const double left =
                    state.done > 0 ? state.seconds / state.done * (state.total - state.done) : 0;
                const QString text = state.total > 0 ? tr("%1 of %2 fields · %3 s left")
                                                           .arg(state.done)
                                                           .arg(state.total)
                                                           .arg(left, 0, 'f', 1)
                                                     : tr("preparing");
                card(question)->set_state(AnswerState::Running, text);
                if (question == m_chosen) m_view->show_progress(tr("running: %1").arg(text));
            }
}

void AskBench::show_growing(int job, const std::vector<Curve>& curves) {
    const auto running = m_running.find(m_chosen);
    if (running == m_running.end() || running->second != job || !isVisible()) return;
    m_view->show_growing(card(m_chosen)->title(), curves);
}

void AskBench::export_answer(const QString& suffix) {
    const QString name = QString::fromStdString(m_document.project().name + " " + m_chosen);
    const QString full = file_to_write(this, tr("Save the answer"), name, suffix);
    if (full.isEmpty()) return;
    if (!m_view->export_to(full))
        Q_EMIT refused(in_words(tr("%1 could not be written; check the folder and the free space.").arg(full)));
}

namespace {

BenchView make(Desk& desk) {
    auto* bench = new AskBench(desk.document, desk.jobs);
    QObject::connect(bench, &AskBench::refused, &desk, &Desk::refused);
    QObject::connect(bench, &AskBench::place_wanted, &desk, &Desk::place_wanted);
    QObject::connect(&desk, &Desk::place_wanted, bench, [bench](const std::string& place) {
        if (!input_key(place).empty()) bench->show_input(place);
    });
    QObject::connect(bench, &AskBench::probe_wanted, &desk, &Desk::probe_wanted);
    QObject::connect(bench, &AskBench::full_figure, &desk, &Desk::figure_answered);
    const TellTaleEngine* figures = &desk.key_figures;
    QObject::connect(figures, &TellTaleEngine::changed, bench,
                     [bench, figures] { bench->set_pace(figures->seconds_per_solve()); });
    return {.page = bench, .is_idle = [bench] { return bench->is_idle(); }};
}

const Register<BenchKind> ask{{"ask", 40, "Ask", "questions with their price and their answers", make}};

} // namespace
} // namespace mavlo::app
