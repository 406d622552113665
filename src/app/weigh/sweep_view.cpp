#include "weigh/sweep_view.h"

#include "figure/palette.h"
#include "plot/plot_words.h"
#include "quantity/quantity.h"
#include "question/figure_names.h"
#include "shell/file_to_write.h"
#include "shell/spoken.h"
#include "shell/theme.h"
#include "storage/file.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <algorithm>
#include <cmath>
#include <limits>
#include <set>

namespace mavlo::app {
namespace {

enum Kind { Family, OverVaried, Pair, AsMap, Listed };

/// From one end of the field's colours to the other, without the palest that paper swallows.
QColor shade(double share) {
    const Rgb c = field_colour(0.2 + 0.75 * share);
    return {c.r, c.g, c.b};
}

/// "load.torque_mean" where several questions have it.
QString label_of(const std::string& column) {
    const auto dot = column.rfind('.');
    const QString label = spoken(figure_name(dot == std::string::npos ? column : column.substr(dot + 1)).label);
    return dot == std::string::npos ? label
                                    : label + QStringLiteral(" (%1)").arg(column.substr(0, dot).c_str());
}

QString words_of(const StudyTable::Column& column) {
    const QString label = label_of(column.name);
    return column.unit == "1" || column.unit.empty() ? label : label + ", " + unit_words(column.unit);
}

} // namespace

SweepView::SweepView(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_tools(new QWidget(this))
    , m_kind(new QComboBox(this))
    , m_what(new QComboBox(this))
    , m_against(new QComboBox(this))
    , m_stack(new QStackedWidget(this))
    , m_offer(new VaryOffer(document, this))
    , m_hint(new QLabel(this))
    , m_plot(new Plot(this))
    , m_map(new MapPlot(this))
    , m_list(new QTableWidget(this))
    , m_strip(new DesignStrip(this))
    , m_pick(new DesignPick(document, QStringLiteral("sweep"), QStringLiteral("sweep"), this)) {
    setObjectName(QStringLiteral("sweep_view"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* tools = new QHBoxLayout(m_tools);
    tools->setContentsMargins(0, 0, 0, 0);
    m_tools->hide();
    m_kind->setObjectName(QStringLiteral("sweep_kind"));
    m_kind->addItems({tr("Family of curves"), tr("Figure over what varies"), tr("Figure against figure"),
                      tr("Map over two"), tr("Table")});
    m_what->setObjectName(QStringLiteral("sweep_what"));
    m_against->setObjectName(QStringLiteral("sweep_against"));
    for (QComboBox* box : {m_what, m_against}) {
        box->setMinimumContentsLength(11);
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        box->setMaximumWidth(260);
    }
    tools->addWidget(m_kind);
    tools->addWidget(m_what, 1);
    tools->addWidget(m_against, 1);
    tools->addStretch(1);
    for (const char* suffix : {"CSV", "HDF5", "PNG", "SVG"}) {
        auto* button = new QPushButton(QString::fromLatin1(suffix), this);
        button->setObjectName(QStringLiteral("sweep_export:") + QString::fromLatin1(suffix).toLower());
        button->setProperty("flat", true);
        connect(button, &QPushButton::clicked, this, [this, suffix] {
            save_as(suffix == std::string("HDF5") ? "h5" : QString::fromLatin1(suffix).toLower());
        });
        tools->addWidget(button);
    }
    layout->addWidget(m_tools);
    m_stack->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    m_stack->setMinimumHeight(200);
    layout->addWidget(m_stack, 1);
    m_strip->hide();
    layout->addWidget(m_strip);
    layout->addWidget(m_pick);
    m_hint->setAlignment(Qt::AlignCenter);
    m_hint->setProperty("soft", true);
    m_plot->setObjectName(QStringLiteral("sweep_plot"));
    m_map->setObjectName(QStringLiteral("sweep_map"));
    m_list->setObjectName(QStringLiteral("sweep_table"));
    m_list->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_list->verticalHeader()->hide();
    connect(m_offer, &VaryOffer::vary_wanted, this, &SweepView::vary_wanted);
    for (QWidget* page : std::initializer_list<QWidget*>{m_offer, m_hint, m_plot, m_map, m_list})
        m_stack->addWidget(page);
    connect(m_kind, &QComboBox::currentIndexChanged, this, &SweepView::fill_choices);
    connect(m_what, &QComboBox::currentIndexChanged, this, &SweepView::show_choice);
    connect(m_against, &QComboBox::currentIndexChanged, this, &SweepView::show_choice);
    connect(m_strip, &DesignStrip::design_picked, this, &SweepView::pick);
    connect(m_plot, &Plot::picked, this, &SweepView::pick);
    connect(m_list, &QTableWidget::cellClicked, this, [this](int row) { pick(std::size_t(row)); });
    connect(m_map, &MapPlot::picked, this, [this](double x, double y) {
        if (const auto row = nearest_design(x, y)) pick(*row);
    });
}

void SweepView::show_study(const Study& study, std::vector<StudyRow> rows, std::vector<std::string> wished) {
    m_study = study;
    m_rows = std::move(rows);
    m_table = study_table(m_study, m_rows, {});
    m_wished = std::move(wished);
    m_tools->show();
    show_designs();
    fill_table();
    const bool curves = std::any_of(m_rows.begin(), m_rows.end(), [](const StudyRow& row) {
        return std::any_of(row.answers.begin(), row.answers.end(),
                           [](const auto& a) { return a && !a->curves.empty(); });
    });
    if (!curves && m_kind->currentIndex() == Family) m_kind->setCurrentIndex(OverVaried);
    fill_choices();
}

void SweepView::show_designs() {
    std::vector<StripDesign> list;
    for (std::size_t r = 0; r < m_table.designs.size(); ++r)
        if (const auto design = study_design(m_study, m_table.designs[r]))
            list.push_back({*design, settings_words(r), *design == m_study.base.design});
        else
            list.push_back({m_study.base.design, tr("cannot be built"), false});
    m_strip->show_designs(m_document.project(), std::move(list));
    m_pick->hide();
}

QStringList SweepView::figures_of(std::size_t row) const {
    QStringList lines;
    for (const auto& c : m_table.columns) {
        const bool wanted = m_wished.empty() ? lines.size() < 4 : is_wished(c);
        if (!c.texts.empty() || !wanted) continue;
        const auto value = c.numbers[row];
        lines << QStringLiteral("%1: %2 %3")
                     .arg(label_of(c.name), value ? QString::number(*value, 'g', 4) : QStringLiteral("–"),
                          c.unit == "1" ? QString() : unit_words(c.unit));
    }
    return lines;
}

/// In hand everywhere at once: on the strip, in the plot, with its section and what differs.
void SweepView::pick(std::size_t row) {
    if (row >= m_table.designs.size()) return;
    m_strip->pick(row);
    if (const auto design = study_design(m_study, m_table.designs[row]))
        m_pick->show_design(*design, figures_of(row));
    show_choice();
}

std::optional<std::size_t> SweepView::nearest_design(double x, double y) const {
    std::optional<std::size_t> best;
    double least = 0;
    const auto span = [&](std::size_t path) {
        const auto [low, most] = varied_range(path);
        return most > low ? most - low : 1;
    };
    const double wide = span(0), high = span(1);
    for (std::size_t r = 0; r < m_table.designs.size(); ++r) {
        const double far = std::hypot((varied(r, 0) - x) / wide, (varied(r, 1) - y) / high);
        if (!best || far < least) best = r, least = far;
    }
    return best;
}

std::pair<double, double> SweepView::varied_range(std::size_t path) const {
    double low = std::numeric_limits<double>::max(), high = -low;
    for (std::size_t r = 0; r < m_table.designs.size(); ++r)
        low = std::min(low, varied(r, path)), high = std::max(high, varied(r, path));
    return {low, high};
}

PlotCurve SweepView::picked_point(double x, double y) const {
    PlotCurve point;
    point.curve.x = {x};
    point.curve.y = {y};
    point.name = tr("in hand");
    point.colour = theme().accent;
    point.points = point.strong = true;
    point.listed = false;
    return point;
}

const StudyTable::Column* SweepView::column(const QString& name) const {
    for (const auto& c : m_table.columns)
        if (c.name == name.toStdString()) return &c;
    return nullptr;
}

double SweepView::varied(std::size_t row, std::size_t path) const {
    const std::string& text = m_study.settings[m_table.designs[row]][path];
    const Parameter* p = find_parameter(m_study.paths[path], m_study.base.design);
    const auto quantity = p && !p->is_word() ? parse_quantity(text) : Result<Quantity>(Problem{});
    if (quantity) {
        const Unit* unit = p->unit.empty() ? nullptr : find_unit(p->unit);
        return unit && !quantity->dimension.plain() ? to_unit(quantity->si, *unit) : quantity->si;
    }
    // A word or a formula stands at its place among the others.
    std::vector<std::string> seen;
    for (const auto& setting : m_study.settings)
        if (std::find(seen.begin(), seen.end(), setting[path]) == seen.end()) seen.push_back(setting[path]);
    return double(std::find(seen.begin(), seen.end(), text) - seen.begin());
}

QString SweepView::varied_words(std::size_t path) const {
    const Parameter* p = find_parameter(m_study.paths[path], m_study.base.design);
    if (!p) return QString::fromStdString(m_study.paths[path]);
    return QString::fromStdString(p->unit.empty() ? p->label : p->label + ", ") + unit_words(p->unit);
}

QString SweepView::settings_words(std::size_t row) const {
    QStringList words;
    for (const std::string& text : m_study.settings[m_table.designs[row]])
        words << QString::fromStdString(text);
    return words.join(QStringLiteral(", "));
}

bool SweepView::is_wished(const StudyTable::Column& column) const {
    const std::string own = column.name.substr(column.name.rfind('.') + 1);
    return std::find(m_wished.begin(), m_wished.end(), own) != m_wished.end();
}

void SweepView::add_figures(QComboBox& box) const {
    for (bool wished : {true, false})
        for (const auto& c : m_table.columns)
            if (c.texts.empty() && is_wished(c) == wished)
                box.addItem(label_of(c.name), QString::fromStdString(c.name));
}

void SweepView::fill_choices() {
    const int kind = m_kind->currentIndex();
    const QString before = m_what->currentData().toString(), against = m_against->currentData().toString();
    for (QComboBox* box : {m_what, m_against}) {
        box->blockSignals(true);
        box->clear();
    }
    std::set<QString> seen;
    if (kind == Family) {
        for (std::size_t q = 0; q < m_study.questions.size(); ++q)
            for (const StudyRow& row : m_rows)
                if (q < row.answers.size() && row.answers[q])
                    for (const Curve& c : row.answers[q]->curves)
                        if (c.labels.empty())
                            if (const QString key =
                                    QStringLiteral("%1/%2/%3").arg(q).arg(c.name.c_str(), c.x_name.c_str());
                                seen.insert(key).second)
                                m_what->addItem(name_words(c.name) + tr(" over ") + name_words(c.x_name), key);
    } else {
        add_figures(*m_what);
    }
    if (kind == OverVaried)
        for (std::size_t k = 0; k < m_study.paths.size(); ++k) m_against->addItem(varied_words(k), int(k));
    if (kind == Pair) add_figures(*m_against);
    m_what->setCurrentIndex(std::max(0, m_what->findData(before)));
    m_against->setCurrentIndex(std::max(0, m_against->findData(against)));
    m_what->setVisible(kind != Listed);
    m_against->setVisible(kind == OverVaried || kind == Pair);
    for (QComboBox* box : {m_what, m_against}) box->blockSignals(false);
    show_choice();
}

void SweepView::show_choice() {
    if (m_rows.empty()) return m_stack->setCurrentWidget(m_offer);
    switch (m_kind->currentIndex()) {
    case Family:
        return show_family();
    case OverVaried:
        return show_figure();
    case Pair:
        return show_pair();
    case AsMap:
        return show_map();
    default:
        m_stack->setCurrentWidget(m_list);
    }
}

/// Coloured by the first varied value, so that the order is seen without reading.
void SweepView::show_family() {
    const auto parts = m_what->currentData().toString().split('/');
    if (parts.size() != 3) {
        m_hint->setText(tr("What was asked has no curves; look at figures over what varies."));
        return m_stack->setCurrentWidget(m_hint);
    }
    const auto q = parts[0].toUInt();
    const auto [low, high] = varied_range(0);
    std::vector<PlotCurve> curves;
    for (std::size_t r = 0; r < m_table.designs.size(); ++r) {
        const auto& answer = m_rows[m_table.designs[r]].answers[q];
        if (!answer) continue;
        for (const Curve& c : answer->curves)
            if (c.name == parts[1].toStdString() && c.x_name == parts[2].toStdString())
                curves.push_back({c,
                                  settings_words(r),
                                  shade(high > low ? (varied(r, 0) - low) / (high - low) : 0.5),
                                  c.x_name.ends_with("_order"),
                                  false,
                                  false,
                                  m_table.designs.size() <= 12,
                                  m_strip->picked() == r,
                                  {r}});
    }
    if (curves.empty()) return;
    const Curve first = curves.front().curve;
    m_plot->show_curves(curves, name_words(first.x_name) + ", " + unit_words(first.x_unit),
                        unit_words(first.unit));
    m_stack->setCurrentWidget(m_plot);
}

/// A line for each value of what else varies.
void SweepView::show_figure() {
    const StudyTable::Column* figure = column(m_what->currentData().toString());
    if (!figure) return m_stack->setCurrentWidget(m_hint);
    const auto path = std::size_t(std::max(0, m_against->currentData().toInt()));
    std::map<std::vector<std::string>, std::pair<Curve, std::vector<std::size_t>>> lines;
    std::optional<PlotCurve> picked;
    for (std::size_t r = 0; r < m_table.designs.size(); ++r) {
        if (!figure->numbers[r]) continue;
        if (m_strip->picked() == r) picked = picked_point(varied(r, path), *figure->numbers[r]);
        std::vector<std::string> others = m_study.settings[m_table.designs[r]];
        others.erase(others.begin() + std::ptrdiff_t(path));
        auto& [line, designs] = lines[others];
        line.x.push_back(varied(r, path));
        line.y.push_back(*figure->numbers[r]);
        designs.push_back(r);
    }
    std::vector<PlotCurve> curves;
    for (auto& [others, traced] : lines) {
        const auto& [line, designs] = traced;
        std::vector<std::size_t> order(line.x.size());
        for (std::size_t k = 0; k < order.size(); ++k) order[k] = k;
        std::sort(order.begin(), order.end(), [&](auto a, auto b) { return line.x[a] < line.x[b]; });
        Curve sorted = line;
        std::vector<std::size_t> keys = designs;
        for (std::size_t k = 0; k < order.size(); ++k)
            sorted.x[k] = line.x[order[k]], sorted.y[k] = line.y[order[k]], keys[k] = designs[order[k]];
        QStringList words;
        for (const std::string& text : others) words << QString::fromStdString(text);
        const double share = lines.size() > 1 ? double(curves.size()) / double(lines.size() - 1) : 0.5;
        const bool lone = sorted.x.size() < 2 || lines.size() > 12;
        curves.push_back({sorted, words.isEmpty() ? label_of(figure->name) : words.join(QStringLiteral(", ")),
                          shade(share), false, false, lone, !lone, false, keys});
    }
    if (picked) curves.push_back(*picked);
    m_plot->show_curves(curves, varied_words(path), words_of(*figure));
    m_stack->setCurrentWidget(m_plot);
}

void SweepView::show_pair() {
    const StudyTable::Column *y = column(m_what->currentData().toString()),
                             *x = column(m_against->currentData().toString());
    if (!x || !y) return m_stack->setCurrentWidget(m_hint);
    PlotCurve points{{}, tr("designs"), theme().accent, false, false, true, false, false, {}};
    std::vector<PlotCurve> curves;
    for (std::size_t r = 0; r < m_table.designs.size(); ++r)
        if (x->numbers[r] && y->numbers[r]) {
            points.curve.x.push_back(*x->numbers[r]);
            points.curve.y.push_back(*y->numbers[r]);
            points.keys.push_back(r);
            if (m_strip->picked() == r) curves.push_back(picked_point(*x->numbers[r], *y->numbers[r]));
        }
    curves.insert(curves.begin(), points);
    m_plot->show_curves(curves, words_of(*x), words_of(*y));
    m_stack->setCurrentWidget(m_plot);
}

void SweepView::show_map() {
    const StudyTable::Column* figure = column(m_what->currentData().toString());
    if (!figure || m_study.paths.size() < 2) {
        m_hint->setText(tr("A map needs two parameters that vary, every value with every other."));
        return m_stack->setCurrentWidget(m_hint);
    }
    std::set<double> xs, ys;
    for (std::size_t r = 0; r < m_table.designs.size(); ++r) xs.insert(varied(r, 0)), ys.insert(varied(r, 1));
    Map map{figure->name,
            figure->unit,
            varied_words(0).toStdString(),
            "1",
            varied_words(1).toStdString(),
            "1",
            {},
            {},
            {}};
    map.x.assign(xs.begin(), xs.end());
    map.y.assign(ys.begin(), ys.end());
    map.z.assign(map.y.size(), std::vector<double>(map.x.size(), std::nan("")));
    for (std::size_t r = 0; r < m_table.designs.size(); ++r)
        if (figure->numbers[r])
            map.z[std::size_t(std::distance(ys.begin(), ys.find(varied(r, 1))))]
                 [std::size_t(std::distance(xs.begin(), xs.find(varied(r, 0))))] = *figure->numbers[r];
    if (map.x.size() < 2 || map.y.size() < 2) {
        m_hint->setText(tr("A map needs two values at least of each parameter."));
        return m_stack->setCurrentWidget(m_hint);
    }
    m_map->show_map(map, {});
    m_stack->setCurrentWidget(m_map);
}

void SweepView::fill_table() {
    m_list->clear();
    m_list->setColumnCount(int(m_table.columns.size()) + 1);
    m_list->setRowCount(int(m_table.designs.size()));
    QStringList heads;
    for (const auto& c : m_table.columns)
        heads << (c.texts.empty() ? words_of(c) : varied_words(std::size_t(heads.size())));
    m_list->setHorizontalHeaderLabels(heads << tr("problem"));
    for (int r = 0; r < m_list->rowCount(); ++r) {
        for (int k = 0; k < int(m_table.columns.size()); ++k) {
            const auto& c = m_table.columns[std::size_t(k)];
            const QString text = !c.texts.empty() ? QString::fromStdString(c.texts[std::size_t(r)])
                                 : c.numbers[std::size_t(r)]
                                     ? QString::number(*c.numbers[std::size_t(r)], 'g', 5)
                                     : QStringLiteral("–");
            auto* item = new QTableWidgetItem(text);
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            m_list->setItem(r, k, item);
        }
        m_list->setItem(r, m_list->columnCount() - 1,
                        new QTableWidgetItem(QString::fromStdString(m_table.problems[std::size_t(r)])));
    }
    m_list->resizeColumnsToContents();
}

bool SweepView::export_to(const QString& file) {
    const std::string name = file.toStdString();
    if (name.ends_with(".csv")) return !write_file_atomically(name, study_to_csv(m_table));
    if (name.ends_with(".h5")) return !write_study_h5(m_table, m_study, m_rows, name);
    return m_stack->currentWidget() == m_map ? m_map->save(file) : m_plot->save(file);
}

void SweepView::save_as(const QString& suffix) {
    if (m_rows.empty()) return;
    const QString file = file_to_write(this, tr("Save"), {}, suffix);
    if (file.isEmpty()) return;
    if (!export_to(file))
        m_hint->setText(tr("%1 cannot be written; check the folder and the free space.").arg(file));
}

} // namespace mavlo::app
