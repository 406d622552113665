#include "plot/plot.h"

#include "plot/plot_words.h"
#include "plot/qcustomplot_include.h"
#include "shell/theme.h"

#include <QApplication>
#include <QClipboard>
#include <QMouseEvent>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

/// "0.0836": four significant digits.
QString number(double value) {
    return QString::number(value, 'g', 4);
}

} // namespace

Plot::Plot(QWidget* parent)
    : QWidget(parent)
    , m_plot(new QCustomPlot(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_plot);
    m_plot->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    m_plot->setMinimumSize(120, 90);
    m_plot->legend->setFillOrder(QCPLegend::foColumnsFirst);
    m_tracer = new QCPItemTracer(m_plot);
    m_tracer->setVisible(false);
    m_text = new QCPItemText(m_plot);
    m_text->setVisible(false);
    m_text->setPositionAlignment(Qt::AlignLeft | Qt::AlignBottom);
    m_cursor = new QCPItemStraightLine(m_plot);
    m_cursor->setVisible(false);
    connect(m_plot, &QCustomPlot::mouseMove, this, [this](QMouseEvent* event) { read_at(event->pos()); });
    connect(m_plot, &QCustomPlot::mousePress, this, [this](QMouseEvent* event) { m_pressed = event->pos(); });
    connect(m_plot, &QCustomPlot::mouseRelease, this, [this](QMouseEvent* event) {
        const bool clicked = (event->pos() - m_pressed).manhattanLength() < QApplication::startDragDistance();
        if (clicked && event->button() == Qt::LeftButton) pick_at(event->pos());
    });
    connect(m_plot, &QCustomPlot::mouseDoubleClick, this, [this] {
        m_plot->rescaleAxes();
        m_plot->yAxis->scaleRange(1.1);
        m_plot->replot();
    });
    for (QCPAxis* axis : {m_plot->xAxis, m_plot->yAxis}) axis->setTicker(reading_ticker());
    dress();
}

void Plot::set_compact(bool compact) {
    m_compact = compact;
    dress();
}

void Plot::set_logarithmic(bool x, bool y) {
    m_log_x = x;
    m_log_y = y;
    for (const auto& [axis, logarithmic] : {std::pair{m_plot->xAxis, x}, {m_plot->yAxis, y}}) {
        axis->setScaleType(logarithmic ? QCPAxis::stLogarithmic : QCPAxis::stLinear);
        axis->setTicker(logarithmic ? QSharedPointer<QCPAxisTicker>(new QCPAxisTickerLog) : reading_ticker());
        axis->grid()->setSubGridVisible(false);
        axis->setNumberFormat(logarithmic ? QStringLiteral("gbc") : QStringLiteral("g"));
    }
}

void Plot::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) dress();
    QWidget::changeEvent(event);
}

