#include "question/straight.h"
#include "shell/spoken.h"
#include "shell/tell_tales.h"
#include "shell/theme.h"
#include "shell/wanted_direction.h"

#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace mavlo::app {
namespace {

/// Three significant digits without exponents.
QString digits(double value) {
    const double size = std::abs(value);
    if (size == 0) return QStringLiteral("0");
    const int decimals = std::clamp(2 - int(std::floor(std::log10(size))), 0, 4);
    return QString::number(value, 'f', decimals);
}

/// A figure with a unit in thousandths or thousands where that reads better.
struct Scaled {
    double factor;
    QString unit;
};
Scaled scaled(double value, const QString& unit) {
    const double size = std::abs(value);
    if (size > 0 && size < 0.1) return {1e3, QStringLiteral("m") + unit};
    if (size >= 1e4) return {1e-3, QStringLiteral("k") + unit};
    return {1, unit};
}

/// A key figure of the design in hand: the full answer's value where there is one, and the reference's.
struct Reading {
    KeyFigure figure;
    std::optional<double> quick, full, reference; ///< in the figure's unit
    std::optional<double> value() const { return full ? full : quick; }
};

void add_change(TellTaleStrip::Cell& cell, const Reading& reading, double factor) {
    if (!reading.reference) return;
    // A quick figure is held against the reference's quick figure: both leave out the same.
    const double change = reading.quick.value_or(*reading.value()) - *reading.reference;
    if (std::abs(change) <= 5e-4 * std::abs(*reading.reference)) return;
    cell.change = digits(std::abs(change) * factor);
    cell.direction = change > 0 ? 1 : -1;
    cell.verdict = cell.direction * wanted_direction(reading.figure);
}

TellTaleStrip::Cell cell_of(const Reading& reading, const QString& title) {
    TellTaleStrip::Cell cell;
    cell.title = title;
    const auto value = reading.value();
    if (!value) {
        cell.value = QStringLiteral("–");
        return cell;
    }
    const Scaled s = scaled(*value, QString::fromStdString(reading.figure.unit));
    cell.value = digits(*value * s.factor);
    cell.unit = s.unit;
    cell.quick = reading.figure.from_field && !reading.full;
    add_change(cell, reading, s.factor);
    return cell;
}

/// A second figure of the same unit, behind a stroke; the unit then stands with the titles.
void join(TellTaleStrip::Cell& cell, const Reading& first, const Reading& second, const QString& title) {
    cell.title += QStringLiteral(" / ") + title;
    const Reading& lead = first.value() ? first : second;
    if (!lead.value()) return;
    const Scaled s = scaled(*lead.value(), QString::fromStdString(lead.figure.unit));
    const QString own = digits(*lead.value() * s.factor);
    const qsizetype point = own.indexOf(QLatin1Char('.'));
    const int decimals = point < 0 ? 0 : std::min(2, int(own.size() - point) - 1);
    const auto number = [&](std::optional<double> value) {
        return value ? QString::number(*value * s.factor, 'f', decimals) : QStringLiteral("–");
    };
    cell.value = number(first.value()) + QStringLiteral(" / ") + number(second.value());
    cell.quick |= lead.figure.from_field && !lead.full;
    cell.title += QStringLiteral(", ") + s.unit;
    cell.unit.clear();
}

QString title_of(const KeyFigure& figure, const Machine& machine) {
    return spoken(figure.title ? figure.title(machine) : figure.label);
}

} // namespace

