#include "materials/bh_page.h"

#include "quantity/quantity.h"
#include "shell/theme.h"

#include <QHBoxLayout>
#include <QInputDialog>
#include <QVBoxLayout>
#include <cmath>

namespace mavlo::app {
namespace {

enum Scale { Linear, Logarithmic, Permeability };

/// B over H, or mu_r over B.
Curve curve_of(const std::vector<BhPoint>& points, int scale) {
    Curve curve;
    if (scale == Permeability) {
        curve = {"mu_r", "1", "flux_density", "T", {}, {}};
        for (const BhPoint& p : points)
            if (p.h > 0) curve.x.push_back(p.b), curve.y.push_back(p.b / p.h / mu0);
        return curve;
    }
    curve = {"flux_density", "T", "field_strength", "A/m", {}, {}};
    for (const BhPoint& p : points)
        if (p.h > 0 || scale == Linear) curve.x.push_back(p.h), curve.y.push_back(p.b);
    return curve;
}

/// The curve that the field is computed with, between and beyond its points.
std::vector<BhPoint> used_curve(const std::vector<BhPoint>& points) {
    const auto curve = BhCurve::through(points);
    if (!curve) return {};
    std::vector<BhPoint> fine;
    const double last = points.back().b * 1.06;
    for (int i = 0; i <= 600; ++i) {
        const double b = last * i / 600;
        fine.push_back({curve->at(b).h, b});
    }
    return fine;
}

std::vector<std::vector<double>> rows_of(const std::vector<BhPoint>& points) {
    std::vector<std::vector<double>> rows;
    for (const BhPoint& p : points) rows.push_back({p.h, p.b});
    return rows;
}

} // namespace

BhPage::BhPage(MaterialInHand& hand, QWidget* parent)
    : QWidget(parent)
    , m_hand(hand)
    , m_plot(new Plot(this))
    , m_scale(new QComboBox(this))
    , m_h_unit(new QComboBox(this))
    , m_b_unit(new QComboBox(this))
    , m_meaning(new QComboBox(this))
    , m_temperature(new QComboBox(this))
    , m_mend(new QPushButton(tr("Mend"), this))
    , m_take(new QPushButton(tr("Take this curve"), this))
    , m_drop(new QPushButton(tr("Drop"), this))
    , m_source(new TableSource(tr("Paste table"), tr("Open table …"), QStringLiteral("bh"), this))
    , m_table(new NumberTable({tr("H in A/m"), tr("B in T")}, this))
    , m_findings(new FindingList(this)) {
    setObjectName(QStringLiteral("bh_page"));
    m_scale->addItems({tr("B over H"), tr("B over log H"), tr("µr over B")});
    m_scale->setCurrentIndex(Logarithmic);
    m_h_unit->addItems(
        {QStringLiteral("A/m"), QStringLiteral("kA/m"), QStringLiteral("Oe"), QStringLiteral("kOe")});
    m_b_unit->addItems({QStringLiteral("T"), QStringLiteral("mT"), QStringLiteral("G"), QStringLiteral("kG")});
    m_meaning->addItems({tr("H, then B"), tr("H, then J"), tr("B, then H"), tr("J, then H")});
    m_meaning->setToolTip(tr("Order of the columns; B is the flux density, J = B − µ0 H the polarisation"));
    m_mend->setCheckable(true);
    m_take->setProperty("main", true);
    const std::pair<QWidget*, const char*> named[] = {{m_scale, "bh_scale"},
                                                      {m_h_unit, "bh_h_unit"},
                                                      {m_b_unit, "bh_b_unit"},
                                                      {m_meaning, "bh_meaning"},
                                                      {m_temperature, "bh_temperature"},
                                                      {m_mend, "bh_mend"},
                                                      {m_take, "bh_take"},
                                                      {m_drop, "bh_drop"},
                                                      {m_table, "bh_table"},
                                                      {m_findings, "bh_findings"}};
    for (const auto& [widget, name] : named) widget->setObjectName(QLatin1String(name));

    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 8, 0, 0);
    auto* left = new QVBoxLayout;
    auto* over = new QHBoxLayout;
    over->addWidget(m_scale);
    over->addWidget(m_temperature);
    over->addStretch(1);
    left->addLayout(over);
    left->addWidget(m_plot, 1);
    layout->addLayout(left, 1);
    auto* side = new QVBoxLayout;
    side->addWidget(m_source);
    auto* units = new QHBoxLayout;
    for (QComboBox* box : {m_meaning, m_h_unit, m_b_unit}) units->addWidget(box);
    side->addLayout(units);
    m_table->setFixedWidth(material_side_width);
    side->addWidget(m_table, 3);
    m_findings->setFixedWidth(material_side_width);
    side->addWidget(m_findings, 2);
    auto* ends = new QHBoxLayout;
    ends->addWidget(m_mend);
    ends->addWidget(m_drop);
    ends->addStretch(1);
    ends->addWidget(m_take);
    side->addLayout(ends);
    layout->addLayout(side);

