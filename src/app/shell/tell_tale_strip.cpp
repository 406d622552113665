#include "shell/tell_tales.h"
#include "shell/theme.h"

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
    const KeyFigure* figure;
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
    cell.verdict = cell.direction * reading.figure->better;
}

TellTaleStrip::Cell cell_of(const Reading& reading, const QString& title) {
    TellTaleStrip::Cell cell;
    cell.title = title;
    const auto value = reading.value();
    if (!value) {
        cell.value = QStringLiteral("–");
        return cell;
    }
    const Scaled s = scaled(*value, QString::fromStdString(reading.figure->unit));
    cell.value = digits(*value * s.factor);
    cell.unit = s.unit;
    cell.quick = reading.figure->from_field && !reading.full;
    add_change(cell, reading, s.factor);
    return cell;
}

/// A second figure of the same unit, behind a stroke; the unit then stands with the titles.
void join(TellTaleStrip::Cell& cell, const Reading& first, const Reading& second, const QString& title) {
    cell.title += QStringLiteral(" / ") + title;
    if (!first.value() || !second.value()) return;
    const Scaled s = scaled(*first.value(), QString::fromStdString(first.figure->unit));
    const qsizetype point = cell.value.indexOf(QLatin1Char('.'));
    const int decimals = point < 0 ? 0 : std::min(2, int(cell.value.size() - point) - 1);
    const auto number = [&](double value) { return QString::number(value * s.factor, 'f', decimals); };
    cell.value = number(*first.value()) + QStringLiteral(" / ") + number(*second.value());
    cell.title += QStringLiteral(", ") + s.unit;
    cell.unit.clear();
}

QString title_of(const KeyFigure& figure, const Machine& machine) {
    return QObject::tr((figure.title ? figure.title(machine) : figure.label).c_str());
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
    for (const KeyFigure& figure : registry<KeyFigure>().all()) {
        if (figure.applies && !figure.applies(facts)) continue;
        const auto in_unit = [&](std::optional<double> si) {
            return si ? std::optional(*si * figure.factor) : std::nullopt;
        };
        const auto full = m_full.find(QString::fromStdString(figure.name));
        const Reading reading{&figure, in_unit((*now)[figure.name]),
                              full == m_full.end() ? std::nullopt : in_unit(full->second),
                              reference ? in_unit((*reference)[figure.name]) : std::nullopt};
        const QString title = title_of(figure, built->machine);
        if (const auto other = placed.find(figure.joins); other != placed.end()) {
            join(list[other->second.first], other->second.second, reading, title);
        } else {
            placed[figure.name] = {list.size(), reading};
            const bool alone = !figure.joins.empty(); // what it would have joined does not apply
            list.push_back(cell_of(reading, alone ? tr(figure.label.c_str()) : title));
            list.back().figure = QString::fromStdString(figure.name);
        }
    }
    return list;
}

void TellTaleStrip::set_chosen(const QString& figure) {
    m_chosen = figure;
    update();
}

void TellTaleStrip::mousePressEvent(QMouseEvent* event) {
    const auto list = cells();
    const auto index = std::size_t(event->position().x() / width() * double(list.size()));
    if (index < list.size()) Q_EMIT figure_clicked(list[index].figure);
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
    const double cell_width = double(width()) / double(list.size());
    const int size = cell_width > 138 ? 20 : 16;
    for (std::size_t i = 0; i < list.size(); ++i) {
        const Cell& cell = list[i];
        const double x = cell_width * double(i) + (cell_width > 138 ? 16 : 10);
        if (i > 0) {
            painter.setPen(t.line);
            painter.drawLine(QPointF(cell_width * double(i), 16), QPointF(cell_width * double(i), 78));
        }
        if (!m_chosen.isEmpty() && cell.figure == m_chosen)
            painter.fillRect(QRectF(cell_width * double(i) + 1, 1, cell_width - 2, 3), t.accent);
        painter.setFont(small_font());
        painter.setPen(t.soft);
        painter.drawText(QRectF(x, 10, cell_width - 14, 20), Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(cell.title, Qt::ElideRight, int(cell_width - 22)));
        const QString value = (cell.quick ? QStringLiteral("≈ ") : QString()) + cell.value;
        // Two figures in a cell may be long.
        for (int pixels = size; pixels > 11; --pixels) {
            painter.setFont(figure_font(pixels));
            if (painter.fontMetrics().horizontalAdvance(value) < cell_width - 20) break;
        }
        painter.setPen(t.ink);
        painter.drawText(QPointF(x, 53), value);
        const double after = x + painter.fontMetrics().horizontalAdvance(value) + 6;
        painter.setFont(small_font());
        painter.setPen(t.soft);
        painter.drawText(QPointF(after, 53), cell.unit);
        if (cell.change.isEmpty()) continue;
        double text_x = x;
        if (cell.direction != 0) {
            painter.setPen(Qt::NoPen);
            painter.setBrush(cell.verdict > 0 ? t.good : cell.verdict < 0 ? t.caution : t.soft);
            painter.setRenderHint(QPainter::Antialiasing);
            const double tip = cell.direction > 0 ? 68 : 78, base = cell.direction > 0 ? 78 : 68;
            painter.drawPolygon(QPolygonF{{QPointF(x + 5, tip), QPointF(x + 10, base), QPointF(x, base)}});
            text_x += 14;
        }
        painter.setPen(cell.verdict > 0 ? t.good : t.soft);
        painter.drawText(QPointF(text_x, 78), cell.change);
    }
}

} // namespace mavlo::app
