#include "circuits/network_schematic.h"

#include "scope/device_paint.h"
#include "shell/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double left_margin = 34, right_margin = 60, top_margin = 26, bottom_margin = 40, half = 22;

/// "4.7 kΩ": three digits with the prefix that fits.
QString engineering(double value, const QString& unit) {
    struct Prefix {
        double factor;
        const char* sign;
    };
    constexpr Prefix prefixes[] = {{1e6, "M"},  {1e3, "k"},  {1, ""},     {1e-3, "m"},
                                   {1e-6, "µ"}, {1e-9, "n"}, {1e-12, "p"}};
    for (const Prefix& p : prefixes)
        if (std::abs(value) >= p.factor * 0.9995)
            return QStringLiteral("%1 %2%3")
                .arg(value / p.factor, 0, 'g', 3)
                .arg(QString::fromUtf8(p.sign), unit);
    return QStringLiteral("0 %1").arg(unit);
}

QString value_words(const Element& e) {
    const bool current = e.kind == Element::CurrentSource;
    switch (e.kind) {
    case Element::Resistor:
        return engineering(e.value, QStringLiteral("Ω"));
    case Element::Inductor:
        return engineering(e.value, QStringLiteral("H"));
    case Element::Capacitor:
        return engineering(e.value, QStringLiteral("F"));
    case Element::VoltageSource:
    case Element::CurrentSource:
        switch (e.wave.form) {
        case SourceWave::Constant:
            return engineering(e.wave.numbers.front(), current ? QStringLiteral("A") : QStringLiteral("V"));
        case SourceWave::Sine:
            return QObject::tr("sine");
        case SourceWave::Pulse:
            return QObject::tr("pulse");
        case SourceWave::Table:
            return QObject::tr("table");
        case SourceWave::Angle:
            return QObject::tr("by angle");
        }
        return {};
    case Element::Phase:
        return QObject::tr("phase %1").arg(QChar(u'U' + e.phase));
    default:
        return {};
    }
}

void paint_symbol(QPainter& painter, const Element& e, QPointF c, bool lit) {
    painter.setPen(QPen(lit ? theme().accent : theme().ink, lit ? 2.2 : 1.5));
    painter.setBrush(theme().sheet);
    switch (e.kind) {
    case Element::Resistor:
        painter.drawRect(QRectF(c.x() - 7, c.y() - 18, 14, 36));
        break;
    case Element::Inductor:
    case Element::Phase: {
        painter.setBrush(Qt::NoBrush);
        for (int k = -2; k < 2; ++k)
            painter.drawArc(QRectF(c.x() - 6, c.y() + 10 * k, 12, 10), -90 * 16, 180 * 16);
        if (e.kind == Element::Phase) painter.drawEllipse(c, 23, 23);
        break;
    }
    case Element::Capacitor:
        painter.fillRect(QRectF(c.x() - 1, c.y() - 4, 2, 8), theme().sheet);
        painter.drawLine(c + QPointF(-11, -4), c + QPointF(11, -4));
        painter.drawLine(c + QPointF(-11, 4), c + QPointF(11, 4));
        break;
    case Element::VoltageSource:
    case Element::CurrentSource:
        painter.drawEllipse(c, 15, 15);
        if (e.kind == Element::VoltageSource) {
            painter.drawLine(c + QPointF(-4, -7), c + QPointF(4, -7));
            painter.drawLine(c + QPointF(0, -11), c + QPointF(0, -3));
            painter.drawLine(c + QPointF(-4, 7), c + QPointF(4, 7));
        } else {
            painter.drawLine(c + QPointF(0, -10), c + QPointF(0, 10));
            painter.drawPolyline(QPolygonF{{c + QPointF(-4, 4), c + QPointF(0, 10), c + QPointF(4, 4)}});
        }
        break;
    case Element::Switch:
        paint_switch(painter, c, half, lit, false);
        break;
    case Element::Diode:
        break; // drawn the way its current goes
    }
}

} // namespace

NetworkSchematic::NetworkSchematic(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("network_schematic"));
    setMinimumSize(320, 240);
}

void NetworkSchematic::show_network(const Network& network) {
    m_network = network;
    m_layout = layout_of(network);
    update();
}

void NetworkSchematic::clear() {
    m_network = {};
    m_layout = {};
    update();
}

void NetworkSchematic::set_line(int line) {
    m_line = line;
    update();
}

double NetworkSchematic::column_x(int column) const {
    const double step =
        std::min(110.0, (width() - left_margin - right_margin) / std::max(1.0, double(m_layout.columns - 1)));
    return left_margin + step * column;
}