    connect(m_scale, &QComboBox::currentIndexChanged, this, &BhPage::draw);
    connect(m_temperature, &QComboBox::activated, this, [this](int index) {
        if (index + 1 == m_temperature->count() && m_hand.is_own()) {
            bool good = false;
            const double celsius = QInputDialog::getDouble(this, tr("Curve at another temperature"),
                                                           tr("Temperature of the curve that follows, °C:"),
                                                           100, -200, 1000, 1, &good);
            const QString text = QString::number(celsius) + tr(" °C");
            if (good && m_temperature->findText(text) < 0) {
                m_temperature->insertItem(index, text, celsius + 273.15);
                m_temperature->setCurrentIndex(index);
            } else {
                m_temperature->setCurrentIndex(std::max(0, m_temperature->findText(text)));
            }
        }
        drop_draft();
    });
    for (QComboBox* box : {m_h_unit, m_b_unit, m_meaning})
        connect(box, &QComboBox::activated, this, &BhPage::columns_changed);
    connect(m_source, &TableSource::given, this, &BhPage::paste);
    connect(m_source, &TableSource::failed, this,
            [this](const QString& sentence) { m_findings->show_findings({}, {sentence.toStdString()}); });
    connect(m_table, &NumberTable::pasted, this, &BhPage::paste);
    connect(m_table, &NumberTable::edited, this, &BhPage::take_rows);
    connect(m_table, &NumberTable::wrong_number, this,
            [this](const QString& text) { m_findings->show_findings({}, {text.toStdString()}); });
    connect(m_findings, &FindingList::row_wanted, m_table, &NumberTable::go_to);
    connect(m_mend, &QPushButton::toggled, this, &BhPage::mend);
    connect(m_take, &QPushButton::clicked, this, &BhPage::take);
    connect(m_drop, &QPushButton::clicked, this, &BhPage::drop_draft);
    connect(&hand, &MaterialInHand::changed, this, &BhPage::refresh);
    refresh();
}

double BhPage::warm_kelvin() const {
    const QVariant kelvin = m_temperature->currentData();
    return kelvin.isValid() ? kelvin.toDouble() : reference_temperature;
}

std::vector<BhPoint> BhPage::points() const {
    if (m_draft) return m_draft->points;
    const Material* material = m_hand.material();
    if (!material) return {};
    for (const auto& [kelvin, curve] : material->warm_curves)
        if (std::abs(kelvin - warm_kelvin()) < 0.01) return curve.points();
    return std::abs(warm_kelvin() - reference_temperature) < 0.01 ? material->curve.points()
                                                                  : std::vector<BhPoint>{};
}

