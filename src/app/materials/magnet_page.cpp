#include "materials/magnet_page.h"

#include "material/bh_table.h"
#include "material/demagnetisation.h"
#include "materials/number_table.h"
#include "materials/property_rows.h"
#include "quantity/quantity.h"
#include "shell/theme.h"

#include <QHBoxLayout>
#include <QInputDialog>
#include <QVBoxLayout>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double zero_celsius = 273.15;

/// (H in kA/m, J or B in T), from the strongest field to none.
Curve drawn(std::vector<BhPoint> points, bool flux_density, const char* name) {
    Curve curve{name, "T", "field_strength", "kA/m", {}, {}};
    for (auto p = points.rbegin(); p != points.rend(); ++p) {
        curve.x.push_back(p->h / 1e3);
        curve.y.push_back(p->b + (flux_density ? mu0 * p->h : 0));
    }
    return curve;
}

/// Of columns of H, with either sign, and of B or J.
Result<DemagnetisationCurve> curve_from(const ColumnTable& table, const BhColumns& columns, double kelvin) {
    std::vector<BhPoint> points;
    for (const auto& row : table.rows) {
        const double h = -std::abs(from_unit(row[columns.h], *find_unit(columns.h_unit))),
                     value = from_unit(row[columns.b], *find_unit(columns.b_unit));
        points.push_back({h, columns.polarisation ? value : value - mu0 * h});
    }
    return demagnetisation_curve(kelvin, std::move(points));
}

QString celsius(double kelvin) {
    return QString::number(kelvin - zero_celsius, 'g', 4) + QStringLiteral(" °C");
}

} // namespace

MagnetPage::MagnetPage(MaterialInHand& hand, QWidget* parent)
    : QWidget(parent)
    , m_hand(hand)
    , m_plot(new Plot(this))
    , m_knee(new Plot(this))
    , m_scale(new QComboBox(this))
    , m_source(new TableSource(tr("Paste curve"), tr("Open curve …"), QStringLiteral("magnet"), this))
    , m_drop(new QPushButton(tr("Drop curves"), this))
    , m_words(new FindingList(this)) {
    setObjectName(QStringLiteral("magnet_page"));
    m_words->setObjectName(QStringLiteral("magnet_words"));
    m_scale->addItems({tr("flux density B and polarisation J"), tr("flux density B"), tr("polarisation J")});
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 8, 0, 0);
    auto* left = new QVBoxLayout;
    auto* over = new QHBoxLayout;
    over->addWidget(m_scale);
    over->addStretch(1);
    left->addLayout(over);
    left->addWidget(m_plot, 3);
    left->addWidget(m_knee, 1);
    m_knee->setMinimumHeight(130);
    layout->addLayout(left, 1);
    auto* side = new QVBoxLayout;
    auto* rows = new PropertyRows(hand, magnet_properties(), this);
    rows->setFixedWidth(material_side_width);
    side->addWidget(rows);
    auto* sources = new QHBoxLayout;
    sources->addWidget(m_source, 1);
    sources->addWidget(m_drop);
    side->addLayout(sources);
    m_words->setFixedWidth(material_side_width);
    side->addWidget(m_words, 1);
    layout->addLayout(side);
    connect(m_scale, &QComboBox::currentIndexChanged, this, &MagnetPage::draw);
    connect(m_source, &TableSource::given, this, &MagnetPage::ask_temperature_and_paste);
    connect(m_source, &TableSource::failed, this,
            [this](const QString& sentence) { m_words->show_findings({}, {sentence.toStdString()}); });
    connect(m_drop, &QPushButton::clicked, this, &MagnetPage::drop_curves);
    connect(&hand, &MaterialInHand::changed, this, &MagnetPage::refresh);
    refresh();
}

double MagnetPage::design_kelvin() const {
    const auto built = m_hand.document().built();
    const Substance* magnet = built ? built->machine.magnet() : nullptr;
    return magnet ? magnet->temperature : reference_temperature;
}

void MagnetPage::ask_temperature_and_paste(const QString& text) {
    bool good = false;
    const double at = QInputDialog::getDouble(this, tr("Demagnetisation curve"), tr("It was measured at, °C:"),
                                              20, -200, 500, 1, &good);
    if (good) paste(text, at + zero_celsius);
}

