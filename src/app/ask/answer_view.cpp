#include "ask/answer_view.h"

#include "ask/answer_curves.h"
#include "ask/drawn_curve.h"
#include "project/project.h"
#include "question/heat_losses.h"
#include "question/input_words.h"
#include "question/reading_units.h"
#include "shell/spoken.h"
#include "shell/theme.h"
#include "storage/file.h"

#include <QHBoxLayout>
#include <QMenu>
#include <algorithm>

namespace mavlo::app {

namespace {

constexpr std::size_t few_figures = 8; ///< that stand beside a plot without taking its room

} // namespace

AnswerView::AnswerView(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_title(new QLabel(this))
    , m_state(new QLabel(this))
    , m_sentence(new QLabel(this))
    , m_effort(new QLabel(this))
    , m_figures(new FigureBoard(this))
    , m_choice(new QComboBox(this))
    , m_other(new QComboBox(this))
    , m_tools(new QWidget(this))
    , m_lines(new QPushButton(this))
    , m_error(new QPushButton(tr("± mesh error"), this))
    , m_beside(new QPushButton(tr("Lay beside"), this))
    , m_heat(new QPushButton(tr("Its heat"), this))
    , m_all(new QPushButton(tr("All figures"), this))
    , m_pin(new QPushButton(tr("Keep in view"), this))
    , m_exports(new QWidget(this))
    , m_pictures(new QWidget(this))
    , m_plot(new Plot(this))
    , m_map(new MapPlot(this))
    , m_ranking(new RankingView(this))
    , m_side_by_side(new SideBySide(this))
    , m_pick(new PickPanel(this))
    , m_where(new WhereView(document, this)) {
    setObjectName(QStringLiteral("answer"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(28, 18, 28, 14);
    layout->setSpacing(8);
    auto* head = new QHBoxLayout;
    m_title->setProperty("title", true);
    m_state->setProperty("soft", true);
    head->addWidget(m_title);
    head->addSpacing(12);
    head->addWidget(m_state, 1);
    layout->addLayout(head);
    m_sentence->setObjectName(QStringLiteral("sentence"));
    m_sentence->setWordWrap(true);
    m_sentence->setTextInteractionFlags(Qt::TextSelectableByMouse);
    layout->addWidget(m_sentence);
    layout->addWidget(m_figures);
    auto* tools = new QHBoxLayout(m_tools);
    tools->setContentsMargins(0, 0, 0, 0);
    m_choice->setObjectName(QStringLiteral("plot_choice"));
    m_choice->setMinimumWidth(130);
    m_choice->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    tools->addWidget(m_choice);
    m_lines->setObjectName(QStringLiteral("lines"));
    m_lines->setProperty("flat", true);
    m_lines->setCheckable(true);
    m_lines->setToolTip(tr("What the terminals see, instead of each phase by itself"));
    connect(m_lines, &QPushButton::toggled, this, [this] { show_choice(m_choice->currentIndex()); });
    tools->addWidget(m_lines);
    m_other->setObjectName(QStringLiteral("other_answer"));
    m_other->setMaximumWidth(230);
    m_other->setToolTip(tr("Lay another answer over it: of another variant, or with other inputs"));
    tools->addWidget(m_other);
    m_error->setObjectName(QStringLiteral("estimate_error"));
    m_error->setProperty("flat", true);
    m_error->setToolTip(tr("Solve once more on a coarser mesh and tell how far the figures can be off"));
    connect(m_error, &QPushButton::clicked, this, &AnswerView::error_wanted);
    tools->addWidget(m_error);
    m_beside->setObjectName(QStringLiteral("lay_beside"));
    m_beside->setProperty("flat", true);
    m_beside->setToolTip(tr("Ask the same in another way, and set both side by side"));
    m_beside->setMenu(new QMenu(m_beside));
    tools->addWidget(m_beside);
    m_heat->setObjectName(QStringLiteral("its_heat"));
    m_heat->setProperty("flat", true);
    m_heat->setToolTip(tr("Ask for the temperatures that these losses make"));
    connect(m_heat, &QPushButton::clicked, this, [this] {
        if (m_answer) Q_EMIT heat_wanted(QString::fromStdString(losses_in_words(*m_answer)));
    });
    tools->addWidget(m_heat);
    m_all->setObjectName(QStringLiteral("all_figures"));
    m_all->setProperty("flat", true);
    m_all->setCheckable(true);
    m_plots_soon->setSingleShot(true);
    connect(m_plots_soon, &QTimer::timeout, this, [this] { show_choice(m_choice->currentIndex()); });
    connect(m_all, &QPushButton::toggled, this, &AnswerView::fold_figures);
    tools->addWidget(m_all);
    m_pin->setObjectName(QStringLiteral("pin_answer"));
    m_pin->setProperty("flat", true);
    m_pin->setToolTip(tr("This answer stays in view while another is read, under one cursor"));
    connect(m_pin, &QPushButton::clicked, this, [this] {
        if (m_answer) Q_EMIT pin_wanted(m_title->text(), *m_answer);
    });
    tools->addWidget(m_pin);
    tools->addStretch();
    tools->addWidget(make_exports());
    layout->addWidget(m_tools);
    auto* pictures = new QHBoxLayout(m_pictures);
    pictures->setContentsMargins(0, 0, 0, 0);
    pictures->addWidget(m_plot, 1);
    pictures->addWidget(m_map, 1);
    pictures->addWidget(m_where);
    layout->addWidget(m_pictures, 1);
    layout->addWidget(m_ranking, 1);
    layout->addWidget(m_side_by_side, 1);
    layout->addWidget(m_pick);
    m_effort->setProperty("soft", true);
    m_effort->setWordWrap(true);
    layout->addWidget(m_effort);
    layout->addStretch(0);
    connect(m_choice, &QComboBox::currentIndexChanged, this, &AnswerView::show_choice);
    connect(m_other, &QComboBox::currentIndexChanged, this, [this] { show_choice(m_choice->currentIndex()); });
    connect(m_map, &MapPlot::picked, this, [this](double x, double y) {
        if (const auto point = m_answer ? pick(*m_answer, x, y) : std::nullopt) {
            m_map->set_picked(MapPoint{x, y});
            m_pick->show_point(*point);
        }
    });
    connect(m_pick, &PickPanel::probe_wanted, this, [this] { Q_EMIT probe_wanted(*m_pick->point()); });
    connect(m_pick, &PickPanel::check_wanted, this, [this] { Q_EMIT check_wanted(*m_pick->point()); });
}

QWidget* AnswerView::make_exports() {
    auto* row = new QHBoxLayout(m_exports);
    row->setContentsMargins(0, 0, 0, 0);
    for (const char* suffix : {"CSV", "JSON", "PNG", "SVG", "PDF"}) {
        auto* button = new QPushButton(QString::fromLatin1(suffix), m_exports);
        button->setObjectName(QStringLiteral("export:") + QString::fromLatin1(suffix).toLower());
        button->setProperty("flat", true);
        button->setToolTip(tr("Save as %1").arg(QString::fromLatin1(suffix)));
        connect(button, &QPushButton::clicked, this,
                [this, suffix] { Q_EMIT export_wanted(QString::fromLatin1(suffix).toLower()); });
        row->addWidget(button);
    }
    auto* copy = new QPushButton(tr("Copy"), m_exports);
    copy->setProperty("flat", true);
    connect(copy, &QPushButton::clicked, this, [this] {
        if (shows_scope()) return scope().strips().copy_picture();
        if (m_side_by_side->isVisible()) return m_side_by_side->copy_table();
        m_map->isVisible() ? m_map->copy_picture() : m_plot->copy_picture();
    });
    row->addWidget(copy);
    return m_exports;
}

void AnswerView::set_narrow(bool narrow) {
    m_exports->setVisible(!narrow);
}

void AnswerView::hide_all() {
    m_answer.reset();
    for (QWidget* w : std::initializer_list<QWidget*>{m_figures, m_tools, m_plot, m_map, m_ranking,
                                                      m_side_by_side, m_pick, m_where, m_pictures, m_effort})
        w->hide();
    if (m_scope) m_scope->hide();
    if (m_growing) m_growing->hide();
}

void AnswerView::show_growing(const QString& title, const std::vector<Curve>& curves) {
    if (curves.empty() || curves.front().x.size() < 2) return;
    if (!m_growing || !m_growing->isVisibleTo(this)) {
        hide_all();
        m_title->setText(title);
        m_sentence->setText(tr("What the run has so far; the answer takes its place when it has settled."));
        static_cast<QVBoxLayout*>(layout())->setStretch(layout()->count() - 1, 0);
    }
    if (!m_growing) {
        m_growing = new Strips(this);
        m_growing->setObjectName(QStringLiteral("growing"));
        auto* column = static_cast<QVBoxLayout*>(layout());
        column->insertWidget(column->indexOf(m_pick), m_growing, 1);
    }
    m_growing->show();
    m_growing->show_strips(growing_strips(curves));
}

void AnswerView::show_nothing(const QString& title, const QString& hint) {
    hide_all();
    m_title->setText(title);
    m_state->clear();
    m_sentence->setText(hint);
    static_cast<QVBoxLayout*>(layout())->setStretch(layout()->count() - 1, 1);
}

void AnswerView::show_progress(const QString& text) {
    m_state->setText(text);
}

/// Made when a run in time is first looked at: it has a field of its own to compute.
ScopeView& AnswerView::scope() {
    if (!m_scope) {
        m_scope = new ScopeView(m_document, this);
        auto* column = static_cast<QVBoxLayout*>(layout());
        column->insertWidget(column->indexOf(m_pick), m_scope, 1);
    }
    return *m_scope;
}

/// Where there are many only the large ones stand, unless all are wanted; beside the scope, not what it cost
/// either.
void AnswerView::fold_figures() {
    const bool pictured = m_choice->count() > 0; // figures alone have all the room
    const bool many = m_answer && pictured && (shows_scope() || m_answer->figures.size() > few_figures);
    const bool folded = many && !m_all->isChecked();
    m_all->setVisible(many);
    m_effort->setVisible(!(folded && shows_scope()));
    // With its two strips fewer, a period of given currents leaves the bar of losses its room.
    m_figures->set_folded(folded, !shows_scope() || m_answer->question == "load");
}

/// The one in hand stays, where it is still there.
void AnswerView::fill_others(std::vector<OtherAnswer> others) {
    const QString before = m_other->currentText();
    m_others = std::move(others);
    m_other->blockSignals(true);
    m_other->clear();
    m_other->addItem(tr("laid over: nothing"));
    for (const OtherAnswer& other : m_others) m_other->addItem(other.name);
    if (m_others.size() > 1) m_other->addItem(tr("all of them"));
    m_other->setCurrentIndex(std::max(0, m_other->findText(before)));
    m_other->blockSignals(false);
}

void AnswerView::show_answer(const QString& title, const Answer& answer, AnswerState state,
                             std::vector<OtherAnswer> others) {
    fill_others(std::move(others));
    if (m_growing) m_growing->hide();
    const bool same = m_answer && *m_answer == answer;
    // The plot in hand stays from one machine to another, and gives way to another question's first.
    const QString before =
        m_answer && m_answer->question == answer.question ? m_choice->currentText() : QString();
    m_title->setText(title);
    m_state->setText(state_word(state));
    for (QWidget* w : std::initializer_list<QWidget*>{m_figures, m_tools, m_effort}) w->show();
    static_cast<QVBoxLayout*>(layout())->setStretch(layout()->count() - 1, 0);
    m_error->setVisible(state == AnswerState::Fresh && answer.effort.solves > 0 && !answer.has_errors());
    m_answer_state = state;
    m_answer = answer;
    fill_counterparts();
    const QuestionKind* kind = find_question(answer.question);
    const bool at_a_point = kind && kind->group != "Heat" && kind->group != "Choosing";
    m_heat->setVisible(at_a_point && !losses_in_words(answer).empty());
    if (same && m_compared == !m_others.empty()) return show_choice(m_choice->currentIndex());
    m_compared = !m_others.empty();
    m_sentence->setText(QString::fromStdString(answer.sentence));
    m_figures->show_answer(answer);
    m_where->show_answer(answer);
    m_shown = in_reading_units(answer);
    m_groups = fold_lines(curve_groups(m_shown));
    m_choice->blockSignals(true);
    m_choice->clear();
    m_map->set_picked(std::nullopt);
    m_pick->clear();
    m_record = TimeRecord::of(answer);
    if (m_record) m_choice->addItem(tr("Scope"));
    for (const Map& map : answer.maps) m_choice->addItem(title_of(name_words(map.name)));
    for (const CurveGroup& group : m_groups) m_choice->addItem(title_of(spoken(group.title)));
    if (m_compared) m_choice->addItem(tr("Side by side"));
    const int kept = m_choice->findText(before);
    m_choice->setCurrentIndex(std::max(0, kept));
    m_choice->blockSignals(false);
    m_choice->setVisible(m_choice->count() > 0);
    if (m_arriving)
        m_plots_soon->start();
    else
        show_choice(m_choice->currentIndex());
    QString inputs;
    for (const std::string& words : inputs_in_words(answer))
        inputs += QStringLiteral(" · ") + QString::fromStdString(words);
    const Effort& e = answer.effort;
    const QString fields = e.unknowns > 0 ? tr("%1 fields, %2 elements (smallest angle %3°), %4 unknowns")
                                                .arg(e.solves)
                                                .arg(e.elements)
                                                .arg(e.smallest_angle, 0, 'f', 0)
                                                .arg(e.unknowns)
                                          : tr("no field had to be solved");
    const QString accuracy = e.accuracy_aimed > 0 ? tr(" (mesh to %1 %, estimated %2 %)")
                                                        .arg(100 * e.accuracy_aimed, 0, 'g', 2)
                                                        .arg(100 * e.accuracy_estimated, 0, 'g', 2)
                                                  : QString();
    m_effort->setText(tr("variant %1%2 · %3 quality%4 · %5, %6 s on %7 threads")
                          .arg(QString::fromStdString(answer.variant), inputs,
                               QString::fromStdString(answer.quality), accuracy, fields)
                          .arg(e.seconds, 0, 'f', 2)
                          .arg(e.threads));
}

void AnswerView::show_choice(int index) {
    if (!m_answer) return;
    const bool is_scope = index >= 0 && index < scopes();
    if (is_scope)
        scope().show();
    else if (m_scope)
        m_scope->hide();
    fold_figures();
    index -= scopes();
    const int maps = int(m_answer->maps.size());
    const bool is_map = index >= 0 && index < maps;
    const bool is_group = !is_scope && !is_map && index >= 0 && index - maps < int(m_groups.size());
    const bool is_ranking = is_group && m_groups[std::size_t(index - maps)].ranked;
    const bool is_table = m_compared && !is_scope && index == maps + int(m_groups.size());
    m_other->setVisible(((is_group && !is_ranking) || is_table) && !m_others.empty());
    m_lines->setVisible(is_group && !m_groups[std::size_t(index - maps)].line_names.empty());
    m_side_by_side->setVisible(is_table);
    m_figures->setVisible(!is_table);
    if (is_table) m_all->hide();
    m_where->setVisible(m_where->has_place() && !is_scope && !is_table);
    m_pictures->setVisible(!is_scope && !is_ranking && !is_table && (is_map || !m_groups.empty()));
    m_other->setItemText(0, is_table ? tr("beside: all") : tr("laid over: nothing"));
    m_map->setVisible(is_map);
    m_ranking->setVisible(is_ranking);
    m_plot->setVisible(!is_scope && !is_map && !is_ranking && !is_table && !m_groups.empty());
    m_pick->setVisible(is_map && m_answer->question == "efficiency-map" && m_answer->map("id"));
    if (is_scope)
        scope().show_record(*m_record, m_answer_state == AnswerState::Fresh);
    else if (is_map)
        show_map(m_answer->maps[std::size_t(index)]);
    else if (is_ranking)
        show_ranking(m_groups[std::size_t(index - maps)]);
    else if (is_group)
        show_group(m_groups[std::size_t(index - maps)]);
    else if (is_table)
        show_side_by_side();
}

/// What the box of other answers names; for "nothing" all of them where a table wants something to show.
std::vector<const OtherAnswer*> AnswerView::chosen_others(bool all_for_none) const {
    const int index = m_other->currentIndex();
    const bool all = index == int(m_others.size()) + 1 || (index <= 0 && all_for_none);
    std::vector<const OtherAnswer*> chosen;
    for (int k = 0; k < int(m_others.size()); ++k)
        if (all || index == k + 1) chosen.push_back(&m_others[std::size_t(k)]);
    return chosen;
}

void AnswerView::show_side_by_side() {
    std::vector<std::pair<QString, const Answer*>> columns{{tr("this answer"), &*m_answer}};
    for (const OtherAnswer* other : chosen_others(true)) columns.emplace_back(other->name, &other->answer);
    m_side_by_side->show_answers(columns);
}

void AnswerView::show_beside(const QString& name) {
    m_choice->setCurrentIndex(m_choice->findText(tr("Side by side")));
    m_other->setCurrentIndex(std::max(0, m_other->findText(name)));
}

void AnswerView::fill_counterparts() {
    QMenu* menu = m_beside->menu();
    menu->clear();
    if (m_answer && m_answer_state == AnswerState::Fresh)
        for (const Counterpart& other : counterparts(*m_answer))
            menu->addAction(spoken(other.label), this, [this, other] { Q_EMIT counterpart_wanted(other); });
    m_beside->setVisible(!menu->isEmpty());
}

/// The curves over the same two quantities belong to the map: an envelope as its bound, what is borne for good
/// or for a while as lines across it, a duty as points.
void AnswerView::show_map(const Map& map) {
    MapPlot::Over over;
    for (const Curve& c : m_answer->curves) {
        if (c.x_name != map.x_name || c.unit != map.y_unit) continue;
        if (c.name == "duty_point")
            over.marks.push_back(c);
        else if (c.name.starts_with("envelope") || c.name == "torque_drive")
            over.bounds.push_back(c);
        else if (c.name == "torque" || c.name.starts_with("torque_for_"))
            over.limits.push_back(c);
    }
    m_map->show_map(map, std::move(over));
}

/// With the slope in the figure's own unit beside the bars, where the answer has it.
void AnswerView::show_ranking(const CurveGroup& group) {
    const Curve* curve = m_answer->curve(group.names.front());
    const std::string figure = curve->name.substr(0, curve->name.rfind('_'));
    const Curve* slope = m_answer->curve(figure);
    const auto known = std::find_if(m_answer->figures.begin(), m_answer->figures.end(),
                                    [&](const Figure& f) { return f.name == figure; });
    const bool plain = known == m_answer->figures.end() || known->unit == "1";
    m_ranking->show_ranking(*curve, m_answer->curve(curve->name + "_error"),
                            slope && slope->labels == curve->labels ? slope : nullptr,
                            plain ? QString() : unit_words(known->unit));
}

void AnswerView::show_group(const CurveGroup& group) {
    m_lines->setText(QString::fromStdString(group.y_label).endsWith(QLatin1Char('A')) ? tr("Line currents")
                                                                                      : tr("Line voltages"));
    const auto& names = m_lines->isChecked() && !group.line_names.empty() ? group.line_names : group.names;
    std::vector<PlotCurve> curves = group_curves(m_shown, group, names);
    std::size_t o = 0;
    for (const OtherAnswer* other : chosen_others(false)) {
        ++o;
        for (std::size_t k = 0; k < names.size(); ++k)
            if (const Curve* c = other->answer.curve(names[k]), *own = m_shown.curve(names[k]);
                c && own && c->x_name == group.x_name) {
                const bool single = names.size() == 1;
                const QString name = single ? QString() : name_words(c->name) + QStringLiteral(" · ");
                curves.push_back({drawn_curve(in_units_of(*own, *c)), name + other->name,
                                  series_colour(single ? o : k), group.bars, true});
            }
    }
    m_plot->show_curves(curves, QString::fromStdString(group.x_label), QString::fromStdString(group.y_label));
}

bool AnswerView::export_to(const QString& file) {
    if (!m_answer) return false;
    if (file.endsWith(QStringLiteral(".csv")))
        return !write_file_atomically(file.toStdString(), answer_to_csv(*m_answer));
    if (file.endsWith(QStringLiteral(".json")))
        return !write_file_atomically(file.toStdString(), answer_to_json(*m_answer));
    if (shows_scope()) return scope().save(file);
    return m_map->isVisibleTo(this) ? m_map->save(file) : m_plot->save(file);
}

} // namespace mavlo::app