void BhPage::fill_temperatures() {
    const double before = m_temperature->count() ? warm_kelvin() : reference_temperature;
    const bool same = m_shown == m_hand.name();
    m_temperature->clear();
    m_temperature->addItem(tr("20 °C"), reference_temperature);
    for (const auto& [kelvin, curve] : m_hand.material()->warm_curves)
        m_temperature->addItem(QString::number(kelvin - 273.15, 'g', 5) + tr(" °C"), kelvin);
    if (m_hand.is_own()) m_temperature->addItem(tr("another temperature …"));
    for (int i = 0; same && i < m_temperature->count(); ++i)
        if (m_temperature->itemData(i).isValid() &&
            std::abs(m_temperature->itemData(i).toDouble() - before) < 0.01)
            m_temperature->setCurrentIndex(i);
}

void BhPage::refresh() {
    const Material* material = m_hand.material();
    if (!material || material->kind != MaterialKind::Steel) return;
    if (m_shown != m_hand.name()) {
        m_draft.reset();
        m_repair.reset();
    }
    fill_temperatures();
    m_shown = m_hand.name();
    for (QWidget* widget :
         std::initializer_list<QWidget*>{m_source, m_h_unit, m_b_unit, m_meaning, m_mend, m_drop, m_take})
        widget->setVisible(m_hand.is_own());
    m_table->set_editable(m_hand.is_own());
    judge();
}

void BhPage::paste(const QString& text) {
    if (!m_hand.is_own()) return;
    auto table = read_columns(text.toStdString());
    if (!table) {
        m_findings->show_findings({{Finding::Grade::Fault, 0, table.problems().front().sentence}}, {});
        return;
    }
    const BhColumns guess = guess_bh_columns(*table);
    m_draft = Draft{std::move(*table), {}, {}};
    show_columns(guess);
    read_table(guess);
}

void BhPage::show_columns(const BhColumns& columns) {
    m_h_unit->setCurrentText(QString::fromStdString(columns.h_unit));
    m_b_unit->setCurrentText(QString::fromStdString(columns.b_unit));
    m_meaning->setCurrentIndex((columns.h > columns.b ? 2 : 0) + (columns.polarisation ? 1 : 0));
}

BhColumns BhPage::columns() const {
    const bool swapped = m_meaning->currentIndex() >= 2;
    return {swapped ? 1U : 0U, swapped ? 0U : 1U, m_h_unit->currentText().toStdString(),
            m_b_unit->currentText().toStdString(), m_meaning->currentIndex() % 2 == 1};
}

void BhPage::columns_changed() {
    if (m_draft && m_draft->table) read_table(columns());
}

void BhPage::read_table(const BhColumns& columns) {
    auto read = bh_points(*m_draft->table, columns);
    if (!read) {
        m_findings->show_findings({{Finding::Grade::Fault, 0, read.problems().front().sentence}}, {});
        return;
    }
    m_draft->points = std::move(*read);
    m_draft->notes = m_draft->table->notes;
    m_draft->notes.insert(m_draft->notes.begin(),
                          tr("Read as %1 in %2 and %3.")
                              .arg(m_meaning->currentText(), m_h_unit->currentText(), m_b_unit->currentText())
                              .toStdString());
    m_repair.reset();
    judge();
}

void BhPage::take_rows(const std::vector<std::vector<double>>& rows) {
    Draft draft;
    for (const auto& row : rows) draft.points.push_back({row[0], row[1]});
    m_draft = std::move(draft);
    m_repair.reset();
    judge();
}