TellTaleStrip::TellTaleStrip(Document& document, TellTaleEngine& engine, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_engine(engine) {
    setObjectName(QStringLiteral("tell_tales"));
    setFixedHeight(92);
    setToolTip(tr("A click shows on Draw how much each dimension moves the figure"));
    connect(&engine, &TellTaleEngine::changed, this, qOverload<>(&QWidget::update));
    connect(&document, &Document::changed, this, [this] { m_full.clear(); });
}

void TellTaleStrip::set_full(const QString& figure, std::optional<double> value) {
    if (value)
        m_full[figure] = *value;
    else
        m_full.erase(figure);
    update();
}

std::vector<TellTaleStrip::Cell> TellTaleStrip::cells() const {
    const auto built = m_document.built();
    const QuickFigures* now = m_engine.last();
    const QuickFigures* reference = m_engine.reference();
    std::vector<Cell> list;
    if (!built || !now) return list;
    std::map<std::string, std::pair<std::size_t, Reading>> placed; // by name: which cell, and what it reads
    const Facts facts = built->machine.facts();
    for (const KeyFigure& known : registry<KeyFigure>().all()) {
        if (known.applies && !known.applies(facts)) continue;
        const KeyFigure figure = shown_key_figure(known, built->machine);
        const auto in_unit = [&](std::optional<double> si) {
            return si ? std::optional(*si * figure.factor) : std::nullopt;
        };
        const auto full = m_full.find(QString::fromStdString(figure.name));
        const Reading reading{figure, in_unit((*now)[figure.name]),
                              full == m_full.end() ? std::nullopt : in_unit(full->second),
                              reference ? in_unit((*reference)[figure.name]) : std::nullopt};
        const QString title = title_of(figure, built->machine);
        if (const auto other = placed.find(figure.joins); other != placed.end()) {
            join(list[other->second.first], other->second.second, reading, title);
        } else {
            placed[figure.name] = {list.size(), reading};
            const bool alone = !figure.joins.empty(); // what it would have joined does not apply
            list.push_back(cell_of(reading, alone ? spoken(figure.label) : title));
            list.back().figure = QString::fromStdString(figure.name);
        }
    }
    return list;
}

void TellTaleStrip::set_chosen(const QString& figure) {
    m_chosen = figure;
    update();
}

namespace {

constexpr double pad = 10;

QString shown_value(const TellTaleStrip::Cell& cell) {
    return (cell.quick ? QStringLiteral("≈ ") : QString()) + cell.value;
}

/// Pixels that a cell would like.
double wanted_width(const TellTaleStrip::Cell& cell, int pixels) {
    const QFontMetrics small(small_font()), large(figure_font(pixels));
    const double value = large.horizontalAdvance(shown_value(cell)) +
                         (cell.unit.isEmpty() ? 0 : 6 + small.horizontalAdvance(cell.unit));
    constexpr double longest_title = 150; // a longer one is cut before others are
    return std::max(std::min(small.horizontalAdvance(cell.title) + 4.0, longest_title), value) + 2 * pad;
}

int value_pixels(double width, std::size_t cells) {
    return width > 138 * double(cells) ? 20 : 16;
}

} // namespace

/// Where the cells begin, and the last one ends: each as wide as its words, what is left shared evenly.
std::vector<double> TellTaleStrip::edges(const std::vector<Cell>& list) const {
    std::vector<double> wanted;
    double sum = 0;
    for (const Cell& cell : list) {
        wanted.push_back(wanted_width(cell, value_pixels(width(), list.size())));
        sum += wanted.back();
    }
    const double more = (width() - sum) / double(std::max<std::size_t>(1, list.size()));
    std::vector<double> out{0};
    for (double w : wanted) out.push_back(out.back() + (more >= 0 ? w + more : w * width() / sum));
    return out;
}

void TellTaleStrip::mousePressEvent(QMouseEvent* event) {
    const auto list = cells();
    const auto ends = edges(list);
    for (std::size_t i = 0; i < list.size(); ++i)
        if (event->position().x() < ends[i + 1]) {
            Q_EMIT figure_clicked(list[i].figure);
            return;
        }
}

void TellTaleStrip::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.fillRect(rect(), t.sheet);
    painter.setPen(t.line);
    painter.drawLine(0, 0, width(), 0);
    const auto list = cells();
    if (list.empty()) {
        painter.setPen(t.soft);
        painter.setFont(body_font());
        painter.drawText(rect(), Qt::AlignCenter,
                         m_document.is_good() ? tr("the key figures are being computed …")
                                              : tr("no key figures: the drawing cannot be built yet"));
        return;
    }
    // Figures of an older design stay readable, but fade until their own arrive.
    painter.setOpacity(m_engine.present() ? 1 : 0.45);
    const auto ends = edges(list);
    for (std::size_t i = 0; i < list.size(); ++i) {
        if (i > 0) {
            painter.setPen(t.line);
            painter.drawLine(QPointF(ends[i], 16), QPointF(ends[i], 78));
        }
        paint_cell(painter, list[i], ends[i], ends[i + 1] - ends[i], value_pixels(width(), list.size()));
    }
}

void TellTaleStrip::paint_cell(QPainter& painter, const Cell& cell, double left, double wide, int size) const {
    const Theme& t = theme();
    const double x = left + pad;
    if (!m_chosen.isEmpty() && cell.figure == m_chosen)
        painter.fillRect(QRectF(left + 1, 1, wide - 2, 3), t.accent);
    painter.setFont(small_font());
    painter.setPen(t.soft);
    if (painter.fontMetrics().horizontalAdvance(cell.title) < wide - pad) {
        painter.drawText(QRectF(x, 10, wide - pad, 20), Qt::AlignLeft | Qt::AlignVCenter, cell.title);
    } else { // in two lines, smaller
        QFont narrow = small_font();
        narrow.setPixelSize(10);
        painter.setFont(narrow);
        painter.drawText(QRectF(x, 6, wide - pad, 28), int(Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap),
                         cell.title);
    }
    const QString value = shown_value(cell);
    // Two figures in a cell may be long.
    for (int pixels = size; pixels > 11; --pixels) {
        painter.setFont(figure_font(pixels));
        if (painter.fontMetrics().horizontalAdvance(value) < wide - 2 * pad + 1) break;
    }
    painter.setPen(t.ink);
    painter.drawText(QPointF(x, 53), value);
    const double after = x + painter.fontMetrics().horizontalAdvance(value) + 6;
    painter.setFont(small_font());
    painter.setPen(t.soft);
    painter.drawText(QPointF(after, 53), cell.unit);
    if (!cell.change.isEmpty()) paint_change(painter, cell, x);
}

void TellTaleStrip::paint_change(QPainter& painter, const Cell& cell, double x) const {
    const Theme& t = theme();
    if (cell.direction != 0) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(cell.verdict > 0 ? t.good : cell.verdict < 0 ? t.caution : t.soft);
        painter.setRenderHint(QPainter::Antialiasing);
        const double tip = cell.direction > 0 ? 68 : 78, base = cell.direction > 0 ? 78 : 68;
        painter.drawPolygon(QPolygonF{{QPointF(x + 5, tip), QPointF(x + 10, base), QPointF(x, base)}});
        x += 14;
    }
    painter.setPen(cell.verdict > 0 ? t.written(t.good) : t.soft);
    painter.drawText(QPointF(x, 78), cell.change);
}

} // namespace mavlo::app
