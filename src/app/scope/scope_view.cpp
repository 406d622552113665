#include "scope/scope_view.h"

#include "question/period.h"
#include "shell/theme.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr int frame_ms = 40, frames_of_a_run = 250;

double largest_current(const TimeRecord& record) {
    double largest = 0;
    for (const char* name : {"current_", "line_current_"})
        for (std::size_t k = 0; k < record.phases(); ++k)
            if (const Curve* curve = record.answer().curve(name + phase_suffix(k)))
                for (double i : curve->y) largest = std::max(largest, std::abs(i));
    return largest;
}

} // namespace

ScopeView::ScopeView(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_live(m_cache)
    , m_strips(new Strips(this))
    , m_schematic(new Schematic(this))
    , m_section(new SectionView(document, this))
    , m_moment(new QLabel(this))
    , m_stale(new QLabel(tr("The design has changed since: ask again to see its field."), this))
    , m_lines(new QPushButton(tr("Line voltages"), this))
    , m_play(new QPushButton(tr("Play"), this))
    , m_bar(new TimeBar(this)) {
    setObjectName(QStringLiteral("scope"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(12);
    auto* left = new QVBoxLayout;
    left->setSpacing(4);
    left->addWidget(m_schematic, 5);
    left->addWidget(m_section, 6);
    m_stale->setWordWrap(true);
    m_stale->setProperty("soft", true);
    left->addWidget(m_stale);
    m_moment->setProperty("soft", true);
    m_moment->setObjectName(QStringLiteral("moment"));
    left->addWidget(m_moment);
    auto* column = new QWidget(this);
    column->setLayout(left);
    left->setContentsMargins(0, 0, 0, 0);
    column->setFixedWidth(268);
    layout->addWidget(column);
    auto* right = new QVBoxLayout;
    right->setSpacing(2);
    auto* tools = new QHBoxLayout;
    tools->setContentsMargins(48, 0, 0, 0);
    auto* frames = new QPushButton(tr("Save frames …"), this);
    auto* spectra = new QPushButton(tr("Spectra"), this);
    spectra->setObjectName(QStringLiteral("scope_spectra"));
    spectra->setCheckable(true);
    spectra->setToolTip(tr("Beside each strip, of the stretch between two cursors or of all of it"));
    connect(spectra, &QPushButton::toggled, m_strips, &Strips::set_spectra);
    auto* lanes = new QPushButton(tr("Lanes"), this);
    lanes->setObjectName(QStringLiteral("scope_lanes"));
    lanes->setCheckable(true);
    lanes->setToolTip(tr("Phases one over the other, where they hide each other"));
    connect(lanes, &QPushButton::toggled, m_strips, &Strips::set_lanes);
    for (QPushButton* button : {m_play, m_lines, lanes, spectra, frames}) {
        button->setProperty("flat", true);
        tools->addWidget(button);
    }
    m_play->setObjectName(QStringLiteral("scope_play"));
    m_play->setCheckable(true);
    m_lines->setObjectName(QStringLiteral("scope_lines"));
    m_lines->setCheckable(true);
    frames->setToolTip(tr("The scope at evenly spaced instants, as numbered PNG"));
    tools->addStretch();
    right->addLayout(tools);
    right->addWidget(m_strips, 1);
    right->addWidget(m_bar);
    connect(m_strips, &Strips::stretch_changed, m_bar, &TimeBar::show_stretch);
    connect(m_bar, &TimeBar::stretch_wanted, m_strips, &Strips::set_stretch);
    layout->addLayout(right, 1);
    m_section->make_little();
    m_section->set_overlays(OverlaySet::at_first("probe"));
    connect(m_strips, &Strips::cursor_moved, this, &ScopeView::follow);
    connect(m_lines, &QPushButton::toggled, this, [this](bool on) {
        if (m_record) m_strips->show_strips(strips_of(*m_record, on));
    });
    connect(m_play, &QPushButton::toggled, this, &ScopeView::play);
    connect(frames, &QPushButton::clicked, this, &ScopeView::choose_frames);
    connect(&m_timer, &QTimer::timeout, this, [this] {
        if (!m_record || !m_live.is_idle()) return; // no faster than the field
        const double next = m_strips->cursor() + m_record->duration() / frames_of_a_run;
        m_strips->set_cursor(next > m_record->duration() ? 0 : next);
    });
    connect(&m_live, &LiveField::solved, this, [this](const std::shared_ptr<const LiveResult>& result) {
        if (result->problems.empty()) m_section->set_result(result);
    });
}

void ScopeView::show_record(const TimeRecord& record, bool fresh) {
    m_record = record;
    m_fresh = fresh;
    m_section->setVisible(fresh);
    m_stale->setVisible(!fresh);
    const bool has_lines = record.phases() == 3 && record.supply() != half_bridge_supply;
    m_lines->setVisible(has_lines);
    m_lines->setText(record.is_delta() ? tr("Line currents") : tr("Line voltages"));
    m_lines->setToolTip(record.is_delta() ? tr("Into the terminals instead of in the phases")
                                          : tr("Between the terminals instead of over the phases"));
    if (!has_lines) m_lines->setChecked(false);
    m_schematic->set_supply(record.supply(), largest_current(record), record.is_delta());
    if (const Curve* torque = record.answer().curve("torque")) m_bar->show_curve(*torque);
    m_strips->show_strips(strips_of(record, m_lines->isChecked()));
    if (m_strips->cursor() == 0)
        m_strips->set_cursor(0.1 * record.duration()); // where it is seen
    else
        follow(m_strips->cursor());
}

void ScopeView::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (m_record) follow(m_strips->cursor());
}

void ScopeView::follow(double seconds) {
    if (!m_record) return;
    const Moment m = m_record->at(seconds);
    m_schematic->show_moment(m);
    QString text = tr("%1 ms · rotor %2°")
                       .arg(1e3 * m.time, 0, 'f', 3)
                       .arg(std::fmod(m.rotor_angle, 2 * EIGEN_PI) * 180 / EIGEN_PI, 0, 'f', 1);
    if (const auto mark = m_strips->mark(); mark && *mark != seconds) {
        const double apart = std::abs(*mark - seconds);
        text += tr(" · apart %1 ms, %2 Hz").arg(1e3 * apart, 0, 'f', 3).arg(1 / apart, 0, 'g', 4);
    }
    m_moment->setText(text);
    if (!m_fresh || !m_document.is_good() || !isVisible()) return;
    const auto built = m_document.built();
    const Machine& machine = built->machine;
    if (std::size_t(machine.winding.phases) != m.current.size()) return;
    m_section->set_angle(m.rotor_angle);
    LiveRequest request{built, m.rotor_angle, standing_currents(m.current)};
    if (const Overlay* colours = m_section->overlays().colours()) {
        request.colour = colours->colour;
        request.paint = m_section->field_painter();
    }
    m_live.request(request);
}

void ScopeView::play(bool on) {
    m_play->setText(on ? tr("Stop") : tr("Play"));
    if (on)
        m_timer.start(frame_ms);
    else
        m_timer.stop();
}

void ScopeView::choose_frames() {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Folder for the frames"));
    if (folder.isEmpty()) return;
    const QString missed = save_frames(folder, frames_of_a_run / 5);
    m_moment->setText(missed.isEmpty() ? tr("%1 frames saved").arg(frames_of_a_run / 5)
                                       : tr("%1 could not be written").arg(missed));
}

QString ScopeView::save_frames(const QString& folder, int count) {
    if (!m_record) return {};
    const double before = m_strips->cursor();
    for (int k = 0; k < count; ++k) {
        m_strips->set_cursor(m_record->duration() * k / count);
        while (!m_live.is_idle()) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
        QCoreApplication::processEvents();
        const QString file =
            QDir(folder).filePath(QStringLiteral("frame_%1.png").arg(k, 4, 10, QLatin1Char('0')));
        if (!grab().save(file)) return file;
    }
    m_strips->set_cursor(before);
    return {};
}

} // namespace mavlo::app
