#include "plot/plot.h"

#include "plot/plot_words.h"
#include "plot/qcustomplot_include.h"
#include "shell/theme.h"

#include <QApplication>
#include <QClipboard>
#include <QMouseEvent>
#include <QVBoxLayout>
#include <algorithm>
#include <array>
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
    m_tracer = new QCPItemTracer(m_plot);
    m_tracer->setVisible(false);
    m_text = new QCPItemText(m_plot);
    m_text->setVisible(false);
    m_text->setPositionAlignment(Qt::AlignLeft | Qt::AlignBottom);
    connect(m_plot, &QCustomPlot::mouseMove, this, [this](QMouseEvent* event) { read_at(event->pos()); });
    connect(m_plot, &QCustomPlot::mouseDoubleClick, this, [this] {
        m_plot->rescaleAxes();
        m_plot->yAxis->scaleRange(1.1);
        m_plot->replot();
    });
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
        axis->setTicker(logarithmic ? QSharedPointer<QCPAxisTicker>(new QCPAxisTickerLog)
                                    : QSharedPointer<QCPAxisTicker>(new QCPAxisTicker));
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
    m_tracer->setStyle(QCPItemTracer::tsCircle);
    m_tracer->setPen(QPen(t.accent, 1.5));
    m_tracer->setBrush(t.sheet);
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void Plot::clear() {
    m_tracer->setGraph(nullptr);
    m_tracer->setVisible(false);
    m_text->setVisible(false);
    m_plot->clearPlottables();
    m_curves.clear();
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void Plot::show_curves(const std::vector<PlotCurve>& curves, const QString& x_label, const QString& y_label) {
    clear();
    m_curves = curves;
    for (const PlotCurve& c : curves) {
        const QVector<double> x(c.curve.x.begin(), c.curve.x.end()), y(c.curve.y.begin(), c.curve.y.end());
        if (c.bars) {
            auto* bars = new QCPBars(m_plot->xAxis, m_plot->yAxis);
            const double step = x.size() > 1 ? std::abs(x[1] - x[0]) : 1;
            bars->setWidth(0.6 * step);
            bars->setData(x, y);
            bars->setPen(Qt::NoPen);
            bars->setBrush(c.colour);
            bars->setName(c.name);
            continue;
        }
        if (!c.points && !std::is_sorted(x.begin(), x.end())) { // a line in the plane, not a function
            auto* line = new QCPCurve(m_plot->xAxis, m_plot->yAxis);
            line->setData(x, y);
            line->setPen(QPen(c.colour, 1.6, c.dashed ? Qt::DashLine : Qt::SolidLine));
            line->setName(c.name);
            if (!c.listed) line->removeFromLegend();
            continue;
        }
        auto* graph = m_plot->addGraph();
        graph->setData(x, y);
        // A small plot is drawn anew with every frame of the field; Qt draws plain hairlines many times as
        // fast.
        graph->setPen(m_compact ? QPen(c.colour, 1)
                                : QPen(c.colour, 1.6, c.dashed ? Qt::DashLine : Qt::SolidLine));
        graph->setName(c.name);
        if (!c.listed) graph->removeFromLegend();
        if (c.points) {
            graph->setLineStyle(QCPGraph::lsNone);
            graph->setScatterStyle({QCPScatterStyle::ssCircle, 5});
            graph->setPen(QPen(c.colour, 1.2));
        } else if (x.size() <= 24)
            graph->setScatterStyle({QCPScatterStyle::ssDisc, 4});
    }
    m_plot->legend->setVisible(!m_compact && m_plot->legend->itemCount() > 1);
    m_plot->xAxis->setLabel(x_label);
    m_plot->yAxis->setLabel(y_label);
    m_plot->rescaleAxes();
    if (!m_log_y) m_plot->yAxis->scaleRange(1.12);
    // Over speed what counts is how much is left of all.
    if (!curves.empty() && curves.front().curve.x_unit == "rpm" && m_plot->yAxis->range().lower > 0)
        m_plot->yAxis->setRangeLower(0);
    m_plot->axisRect()->insetLayout()->setInsetAlignment(0, emptiest_corner());
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

Qt::Alignment Plot::emptiest_corner() const {
    constexpr Qt::Alignment corners[] = {Qt::AlignTop | Qt::AlignRight, Qt::AlignTop | Qt::AlignLeft,
                                         Qt::AlignBottom | Qt::AlignRight, Qt::AlignBottom | Qt::AlignLeft};
    const auto share = [](const QCPAxis& axis, double value) { // 0 to 1 along the axis
        const QCPRange& range = axis.range();
        return axis.scaleType() == QCPAxis::stLogarithmic
                   ? std::log(value / range.lower) / std::log(range.upper / range.lower)
                   : (value - range.lower) / range.size();
    };
    std::array<double, 4> covered{};
    for (const PlotCurve& c : m_curves)
        for (std::size_t i = 0; i < c.curve.x.size(); ++i) {
            const double x = share(*m_plot->xAxis, c.curve.x[i]), y = 1 - share(*m_plot->yAxis, c.curve.y[i]);
            if (x > 0.35 && x < 0.65) continue;
            // A legend is flat: the middle of a side does not count.
            if (y > 0.45 && y < 0.55) continue;
            covered[(y < 0.5 ? 0U : 2U) + (x > 0.5 ? 0U : 1U)] += 1.0 / double(c.curve.x.size());
        }
    const auto best = std::min_element(covered.begin(), covered.end());
    return corners[best - covered.begin()];
}

void Plot::read_at(QPoint position) {
    const double x = m_plot->xAxis->pixelToCoord(position.x());
    const PlotCurve* nearest = nullptr;
    double best = 1e9, best_x = 0, best_y = 0;
    for (const PlotCurve& c : m_curves) {
        if (c.curve.x.empty()) continue;
        std::size_t k = 0;
        for (std::size_t i = 1; i < c.curve.x.size(); ++i)
            if (std::abs(c.curve.x[i] - x) < std::abs(c.curve.x[k] - x)) k = i;
        const double dx = m_plot->xAxis->coordToPixel(c.curve.x[k]) - position.x(),
                     dy = m_plot->yAxis->coordToPixel(c.curve.y[k]) - position.y();
        if (std::hypot(dx, dy) < best)
            best = std::hypot(dx, dy), nearest = &c, best_x = c.curve.x[k], best_y = c.curve.y[k];
    }
    if (!nearest) return;
    m_reading =
        QStringLiteral("%1: %2 %3 at %4 %5")
            .arg(nearest->name, number(best_y),
                 QString::fromStdString(nearest->curve.unit == "1" ? "" : nearest->curve.unit), number(best_x),
                 QString::fromStdString(nearest->curve.x_unit == "1" ? "" : nearest->curve.x_unit));
    m_tracer->position->setCoords(best_x, best_y);
    m_tracer->setVisible(true);
    m_text->setText(m_reading);
    const bool right = best_x > m_plot->xAxis->range().center();
    m_text->setPositionAlignment((right ? Qt::AlignRight : Qt::AlignLeft) |
                                 (best_y > m_plot->yAxis->range().center() ? Qt::AlignTop : Qt::AlignBottom));
    m_text->position->setCoords(best_x, best_y);
    m_text->setVisible(true);
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
