#include "probe/probe_panel.h"

#include "figure/spectrum.h"
#include "quantity/quantity.h"
#include "question/period.h"
#include "sheet/choice_box.h"
#include "shell/theme.h"
#include "shell/typed_number.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QtMath>
#include <cmath>
#include <numbers>

namespace mavlo::app {
namespace {

QLineEdit* small_edit(QWidget* parent, const char* name) {
    auto* edit = new QLineEdit(parent);
    edit->setObjectName(QString::fromLatin1(name));
    edit->setFixedSize(84, 26);
    edit->setAlignment(Qt::AlignRight);
    return edit;
}

/// A number with or without the unit; nothing when it is neither.
std::optional<double> read_in(const QString& text, const char* unit_name) {
    const auto quantity = parse_quantity(typed_number(text));
    const Unit* unit = find_unit(unit_name);
    if (!quantity) return std::nullopt;
    if (quantity->dimension.plain()) return from_unit(quantity->si, *unit);
    if (quantity->dimension != unit->dimension) return std::nullopt;
    return quantity->si;
}

/// Without the rounding that would read as "-0.00".
/// A dash where there is no iron.
QString iron_level(double tesla) {
    return std::isnan(tesla) ? QStringLiteral("–") : QString::number(tesla, 'f', 2);
}

double shown(double value, double smallest) {
    return std::abs(value) < smallest ? 0 : value;
}

} // namespace

ProbePanel::ProbePanel(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_pad(new DqPad(this))
    , m_phases(new PhasePad(this))
    , m_title(new QLabel(this))
    , m_form(new QComboBox(this))
    , m_fault(new QComboBox(this))
    , m_shorted(new ShortedPhase(document, this))
    , m_peak(small_edit(this, "probe_current"))
    , m_advance(small_edit(this, "probe_advance"))
    , m_angle(small_edit(this, "probe_angle"))
    , m_high(small_edit(this, "probe_range"))
    , m_readout(new QLabel(this))
    , m_play(new QPushButton(tr("Play a turn"), this))
    , m_plot(new Plot(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 12, 20, 10);
    layout->setSpacing(6);
    m_title->setProperty("group", true);
    layout->addWidget(m_title);
    layout->addWidget(m_pad, 1);
    layout->addWidget(m_phases, 1);
    auto* grid = new QGridLayout;
    grid->setVerticalSpacing(4);
    grid->setColumnStretch(0, 1);
    int row = 0;
    auto add = [&](const QString& text, QLineEdit* edit, const QString& unit) {
        auto* label = new QLabel(text, this);
        label->setBuddy(edit);
        auto* unit_label = new QLabel(unit, this);
        unit_label->setProperty("soft", true);
        unit_label->setMinimumWidth(44);
        grid->addWidget(label, row, 0);
        grid->addWidget(edit, row, 1);
        grid->addWidget(unit_label, row++, 2);
        if (edit == m_peak || edit == m_advance)
            m_of_vector.insert(m_of_vector.end(), {label, static_cast<QWidget*>(edit), unit_label});
    };
    add(tr("Current (phase, peak)"), m_peak, QStringLiteral("A"));
    add(tr("Advance (electrical)"), m_advance, QStringLiteral("°"));
    add(tr("Rotor angle"), m_angle, tr("° mech"));
    add(tr("Deepest colour at"), m_high, QStringLiteral("T"));
    add_waves(*grid, row);
    m_high->setText(QStringLiteral("2"));
    layout->addLayout(grid);
    auto* buttons = new QHBoxLayout;
    m_play->setCheckable(true);
    m_play->setObjectName(QStringLiteral("play"));
    buttons->addWidget(m_play);
    buttons->addStretch();
    layout->addLayout(buttons);
    m_readout->setObjectName(QStringLiteral("probe_readout"));
    m_readout->setTextFormat(Qt::RichText);
    layout->addWidget(m_readout);
    auto* gap_title = new QLabel(tr("Waves of the flux density across the gap"), this);
    gap_title->setProperty("group", true);
    layout->addWidget(gap_title);
    m_plot->set_compact(true);
    m_plot->setMinimumHeight(92);
    layout->addWidget(m_plot, 1);
    connect(m_pad, &DqPad::changed, this, [this](Dq current) {
        show_vector();
        Q_EMIT current_changed(current);
    });
    connect(m_phases, &PhasePad::changed, this, [this] { Q_EMIT current_changed(m_pad->current()); });
    for (QLineEdit* edit : {m_peak, m_advance})
        connect(edit, &QLineEdit::returnPressed, this, &ProbePanel::take_vector);
    connect(m_angle, &QLineEdit::returnPressed, this, [this] {
        if (const auto angle = read_in(m_angle->text(), "deg")) Q_EMIT angle_wanted(*angle);
    });
    connect(m_high, &QLineEdit::returnPressed, this, [this] {
        const auto high = read_in(m_high->text(), "T");
        if (high && *high > 0) Q_EMIT range_changed(*high);
    });
    connect(m_play, &QPushButton::toggled, this, &ProbePanel::play);
    m_timer.setInterval(33);
    connect(&m_timer, &QTimer::timeout, this, [this] {
        const auto built = m_document.built();
        const double pole = built ? 2 * std::numbers::pi / built->machine.poles : 0.1;
        Q_EMIT angle_wanted(m_rotor + pole / 60); // a pole passes in two seconds
    });
    connect(&document, &Document::changed, this, &ProbePanel::follow_document);
    connect(&document, &Document::opened, this, [this] {
        m_pad->set_current({});
        show_vector();
    });
    follow_document();
    show_angle(0);
}

/// Other forms than the vector that turns with the rotor, and a phase that carries nothing.
void ProbePanel::add_waves(QGridLayout& grid, int row) {
    m_form->setObjectName(QStringLiteral("probe_waveform"));
    std::vector<std::string> forms = wave_words();
    std::erase_if(forms, [](const std::string& word) { return word == "table" || word == "stroke"; });
    fill_choices(*m_form, forms);
    m_form->setToolTip(
        tr("Form of the phase currents over the rotor's angle, in phase with the no-load EMF where the "
           "advance is 0."));
    m_fault->setObjectName(QStringLiteral("probe_fault"));
    auto* row_of_waves = new QWidget(this);
    auto* waves = new QHBoxLayout(row_of_waves);
    waves->setContentsMargins(0, 0, 0, 0);
    waves->setSpacing(6);
    waves->addWidget(new QLabel(tr("Waveform"), this));
    waves->addWidget(m_form, 2);
    waves->addWidget(new QLabel(tr("fault"), this));
    waves->addWidget(m_fault, 1);
    m_of_vector.push_back(row_of_waves);
    m_fault->setToolTip(
        tr("A phase that carries nothing, or whose ends are joined: then its current is what its "
           "flux linkage drives at rated speed."));
    connect(m_shorted, &ShortedPhase::found, this, [this] { Q_EMIT current_changed(m_pad->current()); });
    grid.addWidget(row_of_waves, row, 0, 1, 3);
    for (QComboBox* box : {m_form, m_fault})
        connect(box, &QComboBox::activated, this, [this] { Q_EMIT current_changed(m_pad->current()); });
}

bool ProbePanel::is_switched() const {
    const auto& built = m_document.built();
    return built && built->machine.facts().switched;
}

CurrentWave ProbePanel::current() const {
    if (is_switched()) return standing_currents(m_phases->currents());
    const Dq vector = m_pad->current();
    const WaveForm form = wave_form(shown_choice(*m_form).toStdString());
    const int fault = std::max(0, m_fault->currentIndex()), phases = (m_fault->count() - 1) / 2;
    ShortedPhase::Wish wish;
    const double peak = std::hypot(vector.d, vector.q), advance = std::atan2(-vector.d, vector.q);
    if (fault > phases) wish = {fault - phases - 1, shown_choice(*m_form).toStdString(), peak, advance};
    if (form == WaveForm::Sine && fault == 0) {
        m_shorted->forget();
        return vector;
    }
    CurrentWave wave(form, peak, advance);
    if (fault > 0 && fault <= phases) wave.open(fault - 1);
    m_shorted->apply(wave, wish);
    return wave;
}

void ProbePanel::follow_document() {
    const auto& built = m_document.built();
    const int phases = built ? built->machine.winding.phases : 0;
    if (m_fault->count() != 2 * phases + 1) {
        m_fault->clear();
        m_fault->addItem(tr("none"));
        for (const QString& what : {tr("%1 open"), tr("%1 shorted")})
            for (int k = 0; k < phases; ++k)
                m_fault->addItem(what.arg(QString::fromStdString(phase_name(k, phases))));
    }
    const double most = std::max(m_document.value("rating.max_current"), m_document.value("rating.current"));
    const bool switched = is_switched();
    m_title->setText(switched ? tr("Currents of the phases") : tr("Current in the rotor's frame"));
    m_pad->setVisible(!switched);
    m_phases->setVisible(switched);
    for (QWidget* widget : m_of_vector) widget->setVisible(!switched);
    if (switched && int(m_phases->currents().size()) != phases) {
        // Without magnets there is nothing to see until a phase is on.
        std::vector<double> first(std::size_t(phases), 0.0);
        first[0] = m_document.value("rating.current");
        m_phases->set_currents(std::move(first));
    }
    m_phases->set_limit(most);
    m_pad->set_limit(most);
    show_vector();
}

void ProbePanel::show_vector() {
    const Dq c = m_pad->current();
    m_peak->setText(QString::number(std::hypot(c.d, c.q), 'g', 4));
    m_advance->setText(
        QString::number(c.d == 0 && c.q == 0 ? 0 : qRadiansToDegrees(std::atan2(-c.d, c.q)), 'f', 1));
}

void ProbePanel::take_vector() {
    const auto peak = read_in(m_peak->text(), "A"), advance = read_in(m_advance->text(), "deg");
    if (!peak || !advance) return show_vector();
    m_pad->set_current(current_vector(*peak, *advance));
    Q_EMIT current_changed(m_pad->current());
}

void ProbePanel::set_current(Dq current) {
    m_pad->set_current(current);
    show_vector();
    Q_EMIT current_changed(current);
}

void ProbePanel::show_angle(double radians) {
    m_rotor = radians;
    if (!m_angle->hasFocus()) m_angle->setText(QString::number(qRadiansToDegrees(radians), 'f', 2));
}

void ProbePanel::play(bool on) {
    m_play->setText(on ? tr("Pause") : tr("Play a turn"));
    if (on)
        m_timer.start();
    else
        m_timer.stop();
}

void ProbePanel::show_result(const LiveResult& r) {
    if (!r.problems.empty()) {
        m_readout->setText(QString::fromStdString(r.problems.front().sentence));
        return;
    }
    auto line = [](const QString& name, const QString& value) {
        return QStringLiteral("<tr><td style='padding-right:14px'>%1</td><td align='right'>%2</td></tr>")
            .arg(name, value);
    };
    QStringList names, amperes, linkages;
    for (double linkage : r.phase_flux) linkages << QString::number(shown(linkage * 1e3, 5e-2), 'f', 1);
    for (std::size_t k = 0; k < r.phase_current.size(); ++k) {
        names << QString::fromStdString(phase_suffix(k)).toUpper();
        amperes << QString::number(shown(r.phase_current[k], 5e-3), 'f', 2);
    }
    const auto torque_line = [&](const LiveResult& result) {
        const Machine& machine = result.request.built->machine;
        if (!machine.facts().linear)
            return line(tr("Torque"), QStringLiteral("%1 N·m").arg(shown(result.torque, 5e-7), 0, 'g', 4));
        const double thrust = result.torque / machine.section.chart().flat;
        return line(tr("Thrust"), QStringLiteral("%1 N").arg(shown(thrust, 5e-5), 0, 'g', 4));
    };
    m_readout->setText(
        QStringLiteral("<table width='100%'>") + torque_line(r) +
        (is_switched() ? line(tr("Flux linkages %1").arg(names.join(QStringLiteral(", "))),
                              linkages.join(QStringLiteral(", ")) + QStringLiteral(" mWb"))
                       : line(tr("Flux linkage ψ<sub>d</sub>, ψ<sub>q</sub>"),
                              QStringLiteral("%1, %2 mWb")
                                  .arg(shown(r.flux_linkage.d * 1e3, 5e-3), 0, 'f', 2)
                                  .arg(shown(r.flux_linkage.q * 1e3, 5e-3), 0, 'f', 2))) +
        (amperes.isEmpty() ? QString()
                           : line(tr("Currents %1").arg(names.join(QStringLiteral(", "))),
                                  amperes.join(QStringLiteral(", ")) + QStringLiteral(" A"))) +
        line(tr("Tooth, yoke"),
             QStringLiteral("%1, %2 T").arg(iron_level(r.levels.tooth), iron_level(r.levels.yoke))) +
        QStringLiteral("</table>"));
    show_waves(r.gap_radial);
}

void ProbePanel::show_waves(const std::vector<double>& radial) {
    Curve spectrum{"gap_flux_density_radial_spectrum", "T", "mechanical_order", "1", {}, {}};
    const auto waves = harmonics(radial);
    for (std::size_t n = 0; n < waves.size() && n <= 80; ++n) {
        spectrum.x.push_back(double(n));
        spectrum.y.push_back(std::abs(waves[n]));
    }
    m_plot->show_curves({{spectrum, tr("across the gap"), theme().accent, true, false}}, tr("periods a turn"),
                        QStringLiteral("T"));
}

} // namespace mavlo::app
