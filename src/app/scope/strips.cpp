#include "scope/strips.h"

#include "plot/plot_words.h"
#include "plot/qcustomplot_include.h"
#include "question/line_values.h"
#include "question/period.h"
#include "scope/measured.h"
#include "shell/theme.h"

#include <QApplication>
#include <QClipboard>
#include <QKeyEvent>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double milli = 1e3; ///< time is shown in ms

QString phase_word(std::size_t k) {
    return QString::fromStdString(phase_suffix(k)).toUpper();
}

/// Curves of the phases by their names' beginning; those that are not there are left out.
std::vector<StripCurve> of_phases(const Answer& answer, const std::string& name) {
    std::vector<StripCurve> out;
    for (std::size_t k = 0; k < theme().phase.size(); ++k)
        if (const Curve* c = answer.curve(name + phase_suffix(k)))
            out.push_back({*c, phase_word(k), theme().phase[k]});
    return out;
}

bool varies(const Curve& curve) {
    const auto [low, high] = std::minmax_element(curve.y.begin(), curve.y.end());
    return *high - *low > 1e-6 * std::max(std::abs(*high), std::abs(*low));
}

/// Between the terminals, from the phases' voltages.
std::vector<StripCurve> between_lines(const Answer& answer) {
    std::vector<StripCurve> out;
    const auto phases = of_phases(answer, "voltage_");
    if (phases.size() != 3) return out;
    const auto lines = less_other({phases[0].curve.y, phases[1].curve.y, phases[2].curve.y}, 1);
    for (std::size_t k = 0; k < 3; ++k) {
        StripCurve c = phases[k];
        c.curve.y = lines[k];
        c.name = phase_word(k) + phase_word((k + 1) % 3);
        out.push_back(std::move(c));
    }
    return out;
}

double largest_of(const Strip& strip) {
    double largest = 1e-300;
    for (const StripCurve& c : strip.curves)
        for (double value : c.curve.y) largest = std::max(largest, std::abs(value));
    return largest;
}

/// Of straight machines the thrust.
void add_torque(std::vector<Strip>& strips, const Answer& answer) {
    if (const Curve* torque = answer.curve("torque"))
        strips.push_back({QObject::tr("torque"), QStringLiteral("N·m"), {{*torque, {}, theme().accent}}});
    else if (const Curve* thrust = answer.curve("thrust"))
        strips.push_back({QObject::tr("thrust"), QStringLiteral("N"), {{*thrust, {}, theme().accent}}});
}

} // namespace

std::vector<Strip> strips_of(const TimeRecord& record, bool at_terminals) {
    const Answer& a = record.answer();
    // In delta the phases have the terminals' voltages, in star their currents.
    const bool line_voltages = at_terminals && !record.is_delta(),
               line_currents = at_terminals && record.is_delta();
    std::vector<Strip> strips;
    const bool half_bridges = record.supply() == half_bridge_supply;
    const QStringList states =
        half_bridges ? QStringList{QObject::tr("on"), QObject::tr("free"), QObject::tr("off")}
                     : QStringList{QObject::tr("upper"), QObject::tr("open"), QObject::tr("lower")};
    if (record.has_bridge())
        strips.push_back({QObject::tr("gates"), {}, of_phases(a, "gate_"), true, 1, states});
    strips.push_back({line_voltages ? QObject::tr("line voltage") : QObject::tr("phase voltage"),
                      QStringLiteral("V"), line_voltages ? between_lines(a) : of_phases(a, "voltage_")});
    strips.push_back({line_currents       ? QObject::tr("line current")
                      : record.is_delta() ? QObject::tr("phase current")
                                          : QObject::tr("current"),
                      QStringLiteral("A"), of_phases(a, line_currents ? "line_current_" : "current_")});
    add_torque(strips, a);
    if (const Curve* dc = a.curve("dc_current"))
        strips.push_back({QObject::tr("DC current"), QStringLiteral("A"), {{*dc, {}, theme().ink}}});
    if (const Curve* pull = a.curve("tooth_force_radial"))
        strips.push_back(
            {QObject::tr("pull on a tooth of U"), QStringLiteral("N"), {{*pull, {}, theme().accent}}});
    if (const Curve* speed = a.curve("speed"); speed && varies(*speed))
        strips.push_back(
            {QObject::tr("speed"), QString::fromStdString(speed->unit), {{*speed, {}, theme().ink}}});
    return strips;
}