void MagnetPage::paste(const QString& text, double kelvin) {
    const Material* material = m_hand.material();
    if (!material || !m_hand.is_own()) return;
    const auto fail = [&](const std::string& sentence) {
        m_words->show_findings({{Finding::Grade::Fault, 0, sentence}}, {});
    };
    const auto table = read_columns(text.toStdString());
    if (!table) return fail(table.problems().front().sentence);
    BhColumns columns = guess_bh_columns(*table);
    auto curve = curve_from(*table, columns, kelvin);
    if (!curve) { // without a header B and J can be told apart by J alone falling
        columns.polarisation = !columns.polarisation;
        auto other = curve_from(*table, columns, kelvin);
        if (!other) return fail(curve.problems().front().sentence);
        curve = std::move(other);
    }
    auto curves = material->magnet.curves;
    std::erase_if(curves, [&](const auto& c) { return std::abs(c.temperature - kelvin) < 0.01; });
    curves.push_back(std::move(*curve));
    auto fitted = fit_magnet(std::move(curves));
    if (!fitted) return fail(fitted.problems().front().sentence);
    // One temperature tells no coefficients: the record keeps its own.
    if (fitted->curves.size() < 2) {
        fitted->remanence_per_kelvin = material->magnet.remanence_per_kelvin;
        fitted->coercivity_per_kelvin = material->magnet.coercivity_per_kelvin;
        const double over = kelvin - reference_temperature;
        fitted->remanence /= 1 + fitted->remanence_per_kelvin * over;
        fitted->coercivity /= 1 + fitted->coercivity_per_kelvin * over;
    }
    if (fitted->coercivity == 0) fitted->coercivity = material->magnet.coercivity;
    Material changed = *material;
    changed.magnet = std::move(*fitted);
    changed.curve = BhCurve::linear(changed.magnet.recoil_mu_r);
    m_hand.put(changed, tr("demagnetisation curve of %1").arg(QString::fromStdString(changed.name)));
    auto notes = table->notes;
    notes.insert(notes.begin(),
                 tr("Read as %1 over H in %2.")
                     .arg(columns.polarisation ? tr("J") : tr("B"), QString::fromStdString(columns.h_unit))
                     .toStdString());
    describe(notes);
}

void MagnetPage::drop_curves() {
    const Material* material = m_hand.material();
    if (!material || !m_hand.is_own()) return;
    Material changed = *material;
    changed.magnet.curves.clear();
    m_hand.put(changed, tr("curves of %1 dropped").arg(QString::fromStdString(changed.name)));
}

void MagnetPage::refresh() {
    const Material* material = m_hand.material();
    if (!material || material->kind != MaterialKind::Magnet) return;
    m_source->setVisible(m_hand.is_own());
    m_drop->setVisible(m_hand.is_own() && !material->magnet.curves.empty());
    compute_load();
    describe({});
    draw();
}

void MagnetPage::compute_load() {
    const auto built = m_hand.document().built();
    if (!built || !m_hand.document().is_good() || !built->machine.magnet()) {
        m_load.reset();
        m_load_of.clear();
        return;
    }
    if (built->hash == m_load_of) return;
    m_load_of = built->hash;
    m_load.reset();
    m_computing = true;
    m_jobs.stop_all();
    auto result = std::make_shared<std::optional<MagnetLoad>>();
    m_jobs.submit(
        tr("load line"),
        [built, result](const Watch& watch) {
            const auto model = prepare_field(built->machine, {Quality::Draft});
            if (!model || watch.stop.stop_requested()) return;
            const auto field = FieldSolver(*model).solve(0, {});
            if (field) *result = magnet_load(**model, *field);
        },
        [this, built, result] {
            if (built->hash != m_load_of) return;
            m_computing = false;
            m_load = *result;
            describe({});
            draw();
        });
}