void BhPage::judge() {
    const std::vector<BhPoint> now = points();
    m_table->show_rows(rows_of(now));
    const Material* material = m_hand.material();
    std::vector<Finding> findings;
    if (now.empty() && material && material->curve.is_linear())
        findings.push_back(
            {Finding::Grade::Good, 0,
             tr("A constant relative permeability of %1.").arg(material->curve.linear_mu_r()).toStdString()});
    else if (now.empty())
        findings.push_back({Finding::Grade::Good, 0,
                            tr("No curve at this temperature yet: paste or open a table.").toStdString()});
    else
        findings = judge_bh(now, m_draft && m_draft->table && columns().polarisation);
    const auto repair = now.empty() ? Result<BhRepair>(BhRepair{}) : repair_bh(now);
    const bool mendable = repair && !repair->done.empty() && m_hand.is_own();
    m_repair = mendable ? std::optional(*repair) : std::nullopt;
    m_mend->setEnabled(mendable);
    m_mend->setToolTip(mendable ? tr("Draws the mended curve before it is taken")
                                : tr("Nothing needs to be mended, or the record is the shelf's"));
    const QSignalBlocker quiet(m_mend);
    m_mend->setChecked(false);
    m_take->setText(tr("Take this curve"));
    m_drop->setEnabled(m_draft.has_value());
    m_take->setEnabled(m_draft && !has_fault(findings));
    m_findings->show_findings(findings, m_draft ? m_draft->notes : std::vector<std::string>{});
    draw();
}

void BhPage::mend(bool on) {
    if (!on || !m_repair) return judge();
    m_findings->show_findings(judge_bh(m_repair->points), m_repair->done);
    m_take->setText(tr("Take the mended curve"));
    m_take->setEnabled(true);
    draw();
}

void BhPage::take() {
    const Material* material = m_hand.material();
    if (!material || !m_hand.is_own()) return;
    const auto curve = BhCurve::through(m_mend->isChecked() && m_repair ? m_repair->points : points());
    if (!curve) {
        m_findings->show_findings({{Finding::Grade::Fault, 0, curve.problems().front().sentence}}, {});
        return;
    }
    Material changed = *material;
    const double kelvin = warm_kelvin();
    if (std::abs(kelvin - reference_temperature) < 0.01) {
        changed.curve = *curve;
    } else {
        std::erase_if(changed.warm_curves, [&](const auto& c) { return std::abs(c.first - kelvin) < 0.01; });
        changed.warm_curves.emplace_back(kelvin, *curve);
        std::sort(changed.warm_curves.begin(), changed.warm_curves.end(),
                  [](const auto& a, const auto& b) { return a.first < b.first; });
    }
    m_draft.reset();
    m_repair.reset();
    m_hand.put(changed, tr("magnetisation curve of %1").arg(QString::fromStdString(changed.name)));
}

void BhPage::drop_draft() {
    m_draft.reset();
    m_repair.reset();
    judge();
}

void BhPage::compare_with(const std::string& name) {
    m_compared = name;
    draw();
}

void BhPage::draw() {
    const Theme& t = theme();
    const int scale = m_scale->currentIndex();
    std::vector<PlotCurve> curves;
    const auto line = [&](const std::vector<BhPoint>& p, const QString& name, const QColor& colour,
                          bool dashed = false) {
        if (p.size() > 1) curves.push_back({curve_of(p, scale), name, colour, false, dashed});
    };
    const Material* material = m_hand.material();
    const auto now = points();
    if (material && m_draft && !material->curve.is_linear())
        line(used_curve(material->curve.points()), tr("in use"), t.soft);
    if (!now.empty()) {
        line(used_curve(now), m_draft ? tr("new") : QString::fromStdString(m_hand.name()), t.accent);
        PlotCurve dots{curve_of(now, scale), tr("points"), t.accent};
        dots.points = true;
        dots.listed = false;
        curves.push_back(dots);
    }
    if (m_mend->isChecked() && m_repair) line(used_curve(m_repair->points), tr("mended"), t.phase[2], true);
    if (m_compared != m_hand.name())
        if (const Material* other = material_named(m_hand.document().project(), m_compared);
            other && !other->curve.is_linear())
            line(used_curve(other->curve.points()), QString::fromStdString(m_compared), t.phase[1], true);
    m_plot->set_logarithmic(scale == Logarithmic, false);
    m_plot->show_curves(curves, scale == Permeability ? tr("B, T") : tr("H, A/m"),
                        scale == Permeability ? tr("relative permeability") : tr("B, T"));
}

} // namespace mavlo::app
