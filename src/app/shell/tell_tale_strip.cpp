#include "shell/tell_tales.h"
#include "shell/theme.h"

#include <QPainter>
#include <cmath>
#include <numbers>

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

struct Source {
    QString title, unit, full_key;
    std::optional<double> value, reference;
    int better;    ///< +1: more is better, -1: less is better, 0: neither
    bool is_field; ///< comes from a field, so the quick value wears a tilde
};

std::optional<double> per_cent(std::optional<double> share) {
    return share ? std::optional(100 * *share) : std::nullopt;
}

TellTaleStrip::Cell cell_of(const Source& source, std::optional<double> full) {
    TellTaleStrip::Cell cell;
    cell.title = source.title;
    const auto value = full ? full : source.value;
    if (!value) {
        cell.value = QStringLiteral("–");
        return cell;
    }
    const Scaled s = scaled(*value, source.unit);
    cell.value = digits(*value * s.factor);
    cell.unit = s.unit;
    cell.quick = source.is_field && !full;
    if (!source.reference) return cell;
    // A quick figure is held against the reference's quick figure: both leave out the same.
    const double change = source.value.value_or(*value) - *source.reference;
    if (std::abs(change) <= 5e-4 * std::abs(*source.reference)) {
        cell.change = QStringLiteral("= reference");
        return cell;
    }
    cell.change = digits(std::abs(change) * s.factor);
    cell.direction = change > 0 ? 1 : -1;
    cell.verdict = cell.direction * source.better;
    return cell;
}

} // namespace

TellTaleStrip::TellTaleStrip(Document& document, TellTaleEngine& engine, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_engine(engine) {
    setObjectName(QStringLiteral("tell_tales"));
    setFixedHeight(92);
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
    const Machine& m = built->machine;
    auto of_reference = [&](auto pick) {
        return reference ? std::optional<double>(pick(*reference)) : std::nullopt;
    };
    auto optional_of = [&](std::optional<double> QuickFigures::*field) {
        return reference ? reference->*field : std::nullopt;
    };
    const std::vector<Source> sources{
        {tr("Torque at %1 A").arg(m.rating.current), "N·m", "torque_mean", now->torque,
         optional_of(&QuickFigures::torque), 1, true},
        {tr("Cogging p–p"), "N·m", "cogging_peak_to_peak", now->cogging, optional_of(&QuickFigures::cogging),
         -1, true},
        {tr("Line EMF, %1 rpm").arg(m.rating.speed * 30 / std::numbers::pi, 0, 'g', 4), "V rms",
         "back_emf_line_rms", now->back_emf, optional_of(&QuickFigures::back_emf), 0, true},
        {tr("Tooth / yoke, T"), "", "", now->tooth, of_reference([](const auto& f) { return f.tooth; }), -1,
         true},
        {tr("Phase resistance"), "Ω", "", now->resistance, optional_of(&QuickFigures::resistance), -1, false},
        {tr("Losses, copper %1").arg(digits(now->copper_loss.value_or(0))), "W", "total_loss", now->loss,
         optional_of(&QuickFigures::loss), -1, true},
        {tr("Efficiency"), "%", "efficiency", per_cent(now->efficiency),
         per_cent(optional_of(&QuickFigures::efficiency)), 1, true},
        {tr("Slot fill"), "", "", now->fill, optional_of(&QuickFigures::fill), 0, false},
        {tr("Active mass"), "kg", "", now->mass, of_reference([](const auto& f) { return f.mass; }), -1, false},
    };
    for (const Source& source : sources) {
        const auto full = m_full.find(source.full_key);
        const double scale = source.full_key == QStringLiteral("efficiency") ? 100 : 1;
        list.push_back(
            cell_of(source, full == m_full.end() ? std::nullopt : std::optional(scale * full->second)));
    }
    list[3].value = QStringLiteral("%1 / %2").arg(now->tooth, 0, 'f', 2).arg(now->yoke, 0, 'f', 2);
    list[3].unit.clear();
    return list;
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
        painter.setFont(small_font());
        painter.setPen(t.soft);
        painter.drawText(QRectF(x, 10, cell_width - 14, 20), Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(cell.title, Qt::ElideRight, int(cell_width - 22)));
        painter.setFont(figure_font(size));
        painter.setPen(t.ink);
        const QString value = (cell.quick ? QStringLiteral("≈ ") : QString()) + cell.value;
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