void MagnetPage::describe(std::vector<std::string> notes) {
    const Material* material = m_hand.material();
    if (!material) return;
    std::vector<Finding> findings;
    using Grade = Finding::Grade;
    const auto say = [&](Grade grade, const QString& text) {
        findings.push_back({grade, 0, text.toStdString()});
    };
    const MagnetData& grade = material->magnet;
    const double kelvin = design_kelvin(), knee = grade.knee_at(kelvin);
    say(Grade::Good,
        tr("Energy product at 20 °C: %1 kJ/m³ at most.")
            .arg(grade.remanence * grade.remanence / (4 * mu0 * grade.recoil_mu_r) / 1e3, 0, 'f', 0));
    if (knee < -1e2)
        say(Grade::Caution, tr("The coercivity HcJ is not known: nothing can be said of demagnetisation."));
    else
        say(knee > 0 ? Grade::Caution : Grade::Good,
            knee > 0 ? tr("At %1 the knee lies at %2 T: above zero, so the magnet must not be open-circuited.")
                           .arg(celsius(kelvin))
                           .arg(knee, 0, 'f', 3)
                     : tr("At %1 the knee lies at %2 T.").arg(celsius(kelvin)).arg(knee, 0, 'f', 3));
    if (!grade.curves.empty())
        say(Grade::Good, tr("%1 measured curve(s); remanence, recoil permeability, coercivity and their "
                            "changes are fitted to them.")
                             .arg(grade.curves.size()));
    if (m_load) {
        const double margin = m_load->flux_density - knee;
        say(Grade::Good, tr("Load line of the design without current: permeance coefficient %1, working at %2 "
                            "T and %3 kA/m.")
                             .arg(m_load->permeance_coefficient(), 0, 'f', 2)
                             .arg(m_load->flux_density, 0, 'f', 3)
                             .arg(m_load->field / 1e3, 0, 'f', 0));
        if (knee > -1e2 && margin < 0.1)
            say(Grade::Caution, tr("The mean working point is only %1 T above the knee; ask “demagnetisation” "
                                   "for the worst corner.")
                                    .arg(margin, 0, 'f', 2));
    } else if (m_computing) {
        say(Grade::Good, tr("The load line of the design is being computed."));
    }
    m_words->show_findings(findings, notes);
}

void MagnetPage::draw() {
    const Material* material = m_hand.material();
    if (!material || material->kind != MaterialKind::Magnet) return;
    const Theme& t = theme();
    const MagnetData& grade = material->magnet;
    std::vector<double> temperatures;
    for (const auto& curve : grade.curves) temperatures.push_back(curve.temperature);
    if (temperatures.empty()) {
        const double hot = material->highest_temperature > reference_temperature + 10
                               ? material->highest_temperature
                               : zero_celsius + 100;
        temperatures = {reference_temperature, (reference_temperature + hot) / 2, hot};
    }
    const double kelvin = design_kelvin();
    const bool b_too = m_scale->currentIndex() != 2, j_too = m_scale->currentIndex() != 1;
    std::vector<PlotCurve> curves;
    const auto pair = [&](double at, const QColor& colour, const QString& name) {
        const auto points = intrinsic_curve(grade, at);
        if (j_too)
            curves.push_back({drawn(points, false, "polarisation"), name, colour, false, b_too, false, !b_too});
        if (b_too) curves.push_back({drawn(points, true, "flux_density"), name, colour});
    };
    std::size_t colour = 0;
    for (double at : temperatures) pair(at, t.phase[colour++ % t.phase.size()], celsius(at));
    if (std::none_of(temperatures.begin(), temperatures.end(),
                     [&](double at) { return std::abs(at - kelvin) < 1; }))
        pair(kelvin, t.ink, tr("%1, the design's").arg(celsius(kelvin)));
    if (m_load && m_load->field < 0 && b_too) {
        // Through the origin and the working point, as far as the remanence.
        const double far = grade.remanence_at(kelvin) * 1.1 / m_load->flux_density;
        Curve line{"load_line",
                   "T",
                   "field_strength",
                   "kA/m",
                   {far * m_load->field / 1e3, 0},
                   {far * m_load->flux_density, 0}};
        curves.push_back({line, tr("load line"), t.soft, false, true});
        PlotCurve point{
            {"working_point", "T", "field_strength", "kA/m", {m_load->field / 1e3}, {m_load->flux_density}},
            tr("works here"),
            t.accent};
        point.points = true;
        curves.push_back(point);
    }
    m_plot->show_curves(curves, tr("H, kA/m"),
                        b_too ? (j_too ? tr("B (solid), J (dashed), T") : tr("B, T")) : tr("J, T"));
    Curve knee{"knee", "T", "temperature", "degC", {}, {}};
    const double last = std::max(material->highest_temperature, temperatures.back());
    for (int i = 0; i <= 60 && grade.knee_at(reference_temperature) > -1e2; ++i) {
        const double at = zero_celsius - 40 + (last - zero_celsius + 40) * i / 60;
        knee.x.push_back(at - zero_celsius);
        knee.y.push_back(grade.knee_at(at));
    }
    m_knee->show_curves({{knee, tr("knee"), t.accent}}, tr("temperature, °C"), tr("B at the knee, T"));
}

} // namespace mavlo::app
