#include "wind/waves_page.h"

#include "quantity/constants.h"
#include "question/winding_curves.h"
#include "shell/theme.h"
#include "wind/star_view.h"
#include "winding/harmful_waves.h"

#include <QHBoxLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int most_orders = 50, shown_waves = 5;

int orders_of(const Machine& machine) {
    return std::max(most_orders, 3 * machine.winding.layout.main_order());
}

} // namespace

WavesPage::WavesPage(Document& document, PhaseFocus& focus, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_instant(new QSlider(Qt::Horizontal, this))
    , m_angle(new QLabel(this))
    , m_harm(new QLabel(this))
    , m_kind(new QComboBox(this))
    , m_mmf(new Plot(this))
    , m_plot(new Plot(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 4, 8, 8);
    layout->setSpacing(4);
    layout->addWidget(new StarView(document, focus, this));
    auto* row = new QHBoxLayout;
    m_angle->setProperty("soft", true);
    m_instant->setObjectName(QStringLiteral("mmf_instant"));
    m_instant->setAccessibleName(tr("Instant of the period"));
    m_instant->setRange(0, 360);
    m_instant->setToolTip(tr("The electrical angle of the currents: the wave moves with it."));
    row->addWidget(m_angle);
    row->addWidget(m_instant, 1);
    layout->addLayout(row);
    m_mmf->set_compact(true);
    m_mmf->setFixedHeight(150);
    layout->addWidget(m_mmf);
    m_kind->setObjectName(QStringLiteral("wave_kind"));
    m_kind->addItems({tr("MMF's waves, forward and backward"), tr("Winding factors"),
                      tr("Alternating-current factor over frequency")});
    m_kind->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_kind->setMinimumContentsLength(10);
    layout->addWidget(m_kind);
    m_plot->set_compact(true);
    m_plot->setFixedHeight(170);
    layout->addWidget(m_plot);
    m_harm->setObjectName(QStringLiteral("harmful_waves"));
    m_harm->setWordWrap(true);
    m_harm->setProperty("soft", true);
    m_harm->setTextFormat(Qt::RichText);
    layout->addWidget(m_harm);
    layout->addStretch(1);
    connect(m_instant, &QSlider::valueChanged, this, &WavesPage::show_mmf);
    connect(m_kind, &QComboBox::currentIndexChanged, this, &WavesPage::refresh);
    connect(&document, &Document::changed, this, &WavesPage::refresh);
    connect(&focus, &PhaseFocus::changed, this, &WavesPage::show_mmf);
}

void WavesPage::showEvent(QShowEvent* event) {
    refresh();
    QWidget::showEvent(event);
}

void WavesPage::refresh() {
    if (!isVisible()) return;
    const auto& built = m_document.built();
    if (!built || !built->machine.wound()) {
        m_mmf->clear();
        m_plot->clear();
        m_harm->clear();
        return;
    }
    show_mmf();
    m_harm->setVisible(m_kind->currentIndex() == 0);
    if (m_kind->currentIndex() == 0) show_spectrum();
    if (m_kind->currentIndex() == 1) show_factors();
    if (m_kind->currentIndex() == 2) show_ac();
}

void WavesPage::show_mmf() {
    const auto& built = m_document.built();
    if (!built || !built->machine.wound()) return;
    const Machine& m = built->machine;
    const PhaseFocus& focus = PhaseFocus::shared();
    const double instant = m_instant->value() * pi / 180;
    m_angle->setText(tr("currents at %1° electrical").arg(m_instant->value()));
    std::vector<double> currents;
    for (std::size_t k = 0; k < m.winding.layout.lags.size(); ++k)
        currents.push_back(focus.shows(int(k)) ? m.rating.current / m.winding.paths *
                                                     std::cos(instant - m.winding.layout.lags[k])
                                               : 0.0);
    const Curve steps = mmf_curve(m.winding.layout, currents, std::max(720, 16 * m.slots));
    Curve main = steps;
    const auto wave = mmf_wave(m.winding.layout, currents, m.winding.layout.main_order());
    for (std::size_t i = 0; i < main.x.size(); ++i)
        main.y[i] = (wave * std::polar(1.0, -m.winding.layout.main_order() * main.x[i] * pi / 180)).real();
    m_mmf->show_curves({{steps, tr("MMF"), theme().ink}, {main, tr("main wave"), theme().accent, false, true}},
                       tr("angle round the gap, ° mechanical"), tr("MMF, A"));
}

void WavesPage::show_factors() {
    const Machine& m = m_document.built()->machine;
    Curve factors = winding_factor_curve(m.winding.layout, orders_of(m)), main = factors;
    const std::ptrdiff_t p = m.winding.layout.main_order() - 1;
    main.x = {double(m.winding.layout.main_order())};
    main.y = {factors.y[std::size_t(p)]};
    factors.x.erase(factors.x.begin() + p);
    factors.y.erase(factors.y.begin() + p);
    m_plot->show_curves({{factors, tr("winding factor"), theme().soft, true},
                         {main, tr("of the poles' order"), theme().accent, true}},
                        tr("periods a turn (mechanical order)"), tr("winding factor"));
}

void WavesPage::show_spectrum() {
    const Machine& m = m_document.built()->machine;
    auto [forward, backward] = mmf_spectrum(m, orders_of(m));
    for (double& amplitude : backward.y) amplitude = -amplitude;
    m_plot->show_curves({{forward, tr("with the rotor"), theme().phase[0], true},
                         {backward, tr("against it (drawn downwards)"), theme().phase[1], true}},
                        tr("periods a turn (mechanical order)"), tr("MMF, A"));
    const auto waves = harmful_waves(m.winding.layout);
    QString text = waves.empty() ? tr("No other wave reaches 5 % of the main one.") : QString();
    for (std::size_t i = 0; i < waves.size() && int(i) < shown_waves; ++i)
        text += tr("<b>Order %1</b>, %2, %3 % of the main wave: %4.<br>")
                    .arg(waves[i].order)
                    .arg(waves[i].forward ? tr("forward") : tr("backward"))
                    .arg(100 * waves[i].share, 0, 'f', 0)
                    .arg(QString::fromStdString(waves[i].causes));
    if (int(waves.size()) > shown_waves)
        text += tr("and %1 more of at least 5 %.").arg(int(waves.size()) - shown_waves);
    m_harm->setText(text);
}

void WavesPage::show_ac() {
    const Machine& m = m_document.built()->machine;
    const AcResistance alternating(m);
    const ConductorSize size = size_conductor(m.winding.conductor);
    const double rated = electrical_frequency(m, m.rating.speed), thick = std::max(size.diameter, size.height),
                 highest = std::max(4 * rated, 2 * m.winding.resistivity() / (pi * mu0 * thick * thick));
    const auto [whole, slot] = ac_factor_curves(alternating, highest);
    Curve at = whole;
    at.x = {rated};
    at.y = {alternating.factor(rated)};
    PlotCurve point{at, tr("rated speed"), theme().accent};
    point.points = true;
    m_plot->show_curves({{whole, tr("of the phase"), theme().ink},
                         {slot, tr("in the slots"), theme().soft, false, true},
                         point},
                        tr("electrical frequency, Hz"), tr("R_ac / R_dc"));
}

} // namespace mavlo::app