std::vector<Strip> growing_strips(const std::vector<Curve>& curves) {
    Answer so_far;
    so_far.curves = curves;
    std::vector<Strip> strips;
    if (auto currents = of_phases(so_far, "current_"); !currents.empty())
        strips.push_back({QObject::tr("current"), QStringLiteral("A"), std::move(currents)});
    add_torque(strips, so_far);
    return strips;
}

Strips::Strips(QWidget* parent)
    : QWidget(parent)
    , m_plot(new QCustomPlot(this)) {
    setObjectName(QStringLiteral("strips"));
    setFocusPolicy(Qt::StrongFocus);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_plot);
    m_plot->plotLayout()->clear();
    m_plot->setInteractions(QCP::iRangeZoom);
    const auto follow = [this](QMouseEvent* event) {
        if (event->buttons() & Qt::LeftButton && !(event->modifiers() & Qt::ShiftModifier))
            move_to(event->position());
        else if (event->buttons() & (Qt::LeftButton | Qt::RightButton) && !m_rects.empty())
            set_mark(m_rects.front()->axis(QCPAxis::atBottom)->pixelToCoord(event->position().x()) / milli);
    };
    setToolTip(tr("Drag for the cursor, with Shift or the right button for a second one to measure between "
                  "(Escape takes it away); wheel to zoom, double click for all."));
    connect(m_plot, &QCustomPlot::mousePress, this, [this, follow](QMouseEvent* event) {
        setFocus();
        follow(event);
    });
    connect(m_plot, &QCustomPlot::mouseMove, this, follow);
    connect(m_plot, &QCustomPlot::mouseDoubleClick, this, [this] { build(); });
}

void Strips::show_strips(std::vector<Strip> strips) {
    m_strips = std::move(strips);
    build();
}

void Strips::set_lanes(bool on) {
    if (on == m_lanes) return;
    m_lanes = on;
    build();
}

void Strips::build() {
    m_plot->clearItems();
    m_plot->clearPlottables();
    m_plot->plotLayout()->clear();
    m_rects.clear();
    m_lines.clear();
    m_marks.clear();
    m_spectra.clear();
    m_readings.clear();
    m_plot->setBackground(theme().sheet);
    if (m_strips.empty()) return;
    m_end = m_strips.front().curves.front().curve.x.back();
    for (std::size_t k = 0; k < m_strips.size(); ++k) {
        add_strip(m_strips[k], int(k));
        if (m_with_spectra) add_spectrum(m_strips[k], int(k));
    }
    m_plot->plotLayout()->setRowSpacing(2);
    if (m_with_spectra) m_plot->plotLayout()->setColumnStretchFactor(1, 0.55);
    fill_spectra();
    Q_EMIT stretch_changed(0, m_end);
    place_cursor();
}

