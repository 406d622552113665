#include "plot/map_plot.h"

#include "figure/palette.h"
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
#include <limits>

namespace mavlo::app {
namespace {

constexpr int fine_x = 4, fine_y = 10; ///< colour cells for one step of the map

QCPColorGradient gradient() {
    QCPColorGradient g;
    g.clearColorStops();
    for (int k = 0; k <= 32; ++k) {
        const Rgb c = field_colour(0.85 * (1 - k / 32.0));
        g.setColorStopAt(k / 32.0, QColor(c.r, c.g, c.b));
    }
    g.setNanHandling(QCPColorGradient::nhTransparent);
    return g;
}

/// "96.5 %" of a share, "1200" of anything else.
QString value_text(const Map& map, double value) {
    if (map.unit == "1" && map.name == "efficiency")
        return QString::number(100 * value, 'g', 4) + QStringLiteral(" %");
    if (map.unit == "Pa") return QString::number(value / 1e3, 'g', 4) + QStringLiteral(" kPa");
    const QString unit = map.unit == "1" ? QString() : QStringLiteral(" ") + unit_words(map.unit);
    return QString::number(value, 'g', 4) + unit;
}

/// A curve's value at x, linear between its points; not a number beyond them.
double at_x(const Curve& curve, double x) {
    const auto upper = std::lower_bound(curve.x.begin(), curve.x.end(), x - 1e-9);
    if (upper == curve.x.end()) return std::numeric_limits<double>::quiet_NaN();
    const auto k = std::size_t(upper - curve.x.begin());
    if (k == 0) return x < curve.x[0] - 1e-6 ? std::numeric_limits<double>::quiet_NaN() : curve.y[0];
    const double t = (x - curve.x[k - 1]) / (curve.x[k] - curve.x[k - 1]);
    return curve.y[k - 1] + t * (curve.y[k] - curve.y[k - 1]);
}

/// The map with its outermost values carried on by the slope there, so that colours and contours reach an
/// envelope that runs between the grid's points.
Map continued(Map map) {
    const std::size_t nx = map.x.size(), ny = map.y.size();
    const auto carry = [&](std::size_t i, std::size_t to, std::size_t a, std::size_t b) {
        const double za = map.z[a][i], zb = map.z[b][i];
        if (std::isnan(map.z[to][i]) && !std::isnan(za) && !std::isnan(zb))
            map.z[to][i] = za + (za - zb) * (map.y[to] - map.y[a]) / (map.y[a] - map.y[b]);
    };
    for (std::size_t i = 0; i < nx; ++i) {
        for (std::size_t j = 2; j < ny; ++j)
            if (map.y[j] > 0) carry(i, j, j - 1, j - 2);
        for (std::size_t j = ny; j-- > 0;)
            if (map.y[j] < 0 && j + 2 < ny) carry(i, j, j + 1, j + 2);
    }
    return map;
}

/// Waves over their orders: nothing lies between them.
bool is_spectrum(const Map& map) {
    return map.x_name.ends_with("_order");
}

} // namespace

MapPlot::MapPlot(QWidget* parent)
    : QWidget(parent)
    , m_plot(new QCustomPlot(this)) {
    setObjectName(QStringLiteral("map"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_plot);
    m_plot->setMinimumSize(160, 160);
    m_plot->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    m_colours = new QCPColorMap(m_plot->xAxis, m_plot->yAxis);
    m_colours->setInterpolate(true);
    m_scale = new QCPColorScale(m_plot);
    m_scale->setType(QCPAxis::atRight);
    m_scale->setBarWidth(12);
    m_plot->plotLayout()->addElement(0, 1, m_scale);
    auto* margins = new QCPMarginGroup(m_plot);
    m_plot->axisRect()->setMarginGroup(QCP::msBottom | QCP::msTop, margins);
    m_scale->setMarginGroup(QCP::msBottom | QCP::msTop, margins);
    m_colours->setColorScale(m_scale);
    m_mark = new QCPItemTracer(m_plot);
    m_mark->setStyle(QCPItemTracer::tsCrosshair);
    m_mark->setVisible(false);
    m_text = new QCPItemText(m_plot);
    m_text->setVisible(false);
    connect(m_plot, &QCustomPlot::mouseMove, this, [this](QMouseEvent* e) { read_at(e->pos()); });
    connect(m_plot, &QCustomPlot::mousePress, this, [this](QMouseEvent* e) { m_pressed = e->pos(); });
    connect(m_plot, &QCustomPlot::mouseRelease, this, [this](QMouseEvent* e) {
        if ((e->pos() - m_pressed).manhattanLength() > 3) return; // that was a drag
        const double x = m_plot->xAxis->pixelToCoord(e->pos().x()),
                     y = m_plot->yAxis->pixelToCoord(e->pos().y());
        if (!std::isnan(value_at(m_map, x, y))) Q_EMIT picked(x, y);
    });
    connect(m_plot, &QCustomPlot::mouseDoubleClick, this, [this] { draw(); });
    dress();
}

void MapPlot::changeEvent(QEvent* event) {
    if (event->type() == QEvent::PaletteChange) {
        dress();
        if (!m_map.x.empty()) draw();
    }
    QWidget::changeEvent(event);
}

void MapPlot::dress() {
    const Theme& t = theme();
    m_plot->setBackground(t.sheet);
    for (QCPAxis* axis : {m_plot->xAxis2, m_plot->yAxis2}) axis->setVisible(false);
    for (QCPAxis* axis : {m_plot->xAxis, m_plot->yAxis, m_scale->axis()}) {
        dress_axis(*axis);
    }
    for (QCPAxis* axis : {m_plot->xAxis, m_plot->yAxis}) {
        axis->grid()->setPen(QPen(t.line, 0.6, Qt::DotLine));
        axis->grid()->setZeroLinePen(QPen(t.soft, 1));
    }
    m_text->setColor(t.ink);
    m_text->setFont(small_font());
    m_text->setBrush(t.sheet);
    m_text->setPen(QPen(t.line));
    m_text->setPadding({6, 3, 6, 3});
    m_mark->setPen(QPen(t.accent, 1.2));
}

void MapPlot::show_map(const Map& map, Over over) {
    m_map = map;
    m_whole = over.bounds.empty() ? map : continued(map);
    m_over = std::move(over);
    draw();
}

void MapPlot::draw() {
    for (int i = m_plot->plottableCount() - 1; i >= 0; --i)
        if (m_plot->plottable(i) != m_colours) m_plot->removePlottable(i);
    for (int i = m_plot->itemCount() - 1; i >= 0; --i)
        if (m_plot->item(i) != m_mark && m_plot->item(i) != m_text) m_plot->removeItem(i);
    m_text->setVisible(false);
    const auto nx = int(m_map.x.size()), ny = int(m_map.y.size());
    m_colours->setInterpolate(!is_spectrum(m_map));
    auto* cells = m_colours->data();
    if (is_spectrum(m_map)) return draw_spectrum();
    cells->setSize((nx - 1) * fine_x + 1, (ny - 1) * fine_y + 1);
    cells->setRange({m_map.x.front(), m_map.x.back()}, {m_map.y.front(), m_map.y.back()});
    for (int i = 0; i < cells->keySize(); ++i)
        for (int j = 0; j < cells->valueSize(); ++j) {
            double x = 0, y = 0;
            cells->cellToCoord(i, j, &x, &y);
            x = std::clamp(x, m_map.x.front(), m_map.x.back());
            y = std::clamp(y, m_map.y.front(), m_map.y.back());
            cells->setCell(i, j,
                           inside(x, y) ? value_at(m_whole, x, y) : std::numeric_limits<double>::quiet_NaN());
        }
    m_colours->setGradient(gradient());
    const MapRange range = coloured_range(m_map);
    m_colours->setDataRange({range.low, range.high});
    set_scale(false);
    add_contours();
    const Theme& t = theme();
    for (const Curve& line : m_over.bounds) {
        auto* curve = new QCPCurve(m_plot->xAxis, m_plot->yAxis);
        curve->setData(QVector<double>(line.x.begin(), line.x.end()),
                       QVector<double>(line.y.begin(), line.y.end()));
        curve->setPen(QPen(t.ink, 1.8));
    }
    add_limits();
    for (const Curve& mark : m_over.marks) {
        auto* points = new QCPCurve(m_plot->xAxis, m_plot->yAxis);
        points->setData(QVector<double>(mark.x.begin(), mark.x.end()),
                        QVector<double>(mark.y.begin(), mark.y.end()));
        points->setLineStyle(QCPCurve::lsNone);
        points->setScatterStyle({QCPScatterStyle::ssCircle, QPen(t.ink, 1), QBrush(t.accent), 8});
    }
    const double top = (m_map.y.back() - m_map.y.front()) * 0.04;
    m_plot->xAxis->setRange(m_map.x.front() < 0 ? m_map.x.front() : 0, m_map.x.back());
    m_plot->yAxis->setRange(m_map.y.front() < 0 ? m_map.y.front() - top : 0, m_map.y.back() + top);
    set_picked(m_picked);
}

/// What the axes and the colours stand for; waves of a spectrum differ by powers of ten.
void MapPlot::set_scale(bool logarithmic) {
    m_scale->setDataScaleType(logarithmic ? QCPAxis::stLogarithmic : QCPAxis::stLinear);
    m_scale->axis()->setTicker(logarithmic ? QSharedPointer<QCPAxisTicker>(new QCPAxisTickerLog)
                                           : QSharedPointer<QCPAxisTicker>(new QCPAxisTicker));
    const auto label = [](const std::string& name, const std::string& unit) {
        return unit == "1" ? name_words(name) : name_words(name) + QStringLiteral(", ") + unit_words(unit);
    };
    m_scale->setLabel(label(m_map.name, m_map.unit));
    m_plot->xAxis->setLabel(label(m_map.x_name, m_map.x_unit));
    m_plot->yAxis->setLabel(label(m_map.y_name, m_map.y_unit));
}

/// A small text on the map's colours.
QCPItemText& MapPlot::add_label(MapPoint at, const QString& text) {
    const Theme& t = theme();
    auto* label = new QCPItemText(m_plot);
    label->position->setCoords(at.x, at.y);
    label->setText(text);
    label->setFont(small_font());
    label->setColor(t.ink);
    QColor ground = t.sheet;
    ground.setAlpha(190);
    label->setBrush(ground);
    label->setPadding({2, 0, 2, 0});
    return *label;
}

/// A cell for each pair of orders, the strongest with their values beside them.
void MapPlot::draw_spectrum() {
    constexpr double weakest = 1e-3; // of the strongest
    constexpr std::size_t most_named = 6;
    const auto nx = int(m_map.x.size()), ny = int(m_map.y.size());
    const double high = std::max(range_of(m_map).high, 1e-300), low = weakest * high;
    auto* cells = m_colours->data();
    cells->setSize(nx, ny);
    cells->setRange({m_map.x.front(), m_map.x.back()}, {m_map.y.front(), m_map.y.back()});
    std::vector<std::array<double, 3>> waves; // value, x, y
    for (int i = 0; i < nx; ++i)
        for (int j = 0; j < ny; ++j) {
            const double z = m_map.z[std::size_t(j)][std::size_t(i)];
            cells->setCell(i, j, std::max(z, low));
            if (z > low) waves.push_back({z, m_map.x[std::size_t(i)], m_map.y[std::size_t(j)]});
        }
    m_colours->setGradient(gradient());
    set_scale(true);
    m_colours->setDataRange({low, high});
    std::sort(waves.rbegin(), waves.rend());
    for (std::size_t k = 0; k < std::min(most_named, waves.size()); ++k) {
        QCPItemText& label = add_label({waves[k][1] + 0.8, waves[k][2]}, value_text(m_map, waves[k][0]));
        label.setPositionAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    }
    m_plot->xAxis->setRange(m_map.x.front() - 0.5, m_map.x.back() + 0.5);
    m_plot->yAxis->setRange(m_map.y.front() - 0.5, m_map.y.back() + 0.5);
    set_picked(m_picked);
}

/// Between the lines that bound the map above and below, where there are such.
bool MapPlot::inside(double x, double y) const {
    for (const Curve& line : m_over.bounds) {
        const double bound = at_x(line, x);
        if (std::isnan(bound) || (bound > 0 ? y > bound : y < bound)) return false;
    }
    return true;
}

/// The pieces of a contour that lie inside.
void MapPlot::cut(const ContourLine& line, ContourLines& pieces) const {
    bool open = false;
    for (const MapPoint& p : line) {
        const bool in = inside(p.x, p.y);
        if (in && !open) pieces.emplace_back();
        if (in) pieces.back().push_back(p);
        open = in;
    }
}

void MapPlot::add_contours() {
    const QColor ink(20, 20, 20, 150); // the map's colours are the same in both themes
    const double wide = m_map.x.back() - m_map.x.front(), tall = m_map.y.back() - m_map.y.front();
    int turn = 0; // labels of neighbouring levels stand at different places along their lines
    for (double level : contour_levels(m_map, 9)) {
        const ContourLine* longest = nullptr;
        double longest_length = 0.25;
        ContourLines lines;
        for (const ContourLine& line : contour_lines(m_whole, level)) cut(line, lines);
        for (const ContourLine& line : lines) {
            auto* curve = new QCPCurve(m_plot->xAxis, m_plot->yAxis);
            QVector<double> x, y;
            double length = 0;
            for (std::size_t k = 0; k < line.size(); ++k) {
                x.append(line[k].x);
                y.append(line[k].y);
                if (k)
                    length +=
                        std::hypot((line[k].x - line[k - 1].x) / wide, (line[k].y - line[k - 1].y) / tall);
            }
            curve->setData(x, y);
            curve->setPen(QPen(ink, 1));
            if (length > longest_length) longest_length = length, longest = &line;
        }
        if (!longest) continue;
        const double where = 0.35 + 0.15 * (turn++ % 3);
        const MapPoint at = (*longest)[std::size_t(where * double(longest->size()))];
        add_label(at, QString::number(m_map.name == "efficiency" ? 100 * level : level, 'g', 3));
    }
}

/// Lines across the map, their names where they run inside it.
void MapPlot::add_limits() {
    constexpr double touching = 0.985; // of the bound: there it is the bound's own line
    const Theme& t = theme();
    int turn = 0;
    for (const Curve& limit : m_over.limits) {
        QVector<double> x, y;
        std::vector<MapPoint> free;
        for (std::size_t k = 0; k < limit.x.size(); ++k) {
            x.append(limit.x[k]);
            y.append(limit.y[k]);
            if (inside(limit.x[k], limit.y[k] / touching)) free.push_back({limit.x[k], limit.y[k]});
        }
        if (free.empty()) continue;
        auto* curve = new QCPCurve(m_plot->xAxis, m_plot->yAxis);
        curve->setData(x, y);
        curve->setPen(turn == 0 ? QPen(t.accent, 2.4) : QPen(t.accent, 1.4, Qt::DashLine));
        const auto place = std::size_t((0.12 + 0.2 * (turn++ % 4)) * double(free.size() - 1));
        add_label(free[place], name_words(limit.name == "torque" ? "for_good" : limit.name))
            .setPositionAlignment(Qt::AlignHCenter | Qt::AlignBottom);
    }
}

void MapPlot::set_picked(std::optional<MapPoint> point) {
    m_picked = point;
    m_mark->setVisible(point.has_value());
    if (point) m_mark->position->setCoords(point->x, point->y);
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void MapPlot::read_at(QPoint position) {
    const double x = m_plot->xAxis->pixelToCoord(position.x()), y = m_plot->yAxis->pixelToCoord(position.y());
    const double value = value_at(m_map, x, y);
    m_text->setVisible(!std::isnan(value));
    m_reading.clear();
    if (!std::isnan(value)) {
        m_reading = QStringLiteral("%1 at %2 %3, %4 %5")
                        .arg(value_text(m_map, value), QString::number(x, 'g', 4), unit_words(m_map.x_unit),
                             QString::number(y, 'g', 4), unit_words(m_map.y_unit));
        m_text->setText(m_reading);
        m_text->setPositionAlignment((x > m_plot->xAxis->range().center() ? Qt::AlignRight : Qt::AlignLeft) |
                                     (y > m_plot->yAxis->range().center() ? Qt::AlignTop : Qt::AlignBottom));
        m_text->position->setCoords(x, y);
    }
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

bool MapPlot::save(const QString& file) {
    return save_picture(*m_plot, file, {1200, 800}, {800, 540});
}

void MapPlot::copy_picture() {
    QApplication::clipboard()->setPixmap(m_plot->toPixmap(1200, 800));
}

} // namespace mavlo::app