double NetworkSchematic::row_y(int row) const {
    const double step =
        std::min(130.0, (height() - top_margin - bottom_margin) / std::max(1.0, double(m_layout.rows - 1)));
    return top_margin + step * row;
}

/// Between two rows, so that no other node's line goes through the symbol.
QPointF NetworkSchematic::middle_of(std::size_t element) const {
    const Element& e = m_network.elements[element];
    const auto [upper, lower] =
        std::minmax(m_layout.nodes[std::size_t(e.from)].row, m_layout.nodes[std::size_t(e.to)].row);
    const int gap = upper + std::max(0, (lower - upper - 1) / 2);
    return {column_x(int(element)), (row_y(gap) + row_y(std::min(gap + 1, lower))) / 2};
}

QPointF NetworkSchematic::place_of(const std::string& element) const {
    const int k = m_network.find(element);
    return k < 0 ? QPointF() : middle_of(std::size_t(k));
}

void NetworkSchematic::paint_node(QPainter& painter, std::size_t node) const {
    const auto& line = m_layout.nodes[node];
    if (line.last < 0) return;
    const double y = row_y(line.row), x0 = column_x(line.first), x1 = column_x(line.last);
    painter.setPen(QPen(theme().ink, 1.5));
    painter.drawLine(QPointF(x0, y), QPointF(x1, y));
    painter.setFont(small_font());
    painter.setPen(theme().soft);
    painter.drawText(QRectF(x0 + 5, y - 18, 70, 16), Qt::AlignLeft | Qt::AlignBottom,
                     QString::fromStdString(m_network.nodes[node]));
    if (node != 0) return;
    painter.setPen(QPen(theme().ink, 1.5));
    const QPointF earth(x0, y + 14);
    painter.drawLine(QPointF(x0, y), earth);
    for (int k = 0; k < 3; ++k)
        painter.drawLine(earth + QPointF(-9 + 3 * k, 4 * k), earth + QPointF(9 - 3 * k, 4 * k));
}

void NetworkSchematic::paint_element(QPainter& painter, std::size_t index) const {
    const Element& e = m_network.elements[index];
    const double x = column_x(int(index));
    const double y_from = row_y(m_layout.nodes[std::size_t(e.from)].row),
                 y_to = row_y(m_layout.nodes[std::size_t(e.to)].row);
    const bool lit = m_line > 0 && e.line == m_line;
    const QPointF c = middle_of(index);
    painter.setPen(QPen(lit ? theme().accent : theme().ink, lit ? 2.2 : 1.5));
    painter.drawLine(QPointF(x, y_from), QPointF(x, y_to));
    painter.setBrush(theme().ink);
    for (double y : {y_from, y_to}) painter.drawEllipse(QPointF(x, y), 2.4, 2.4);
    if (e.kind == Element::Diode) {
        // paint_diode() draws it upwards: turned where the cathode is the lower end.
        painter.save();
        painter.translate(c);
        if (y_to > y_from) painter.rotate(180);
        paint_diode(painter, {}, half, lit);
        painter.restore();
    } else {
        paint_symbol(painter, e, c, lit);
    }
    painter.setFont(small_font());
    painter.setPen(lit ? theme().accent : theme().ink);
    const double aside = e.kind == Element::Phase ? 27 : 19;
    painter.drawText(QRectF(x + aside, c.y() - 16, 90, 16), Qt::AlignLeft | Qt::AlignVCenter,
                     QString::fromStdString(e.name));
    painter.setPen(theme().soft);
    painter.drawText(QRectF(x + aside, c.y(), 90, 16), Qt::AlignLeft | Qt::AlignVCenter, value_words(e));
}

void NetworkSchematic::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), theme().sheet);
    if (m_network.elements.empty()) {
        painter.setPen(theme().soft);
        painter.drawText(rect(), Qt::AlignCenter | Qt::TextWordWrap,
                         tr("The schematic stands here as soon as the list can be read."));
        return;
    }
    for (std::size_t n = 0; n < m_layout.nodes.size(); ++n) paint_node(painter, n);
    for (std::size_t e = 0; e < m_network.elements.size(); ++e) paint_element(painter, e);
}

void NetworkSchematic::mousePressEvent(QMouseEvent* event) {
    const Element* best = nullptr;
    double least = 40;
    for (const Element& e : m_network.elements) {
        const QPointF d = place_of(e.name) - event->position();
        if (const double away = std::hypot(d.x(), d.y()); away < least) least = away, best = &e;
    }
    if (best) Q_EMIT line_clicked(best->line);
}

} // namespace mavlo::app