void Strips::add_strip(const Strip& strip, int row) {
    const Theme& t = theme();
    auto* rect = new QCPAxisRect(m_plot, false);
    m_plot->plotLayout()->addElement(row, 0, rect);
    m_plot->plotLayout()->setRowStretchFactor(row, strip.weight);
    QCPAxis *x = rect->addAxis(QCPAxis::atBottom), *y = rect->addAxis(QCPAxis::atLeft);
    for (QCPAxis* axis : {x, y}) {
        dress_axis(*axis);
        axis->setLayer(QStringLiteral("axes"));
        axis->grid()->setLayer(QStringLiteral("grid"));
        axis->grid()->setPen(QPen(t.line, 0.6, Qt::DotLine));
        axis->grid()->setZeroLinePen(QPen(t.line, 1));
    }
    const bool last = row + 1 == int(m_strips.size());
    rect->setAutoMargins(last ? QCP::msBottom : QCP::msNone);
    rect->setMargins(QMargins(48, 15, 10, last ? 0 : 3));
    rect->setRangeZoom(Qt::Horizontal);
    rect->setRangeZoomAxes(x, nullptr);
    x->setTickLabels(last);
    if (last) x->setLabel(tr("time, ms"));
    y->ticker()->setTickCount(3);
    const bool lanes = m_lanes && !strip.steps && strip.curves.size() > 1;
    const double largest = largest_of(strip), count = double(strip.curves.size());
    double low = strip.steps ? -0.2 : 1e300, high = strip.steps ? 2.9 : -1e300;
    for (std::size_t k = 0; k < strip.curves.size(); ++k) {
        const StripCurve& c = strip.curves[k];
        auto* graph = m_plot->addGraph(x, y);
        QVector<double> times, values;
        for (std::size_t i = 0; i < c.curve.x.size(); ++i) {
            times << milli * c.curve.x[i];
            // Upper switch on: a bar in the phase's row, U on top.
            values << (strip.steps ? double(2 - k) + (c.curve.y[i] > 0.5 ? 0.65 : 0)
                       : lanes     ? count - double(k) - 0.5 + 0.44 * c.curve.y[i] / largest
                                   : c.curve.y[i]);
        }
        graph->setData(times, values, true);
        graph->setPen(QPen(c.colour, 1.4));
        if (strip.steps) graph->setLineStyle(QCPGraph::lsStepLeft);
        if (!strip.steps) {
            low = std::min(low, *std::min_element(c.curve.y.begin(), c.curve.y.end()));
            high = std::max(high, *std::max_element(c.curve.y.begin(), c.curve.y.end()));
        }
    }
    if (strip.steps) y->setTickLabels(false);
    if (lanes) { // each phase about a zero of its own, all to one scale
        auto ticker = QSharedPointer<QCPAxisTickerText>::create();
        for (std::size_t k = 0; k < strip.curves.size(); ++k)
            ticker->addTick(count - double(k) - 0.5, strip.curves[k].name);
        y->setTicker(ticker);
        low = 0;
        high = count;
    }
    const double room = lanes ? 0 : std::max(0.08 * (high - low), 1e-9 + 1e-3 * std::abs(high));
    y->setRange(low - (strip.steps ? 0 : room), high + (strip.steps ? 0 : room));
    x->setRange(0, milli * m_end);
    if (!m_rects.empty())
        connect(x, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), m_rects.front()->axis(QCPAxis::atBottom),
                [first = m_rects.front()->axis(QCPAxis::atBottom)](const QCPRange& r) { first->setRange(r); });
    else
        connect(x, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), this, [this](const QCPRange& r) {
            for (QCPAxisRect* other : m_rects) other->axis(QCPAxis::atBottom)->setRange(r);
            place_cursor();
            Q_EMIT stretch_changed(r.lower / milli, r.upper / milli);
        });
    m_rects.push_back(rect);
    const auto add_line = [&](Qt::PenStyle style) {
        auto* line = new QCPItemStraightLine(m_plot);
        line->setClipAxisRect(rect);
        for (QCPItemPosition* point : {line->point1, line->point2}) point->setAxes(x, y);
        line->setPen(QPen(t.accent, 1.2, style));
        return line;
    };
    m_lines.push_back(add_line(Qt::SolidLine));
    m_marks.push_back(add_line(Qt::DashLine));
    // Title and reading stand over the strip, clear of its curves.
    const auto caption = [&](double at, Qt::Alignment side, const QColor& colour) {
        auto* text = new QCPItemText(m_plot);
        text->setClipToAxisRect(false);
        text->position->setAxisRect(rect);
        text->position->setType(QCPItemPosition::ptAxisRectRatio);
        text->position->setCoords(at, 0);
        text->setPositionAlignment(side | Qt::AlignBottom);
        text->setFont(small_font());
        text->setColor(colour);
        text->setPadding({0, 0, 0, 1});
        return text;
    };
    caption(0, Qt::AlignLeft, t.soft)
        ->setText(lanes ? tr("%1, lanes of ±%2 %3").arg(strip.title).arg(largest, 0, 'g', 3).arg(strip.unit)
                        : strip.title);
    m_readings.push_back(caption(1, Qt::AlignRight, t.ink));
}

void Strips::move_to(QPointF position) {
    if (m_rects.empty()) return;
    set_cursor(m_rects.front()->axis(QCPAxis::atBottom)->pixelToCoord(position.x()) / milli);
}

