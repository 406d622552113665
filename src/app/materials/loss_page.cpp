#include "materials/loss_page.h"

#include "material/loss_table.h"
#include "shell/theme.h"

#include <QHBoxLayout>
#include <QVBoxLayout>
#include <cmath>
#include <map>

namespace mavlo::app {
namespace {

constexpr double highest = 2.0; // T, to which the law is drawn
constexpr double doubtful_error = 0.1;

Sheet sheet_of(const Material& m) {
    return {m.thickness, m.resistivity, m.density, m.curve};
}

/// A grid from `low` to `high` in even steps of the logarithm.
std::vector<double> even_steps(double low, double high) {
    std::vector<double> steps;
    for (int i = 0; i <= 40; ++i) steps.push_back(low * std::pow(high / low, i / 40.0));
    return steps;
}

} // namespace

LossPage::LossPage(MaterialInHand& hand, QWidget* parent)
    : QWidget(parent)
    , m_hand(hand)
    , m_plot(new Plot(this))
    , m_law(new QComboBox(this))
    , m_source(new TableSource(tr("Paste table"), tr("Open table …"), QStringLiteral("loss"), this))
    , m_table(new NumberTable({tr("f in Hz"), tr("B in T"), tr("W/kg")}, this))
    , m_words(new FindingList(this)) {
    setObjectName(QStringLiteral("loss_page"));
    m_law->setObjectName(QStringLiteral("loss_law"));
    m_table->setObjectName(QStringLiteral("loss_table"));
    m_words->setObjectName(QStringLiteral("loss_words"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 8, 0, 0);
    layout->addWidget(m_plot, 1);
    auto* side = new QVBoxLayout;
    side->addWidget(m_source);
    m_table->setFixedWidth(material_side_width);
    side->addWidget(m_table, 3);
    auto* law_name = new QLabel(tr("Law, and its error against the table"), this);
    law_name->setProperty("soft", true);
    side->addWidget(law_name);
    side->addWidget(m_law);
    m_words->setFixedWidth(material_side_width);
    side->addWidget(m_words, 2);
    layout->addLayout(side);
    m_plot->set_logarithmic(true, true);
    connect(m_source, &TableSource::given, this, &LossPage::paste);
    connect(m_source, &TableSource::failed, this,
            [this](const QString& sentence) { m_words->show_findings({}, {sentence.toStdString()}); });
    connect(m_table, &NumberTable::pasted, this, &LossPage::paste);
    connect(m_table, &NumberTable::edited, this, [this](const std::vector<std::vector<double>>& rows) {
        std::vector<LossPoint> points;
        for (const auto& row : rows) points.push_back({row[0], row[1], row[2]});
        take(std::move(points), m_hand.material()->loss.law, {});
    });
    connect(m_law, &QComboBox::activated, this, [this](int index) {
        if (const Material* m = m_hand.material()) take(m->loss.points, LossLaw(index), {});
    });
    connect(&hand, &MaterialInHand::changed, this, &LossPage::refresh);
    refresh();
}

void LossPage::paste(const QString& text) {
    if (!m_hand.is_own()) return;
    const auto table = read_columns(text.toStdString());
    std::vector<std::string> notes;
    const auto points = table ? loss_points(*table, notes) : Result<std::vector<LossPoint>>(table.problems());
    if (!points) {
        m_words->show_findings({{Finding::Grade::Fault, 0, points.problems().front().sentence}}, {});
        return;
    }
    notes.insert(notes.end(), table->notes.begin(), table->notes.end());
    take(*points, m_hand.material()->loss.law, notes);
}

void LossPage::take(std::vector<LossPoint> points, LossLaw law, const std::vector<std::string>& notes) {
    const Material* material = m_hand.material();
    auto fitted = fit_iron_loss(std::move(points), sheet_of(*material), law);
    if (!fitted) {
        refresh();
        m_words->show_findings({{Finding::Grade::Fault, 0, fitted.problems().front().sentence}}, notes);
        return;
    }
    Material changed = *material;
    changed.loss = std::move(*fitted);
    m_hand.put(changed, tr("losses of %1").arg(QString::fromStdString(changed.name)));
    describe(m_hand.material()->loss, notes);
}

void LossPage::refresh() {
    const Material* material = m_hand.material();
    if (!material || material->kind != MaterialKind::Steel) return;
    const IronLossLaw& law = material->loss;
    std::vector<std::vector<double>> rows;
    for (const LossPoint& p : law.points) rows.push_back({p.frequency, p.flux_density, p.loss});
    m_table->show_rows(rows);
    m_source->setVisible(m_hand.is_own());
    m_law->setEnabled(m_hand.is_own());
    m_table->set_editable(m_hand.is_own());
    m_law->clear();
    for (const auto& [kind, words] :
         {std::pair{LossLaw::Separated, tr("separated: hysteresis, classical, excess")},
          {LossLaw::Power, tr("power of frequency and flux density")}}) {
        const auto fit = fit_iron_loss(law.points, sheet_of(*material), kind);
        m_law->addItem(fit ? tr("%1 (±%2 %)").arg(words).arg(100 * fit->fit_error, 0, 'f', 1)
                           : tr("%1 (does not fit)").arg(words));
    }
    m_law->setCurrentIndex(int(law.law));
    describe(law, {});
    draw(law);
}

void LossPage::describe(const IronLossLaw& law, std::vector<std::string> notes) {
    std::vector<Finding> findings;
    const auto say = [&](Finding::Grade grade, const QString& text) {
        findings.push_back({grade, 0, text.toStdString()});
    };
    if (!law.known()) {
        say(Finding::Grade::Caution, tr("No losses are given: this steel's iron loss cannot be told."));
        m_words->show_findings(findings, notes);
        return;
    }
    if (law.law == LossLaw::Separated) {
        say(Finding::Grade::Good, tr("p = %1 f B^(%2 + %3 B) + %4 f² B² + %5 (f B)^1.5 W/kg")
                                      .arg(law.hysteresis, 0, 'g', 4)
                                      .arg(law.exponent, 0, 'f', 3)
                                      .arg(law.bend, 0, 'f', 3)
                                      .arg(law.classical, 0, 'g', 4)
                                      .arg(law.excess, 0, 'g', 4));
        notes.insert(
            notes.begin(),
            tr("Hysteresis, classical eddy currents of the sheet, excess: G. Bertotti, IEEE Trans. Magn. 24, "
               "1988; bend of the exponent: D. Ionel et al., IEEE Trans. Ind. Appl. 43, 2007.")
                .toStdString());
    } else {
        say(Finding::Grade::Good, tr("p = %1 f^%2 B^(%3 + %4 B) W/kg")
                                      .arg(law.hysteresis, 0, 'g', 4)
                                      .arg(law.alpha, 0, 'f', 3)
                                      .arg(law.exponent, 0, 'f', 3)
                                      .arg(law.bend, 0, 'f', 3));
        notes.insert(notes.begin(), tr("C. P. Steinmetz 1892 (Proc. IEEE 72, 1984) with free exponents; over "
                                       "time as K. Venkatachalam et al. 2002.")
                                        .toStdString());
    }
    const LossPoint* worst = &law.points.front();
    const auto off = [&](const LossPoint& p) { return law.loss(p.frequency, p.flux_density) / p.loss - 1; };
    int row = 1, worst_row = 1;
    double most_f = 0, most_b = 0;
    for (const LossPoint& p : law.points) {
        if (std::abs(off(p)) > std::abs(off(*worst))) worst = &p, worst_row = row;
        most_f = std::max(most_f, p.frequency);
        most_b = std::max(most_b, p.flux_density);
        ++row;
    }
    const auto grade = std::abs(off(*worst)) > doubtful_error ? Finding::Grade::Caution : Finding::Grade::Good;
    findings.push_back({grade, worst_row,
                        tr("Furthest from the table in row %1 (%2 Hz, %3 T): %4 %.")
                            .arg(worst_row)
                            .arg(worst->frequency)
                            .arg(worst->flux_density)
                            .arg(100 * off(*worst), 0, 'f', 1)
                            .toStdString()});
    say(Finding::Grade::Good,
        tr("Beyond %1 T and %2 Hz the law is extrapolated (dashed).").arg(most_b).arg(most_f));
    m_words->show_findings(findings, notes);
}

void LossPage::draw(const IronLossLaw& law) {
    const Theme& t = theme();
    std::map<double, Curve> measured;
    for (const LossPoint& p : law.points) {
        Curve& curve = measured[p.frequency];
        curve.unit = "W/kg", curve.x_name = "flux_density", curve.x_unit = "T";
        curve.x.push_back(p.flux_density);
        curve.y.push_back(p.loss);
    }
    std::vector<PlotCurve> curves;
    std::size_t colour = 0;
    for (const auto& [f, points] : measured) {
        const QColor shade = t.phase[colour++ % t.phase.size()];
        const QString name = tr("%1 Hz").arg(f);
        const double most = *std::max_element(points.x.begin(), points.x.end());
        Curve within{"loss", "W/kg", "flux_density", "T", even_steps(points.x.front(), most), {}},
            beyond = within;
        beyond.x = even_steps(most, std::max(highest, most * 1.01));
        for (Curve* curve : {&within, &beyond})
            for (double b : curve->x) curve->y.push_back(law.loss(f, b));
        curves.push_back({within, name, shade});
        curves.push_back({beyond, tr("%1 Hz, extrapolated").arg(f), shade, false, true, false, false});
        PlotCurve dots{points, tr("%1 Hz, table").arg(f), shade};
        dots.points = true;
        dots.listed = false;
        curves.push_back(dots);
    }
    m_plot->show_curves(curves, tr("peak flux density, T"), tr("loss, W/kg"));
}

} // namespace mavlo::app