void Plot::dress() {
    const Theme& t = theme();
    m_plot->setBackground(t.sheet);
    for (QCPAxis* axis : {m_plot->xAxis, m_plot->yAxis, m_plot->xAxis2, m_plot->yAxis2}) {
        dress_axis(*axis);
        axis->grid()->setPen(QPen(t.line, 0.6, Qt::DotLine));
        axis->grid()->setZeroLinePen(QPen(t.line, 1));
    }
    m_plot->legend->setBrush(QColor(t.sheet.red(), t.sheet.green(), t.sheet.blue(), 220));
    m_plot->legend->setBorderPen(Qt::NoPen);
    m_plot->legend->setTextColor(t.ink);
    m_plot->legend->setFont(small_font());
    m_text->setColor(t.ink);
    m_text->setFont(small_font());
    m_text->setBrush(t.sheet);
    m_text->setPen(QPen(t.line));
    m_text->setPadding({6, 3, 6, 3});
    m_cursor->setPen(QPen(t.soft, 1, Qt::DashLine));
    m_tracer->setStyle(QCPItemTracer::tsCircle);
    m_tracer->setPen(QPen(t.accent, 1.5));
    m_tracer->setBrush(t.sheet);
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void Plot::clear() {
    m_tracer->setGraph(nullptr);
    m_tracer->setVisible(false);
    m_text->setVisible(false);
    m_cursor->setVisible(false);
    m_plot->clearPlottables();
    m_curves.clear();
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void Plot::show_curves(const std::vector<PlotCurve>& curves, const QString& x_label, const QString& y_label) {
    clear();
    m_curves = curves;
    for (const PlotCurve& c : curves) add_curve(c);
    m_plot->legend->setVisible(!m_compact && m_plot->legend->itemCount() > 1);
    m_plot->xAxis->setLabel(x_label);
    m_plot->yAxis->setLabel(y_label);
    m_plot->rescaleAxes();
    if (!m_log_y) m_plot->yAxis->scaleRange(1.12);
    // Over speed what counts is how much is left of all.
    if (!curves.empty() && curves.front().curve.x_unit == "rpm" && m_plot->yAxis->range().lower > 0)
        m_plot->yAxis->setRangeLower(0);
    place_legend();
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void Plot::add_curve(const PlotCurve& c) {
    const QVector<double> x(c.curve.x.begin(), c.curve.x.end()), y(c.curve.y.begin(), c.curve.y.end());
    const QPen pen(c.colour, c.strong ? 3 : 1.6, c.dashed ? Qt::DashLine : Qt::SolidLine);
    if (c.bars) {
        auto* bars = new QCPBars(m_plot->xAxis, m_plot->yAxis);
        const double step = x.size() > 1 ? std::abs(x[1] - x[0]) : 1;
        bars->setWidth(0.6 * step);
        bars->setData(x, y);
        bars->setPen(Qt::NoPen);
        bars->setBrush(c.colour);
        bars->setName(c.name);
        return;
    }
    if (!c.points && !std::is_sorted(x.begin(), x.end())) { // a line in the plane, not a function
        auto* line = new QCPCurve(m_plot->xAxis, m_plot->yAxis);
        line->setData(x, y);
        line->setPen(pen);
        line->setName(c.name);
        if (!c.listed) line->removeFromLegend();
        return;
    }
    auto* graph = m_plot->addGraph();
    graph->setData(x, y);
    // A small plot is drawn anew with every frame of the field; Qt draws plain hairlines many times as fast.
    graph->setPen(m_compact ? QPen(c.colour, 1) : pen);
    graph->setName(c.name);
    if (!c.listed) graph->removeFromLegend();
    if (c.points) {
        graph->setLineStyle(QCPGraph::lsNone);
        graph->setScatterStyle(
            {c.strong ? QCPScatterStyle::ssDisc : QCPScatterStyle::ssCircle, c.strong ? 9.0 : 5.0});
        graph->setPen(QPen(c.colour, 1.2));
    } else if (x.size() <= 24)
        graph->setScatterStyle({QCPScatterStyle::ssDisc, 4});
}

void Plot::place_legend() {
    QCPLegend& legend = *m_plot->legend;
    QCPLayoutGrid& grid = *m_plot->plotLayout();
    const bool stands = legend.layout() == &grid;
    if (!legend.visible() && !stands) return;
    legend.layout()->take(&legend);
    if (stands) grid.simplify();
    if (!legend.visible()) { // it waits where it came from
        m_plot->axisRect()->insetLayout()->addElement(&legend, Qt::AlignTop | Qt::AlignRight);
        return;
    }
    int widest = 1;
    for (int i = 0; i < legend.itemCount(); ++i)
        if (const auto* item = legend.item(i)) // the last row may have places left
            widest = std::max(widest, item->minimumOuterSizeHint().width() + legend.columnSpacing());
    legend.setWrap(std::max(1, (m_plot->width() - 30) / widest));
    grid.insertRow(0);
    grid.addElement(0, 0, &legend);
    grid.setRowStretchFactor(0, 1e-3);
}

void Plot::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    place_legend();
}

Plot::Near Plot::nearest(QPoint position) const {
    const double x = m_plot->xAxis->pixelToCoord(position.x());
    Near best;
    for (const PlotCurve& c : m_curves) {
        if (c.curve.x.empty()) continue;
        std::size_t k = 0;
        const auto far = [&](std::size_t i) {
            const double dx = m_plot->xAxis->coordToPixel(c.curve.x[i]) - position.x(),
                         dy = m_plot->yAxis->coordToPixel(c.curve.y[i]) - position.y();
            return std::hypot(dx, dy);
        };
        for (std::size_t i = 1; i < c.curve.x.size(); ++i) {
            // Of points without a line the nearest in the plane, else that over the cursor.
            const bool nearer =
                c.points ? far(i) < far(k) : std::abs(c.curve.x[i] - x) < std::abs(c.curve.x[k] - x);
            if (nearer) k = i;
        }
        if (far(k) < best.pixels) best = {&c, k, far(k)};
    }
    return best;
}

void Plot::pick_at(QPoint position) {
    constexpr double reach = 24;
    const Near near = nearest(position);
    if (!near.curve || near.pixels > reach || near.curve->keys.empty()) return;
    const auto& keys = near.curve->keys;
    Q_EMIT picked(keys[std::min(near.point, keys.size() - 1)]);
}

QPointF Plot::place_of(double x, double y) const {
    return m_plot->mapTo(this, QPointF(m_plot->xAxis->coordToPixel(x), m_plot->yAxis->coordToPixel(y)));
}

void Plot::read_at(QPoint position) {
    const Near near = nearest(position);
    if (!near.curve) return;
    const Curve& curve = near.curve->curve;
    const double x = curve.x[near.point], y = curve.y[near.point];
    const auto unit = [](const std::string& name) { return QString::fromStdString(name == "1" ? "" : name); };
    m_reading = QStringLiteral("%1: %2 %3 at %4 %5")
                    .arg(near.curve->name, number(y), unit(curve.unit), number(x), unit(curve.x_unit));
    m_tracer->position->setCoords(x, y);
    m_tracer->setVisible(true);
    m_text->setText(m_reading);
    const bool right = x > m_plot->xAxis->range().center();
    m_text->setPositionAlignment((right ? Qt::AlignRight : Qt::AlignLeft) |
                                 (y > m_plot->yAxis->range().center() ? Qt::AlignTop : Qt::AlignBottom));
    m_text->position->setCoords(x, y);
    m_text->setVisible(true);
    m_cursor->setVisible(false);
    m_plot->replot(QCustomPlot::rpQueuedReplot);
    Q_EMIT cursor_moved(curve.x_name, x);
}

void Plot::show_cursor(const std::string& x_name, double x) {
    constexpr int most = 4;
    QStringList lines;
    for (const PlotCurve& c : m_curves) {
        if (c.curve.x_name != x_name || c.curve.x.empty() || c.name.isEmpty()) continue;
        const auto at = std::min_element(c.curve.x.begin(), c.curve.x.end(),
                                         [&](double a, double b) { return std::abs(a - x) < std::abs(b - x); });
        const double value = c.curve.y[std::size_t(at - c.curve.x.begin())];
        if (lines.size() < most) lines << c.name + QStringLiteral(": ") + number(value);
    }
    const bool has = !lines.isEmpty() && m_plot->xAxis->range().contains(x);
    m_cursor->setVisible(has);
    m_text->setVisible(has);
    m_tracer->setVisible(false);
    if (has) {
        m_cursor->point1->setCoords(x, 0);
        m_cursor->point2->setCoords(x, 1);
        m_reading = lines.join(QLatin1Char('\n'));
        m_text->setText(m_reading);
        const bool right = x > m_plot->xAxis->range().center();
        m_text->setPositionAlignment((right ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignTop);
        m_text->position->setCoords(x, m_plot->yAxis->range().upper);
    }
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

bool Plot::save(const QString& file) {
    return save_picture(*m_plot, file, {1200, 700}, {800, 480});
}

void Plot::copy_picture() {
    QApplication::clipboard()->setPixmap(m_plot->toPixmap(1200, 700));
}

QString Plot::copied_table() const {
    QString text;
    if (m_curves.empty()) return text;
    const Curve& first = m_curves.front().curve;
    text += QString::fromStdString(first.x_name + " [" + first.x_unit + "]");
    for (const PlotCurve& c : m_curves)
        text += QStringLiteral("\t%1 [%2]").arg(c.name, QString::fromStdString(c.curve.unit));
    text += '\n';
    for (std::size_t k = 0; k < first.x.size(); ++k) {
        text += QString::number(first.x[k], 'g', 9);
        for (const PlotCurve& c : m_curves)
            text += '\t' + (k < c.curve.y.size() ? QString::number(c.curve.y[k], 'g', 9) : QString());
        text += '\n';
    }
    return text;
}

} // namespace mavlo::app