void Strips::set_cursor(double seconds) {
    const double to = std::clamp(seconds, 0.0, m_end);
    if (to == m_cursor) return;
    m_cursor = to;
    place_cursor();
    if (m_mark) fill_spectra();
    Q_EMIT cursor_moved(m_cursor);
}

void Strips::set_mark(std::optional<double> seconds) {
    m_mark = seconds;
    if (m_mark) m_mark = std::clamp(*m_mark, 0.0, m_end);
    place_cursor();
    fill_spectra();
    Q_EMIT cursor_moved(m_cursor);
}

void Strips::set_stretch(double from, double to) {
    if (!m_rects.empty()) m_rects.front()->axis(QCPAxis::atBottom)->setRange(milli * from, milli * to);
}

/// What a strip's curves are at the cursor.
QString Strips::reading(const Strip& strip) const {
    QStringList words;
    const double largest = largest_of(strip);
    for (const StripCurve& c : strip.curves) {
        double value = value_at(c.curve, m_cursor);
        if (std::abs(value) < 1e-9 * largest) value = 0;
        const QString text =
            strip.steps ? strip.states.value(1 - int(std::lround(value))) : QString::number(value, 'g', 4);
        words << (c.name.isEmpty() ? text : c.name + QStringLiteral(" ") + text);
    }
    return words.join(QStringLiteral("   "));
}

/// Between both cursors: of several curves their rms values, of one its mean and range too.
QString Strips::measured_reading(const Strip& strip) const {
    const auto [from, to] = measured_stretch();
    const auto number = [](double value) { return QString::number(value, 'g', 4); };
    if (strip.curves.size() == 1) {
        const Measured m = measured(strip.curves.front().curve, from, to);
        return tr("mean %1   rms %2   %3 to %4")
            .arg(number(m.mean), number(m.rms), number(m.least), number(m.most));
    }
    QStringList words;
    for (const StripCurve& c : strip.curves)
        words << tr("%1 %2").arg(c.name, number(measured(c.curve, from, to).rms));
    return tr("rms  ") + words.join(QStringLiteral("   "));
}

std::pair<double, double> Strips::measured_stretch() const {
    if (!m_mark || *m_mark == m_cursor) return {0, m_end};
    return {std::min(*m_mark, m_cursor), std::max(*m_mark, m_cursor)};
}

void Strips::place_cursor() {
    const bool measures = m_mark && *m_mark != m_cursor;
    for (std::size_t k = 0; k < m_lines.size(); ++k) {
        m_lines[k]->point1->setCoords(milli * m_cursor, 0);
        m_lines[k]->point2->setCoords(milli * m_cursor, 1);
        m_marks[k]->setVisible(m_mark.has_value());
        m_marks[k]->point1->setCoords(milli * m_mark.value_or(0), 0);
        m_marks[k]->point2->setCoords(milli * m_mark.value_or(0), 1);
        const Strip& strip = m_strips[k];
        QString text = measures && !strip.steps ? measured_reading(strip) : reading(strip);
        if (!strip.unit.isEmpty()) text += QStringLiteral(" ") + strip.unit;
        m_readings[k]->setText(text);
    }
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

int Strips::pixel_of(double seconds) const {
    return m_rects.empty() ? 0 : int(m_rects.front()->axis(QCPAxis::atBottom)->coordToPixel(milli * seconds));
}

void Strips::keyPressEvent(QKeyEvent* event) {
    const double step = m_end / (event->modifiers() & Qt::ShiftModifier ? 36 : 360);
    if (event->key() == Qt::Key_Left)
        set_cursor(m_cursor - step);
    else if (event->key() == Qt::Key_Right)
        set_cursor(m_cursor + step);
    else if (event->key() == Qt::Key_Escape && m_mark)
        set_mark(std::nullopt);
    else
        QWidget::keyPressEvent(event);
}

void Strips::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) build();
    QWidget::changeEvent(event);
}

bool Strips::save(const QString& file) {
    return save_picture(*m_plot, file, {1200, 900}, {800, 600});
}

void Strips::copy_picture() {
    QApplication::clipboard()->setPixmap(m_plot->toPixmap(1200, 900));
}

} // namespace mavlo::app
