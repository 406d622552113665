#include "weigh/trade_page.h"

#include "quantity/failure.h"
#include "weigh/figure_words.h"
#include "weigh/heading.h"
#include "weigh/study_shelf.h"

#include <QAbstractItemView>
#include <QApplication>
#include <QCompleter>
#include <QHBoxLayout>
#include <QPointer>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

/// What is wished for most often, beside the key figures.
QStringList expressions() {
    QStringList list{QStringLiteral("torque_mean / active_volume"),
                     QStringLiteral("torque_mean / mass_magnets")};
    for (const std::string& name : registry<KeyFigure>().names()) list << QString::fromStdString(name);
    return list << QStringLiteral("mass_magnets") << QStringLiteral("mass_copper")
                << QStringLiteral("mass_steel")
                << QStringLiteral("60*mass_magnets + 9*mass_copper + 1.6*mass_steel");
}

/// A chosen wish, or what was typed.
std::string chosen_expression(const QComboBox& box) {
    const int chosen = box.findText(box.currentText());
    return chosen >= 0 ? box.itemData(chosen).toString().toStdString() : expression_of(box.currentText());
}

} // namespace

TradePage::TradePage(Desk& desk, QWidget* parent)
    : QWidget(parent)
    , m_desk(desk)
    , m_free(new VaryRows(desk.document, QStringLiteral("free"), tr("low:high mm, or 1, 2, 4"),
                          VaryRows::Takes::Limits))
    , m_goal_column(new QVBoxLayout)
    , m_limits(new QLineEdit)
    , m_questions(new FigureWishes(desk.document, QStringLiteral("trade_questions")))
    , m_designs(new QSpinBox)
    , m_seed(new QSpinBox)
    , m_state(new RefusalLabel)
    , m_run(new RunButtons(desk.jobs, tr("Search"), QStringLiteral("trade")))
    , m_x(new QComboBox)
    , m_y(new QComboBox)
    , m_cloud(new Cloud)
    , m_strip(new DesignStrip)
    , m_pick(new DesignPick(desk.document, QStringLiteral("trade"), QStringLiteral("trade-off"))) {
    setObjectName(QStringLiteral("trade"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(28, 6, 28, 12);
    layout->setSpacing(24);
    layout->addWidget(make_setup());
    layout->addWidget(make_answer(), 1);
    add_goal(true, QStringLiteral("torque_mean"));
    add_goal(false, QStringLiteral("cogging_peak_to_peak"));
    connect(m_run, &RunButtons::run_wanted, this, &TradePage::run);
    connect(m_run, &RunButtons::paused, this, [this] {
        m_state->say(tr("Pausing at %1 of %2 designs.").arg(m_front.tried.size()).arg(m_trade.designs));
    });
    connect(m_state, &RefusalLabel::place_wanted, &desk, &Desk::place_wanted);
    connect(m_strip, &DesignStrip::design_picked, this, [this](std::size_t place) {
        if (place < m_order.size()) show_picked(m_order[place]);
    });
    connect(m_cloud, &Cloud::design_picked, this, &TradePage::show_picked);
    for (QComboBox* axis : {m_x, m_y})
        connect(axis, &QComboBox::currentIndexChanged, this, &TradePage::show_cloud);
}

/// Names of figures come up for what stands behind the last comma.
void TradePage::complete_limits() {
    auto* names = new QCompleter(weighed_figures(), m_limits);
    names->setCaseSensitivity(Qt::CaseInsensitive);
    names->setFilterMode(Qt::MatchContains);
    names->setWidget(m_limits);
    const auto last = [this] { return m_limits->text().lastIndexOf(QLatin1Char(',')) + 1; };
    connect(m_limits, &QLineEdit::textEdited, this, [this, names, last] {
        const QString word = m_limits->text().mid(last()).trimmed();
        names->setCompletionPrefix(word);
        if (word.size() > 1 && names->completionCount() > 0)
            names->complete();
        else
            names->popup()->hide();
    });
    connect(names, qOverload<const QString&>(&QCompleter::activated), this, [this, last](const QString& name) {
        const QString before = m_limits->text().left(last());
        m_limits->setText(before + (before.isEmpty() ? QString() : QStringLiteral(" ")) + name +
                          tr(" at most "));
    });
}

QWidget* TradePage::make_setup() {
    auto* setup = new QWidget(this);
    setup->setFixedWidth(300);
    auto* column = new QVBoxLayout(setup);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(heading(tr("Free"), setup));
    column->addWidget(m_free);
    column->addWidget(heading(tr("Wanted"), setup));
    column->addLayout(m_goal_column);
    auto* another = new QPushButton(tr("+ another"), setup);
    another->setObjectName(QStringLiteral("goal:add"));
    another->setProperty("flat", true);
    connect(another, &QPushButton::clicked, this, [this] {
        if (m_goals.size() < 4) add_goal(false, {});
    });
    column->addWidget(another, 0, Qt::AlignLeft);
    column->addWidget(heading(tr("Kept within"), setup));
    complete_limits();
    m_limits->setToolTip(
        tr("Limits with commas between, such as “slot fill at most 45 %, active mass at most 20 "
           "kg”; the names come up as they are typed."));
    m_limits->setObjectName(QStringLiteral("trade_limits"));
    m_limits->setAccessibleName(tr("Kept within"));
    m_limits->setPlaceholderText(tr("slot fill at most 45 %, …"));
    column->addWidget(m_limits);
    column->addWidget(heading(tr("To be known of each design"), setup));
    column->addWidget(m_questions);
    column->addStretch(1);
    auto* numbers = new QHBoxLayout;
    m_designs->setObjectName(QStringLiteral("trade_designs"));
    m_designs->setRange(2, 100000);
    m_designs->setAccessibleName(tr("Designs to try"));
    m_designs->setValue(100);
    m_designs->setSuffix(tr(" designs"));
    m_seed->setObjectName(QStringLiteral("trade_seed"));
    m_seed->setRange(0, 999999);
    m_seed->setAccessibleName(tr("Seed: the same one gives the same designs"));
    m_seed->setValue(1);
    m_seed->setPrefix(tr("seed "));
    numbers->addWidget(m_designs, 1);
    numbers->addWidget(m_seed, 1);
    column->addLayout(numbers);
    column->addWidget(m_run);
    return setup;
}

QWidget* TradePage::make_answer() {
    auto* answer = new QWidget(this);
    auto* column = new QVBoxLayout(answer);
    column->setContentsMargins(0, 0, 0, 0);
    m_state->setObjectName(QStringLiteral("trade_state"));
    m_state->say(tr("Say what is free and what is wanted; the front grows as it runs."));
    column->addWidget(m_state);
    auto* axes = new QHBoxLayout;
    m_y->setObjectName(QStringLiteral("trade_y"));
    m_y->setAccessibleName(tr("Goal drawn upwards"));
    m_x->setAccessibleName(tr("Goal drawn to the right"));
    m_x->setObjectName(QStringLiteral("trade_x"));
    for (QComboBox* axis : {m_x, m_y}) {
        axis->setMinimumWidth(180);
        axis->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    }
    axes->addWidget(m_y);
    axes->addWidget(heading(tr("over"), answer));
    axes->addWidget(m_x);
    axes->addStretch();
    column->addLayout(axes);
    m_cloud->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    column->addWidget(m_cloud, 1);
    m_strip->hide();
    column->addWidget(m_strip);
    column->addWidget(m_pick);
    return answer;
}

void TradePage::add_goal(bool more, const QString& expression) {
    auto* line = new QHBoxLayout;
    auto* sense = new QComboBox(this);
    sense->addItems({tr("more"), tr("less")});
    sense->setCurrentIndex(more ? 0 : 1);
    sense->setAccessibleName(tr("More or less of the goal"));
    sense->setObjectName(QStringLiteral("goal_sense:%1").arg(m_goals.size()));
    auto* box = new QComboBox(this);
    box->setObjectName(QStringLiteral("goal:%1").arg(m_goals.size()));
    box->setEditable(true);
    box->setInsertPolicy(QComboBox::NoInsert);
    box->setAccessibleName(tr("Goal"));
    box->setMinimumWidth(120);
    for (const QString& wish : expressions()) box->addItem(expression_words(wish.toStdString()), wish);
    box->setCurrentIndex(box->findData(expression));
    box->lineEdit()->setPlaceholderText(tr("figure or expression"));
    line->addWidget(sense);
    line->addWidget(box, 1);
    m_goal_column->addLayout(line);
    m_goals.push_back({sense, box});
}

Result<TradeOff> TradePage::trade_off() const {
    TradeOff trade;
    trade.base = ask_of(m_desk.document.project(), m_desk.document.variant(), Quality::Normal);
    auto free = m_free->variations();
    if (!free) return free.problems();
    trade.free = std::move(*free);
    for (const GoalRow& row : m_goals)
        if (const std::string wanted = chosen_expression(*row.expression); !wanted.empty())
            trade.goals.push_back({wanted, row.sense->currentIndex() == 0});
    for (const QString& text : m_limits->text().split(',', Qt::SkipEmptyParts)) {
        const auto limit = limit_of(text);
        if (!limit) return limit.problems();
        auto bound = trade_limit(*limit);
        if (!bound) return bound.problems();
        trade.limits.push_back(std::move(*bound));
    }
    trade.questions = m_questions->chosen();
    trade.designs = m_designs->value();
    trade.seed = unsigned(m_seed->value());
    if (auto problems = check(trade); !problems.empty()) return problems;
    return trade;
}

void TradePage::run() {
    auto trade = trade_off();
    if (!trade) return m_state->show_problem(trade.problems().front());
    m_trade = std::move(*trade);
    m_front = {};
    fill_axes();
    const auto shelf = shelf_of(m_desk.document.answers());
    const PointStore points(m_desk.document.answers().folder());
    auto result = std::make_shared<std::optional<Result<TradeFront>>>();
    m_job = m_desk.jobs.submit(
        tr("trade-off"),
        // The page may go while this works on: it is looked for again in its own thread.
        [page = QPointer<TradePage>(this), wanted = m_trade, shelf, points, result](const Watch& watch) {
            const auto found = [page](const TradeFront& front) {
                QMetaObject::invokeMethod(
                    qApp,
                    [page, front] {
                        if (page) page->show_front(front);
                    },
                    Qt::QueuedConnection);
            };
            *result = guarded([&] { return run_trade_off(wanted, shelf, study_run(watch, points), found); });
        },
        [this, result] { finished(*result ? **result : Result<TradeFront>(stopped())); });
    m_run->follow(m_job);
    m_state->say(tr("Searching …"));
}

void TradePage::show_front(const TradeFront& front) {
    const bool moved = front.front != m_front.front;
    m_front = front;
    if (moved) fill_strip();
    m_state->say(tr("%1 of %2 designs tried, %3 on the front.")
                     .arg(front.tried.size())
                     .arg(m_trade.designs)
                     .arg(front.front.size()));
    show_cloud();
}

void TradePage::finished(const Result<TradeFront>& result) {
    m_job = 0;
    m_run->ended();
    if (result) {
        show_front(*result);
        m_state->say(expression_words(gain_over_base(m_trade, *result)));
    } else if (is_stopped(result.problems())) {
        m_state->say(
            tr("Stopped after %1 designs; searching again goes on from there.").arg(m_front.tried.size()));
    } else {
        m_state->show_problem(result.problems().front());
    }
}

void TradePage::fill_axes() {
    for (QComboBox* axis : {m_x, m_y}) {
        axis->blockSignals(true);
        axis->clear();
        for (const TradeGoal& goal : m_trade.goals) axis->addItem(expression_words(goal.expression));
        axis->blockSignals(false);
    }
    m_y->setCurrentIndex(0);
    m_x->setCurrentIndex(m_trade.goals.size() > 1 ? 1 : 0);
    show_cloud();
}

void TradePage::show_cloud() {
    const int x = m_x->currentIndex(), y = m_y->currentIndex();
    if (x < 0 || y < 0) return;
    std::vector<CloudPoint> points;
    for (std::size_t i = 0; i < m_front.tried.size(); ++i) {
        const TradedDesign& d = m_front.tried[i];
        if (!d.problem.empty()) continue;
        const bool on = std::find(m_front.front.begin(), m_front.front.end(), i) != m_front.front.end();
        points.push_back({d.goals[std::size_t(x)], d.goals[std::size_t(y)], i, on, d.within, i == 0});
    }
    const auto words = [](const QComboBox* axis, const TradeOff& trade) {
        const bool more = trade.goals[std::size_t(axis->currentIndex())].more;
        return axis->currentText() + (more ? tr("  (more is better)") : tr("  (less is better)"));
    };
    m_cloud->show_points(std::move(points), words(m_x, m_trade), words(m_y, m_trade));
}

/// The front's designs, in the order of the first goal.
void TradePage::fill_strip() {
    m_order = m_front.front;
    std::sort(m_order.begin(), m_order.end(), [&](std::size_t a, std::size_t b) {
        return m_front.tried[a].goals.front() < m_front.tried[b].goals.front();
    });
    std::vector<StripDesign> list;
    for (const std::size_t index : m_order) {
        const TradedDesign& traded = m_front.tried[index];
        const auto design = traded_design(m_trade, traded);
        QStringList goals;
        for (double goal : traded.goals) goals << QString::number(goal, 'g', 3);
        list.push_back({design ? *design : m_trade.base.design, goals.join(QStringLiteral(" · ")), index == 0});
    }
    m_strip->show_designs(m_desk.document.project(), std::move(list));
}

void TradePage::show_picked(std::size_t index) {
    const TradedDesign& d = m_front.tried[index];
    const auto design = traded_design(m_trade, d);
    if (!design) return;
    m_cloud->pick(index);
    const auto place = std::find(m_order.begin(), m_order.end(), index);
    m_strip->pick(place == m_order.end() ? std::nullopt : std::optional(std::size_t(place - m_order.begin())));
    QStringList lines;
    for (std::size_t g = 0; g < m_trade.goals.size(); ++g) {
        const double base = m_front.tried.front().goals[g];
        QString line = QStringLiteral("%1: %2")
                           .arg(expression_words(m_trade.goals[g].expression))
                           .arg(d.goals[g], 0, 'g', 5);
        if (index > 0 && base != 0)
            line += tr("  (%1%2 % against the base)")
                        .arg(d.goals[g] >= base ? "+" : "−")
                        .arg(100 * std::abs(d.goals[g] / base - 1), 0, 'f', 1);
        lines << line;
    }
    m_pick->show_design(*design, lines);
}

} // namespace mavlo::app
