#include "section/small_section.h"
#include "shell/theme.h"
#include "weigh/design_strip_row.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace mavlo::app {
namespace {
constexpr int cell_width = 92, cell_height = 100, caption_height = 18;
}

DesignStripRow::DesignStripRow(QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("design_strip_row"));
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Designs as pictures; the arrow keys take the next one"));
}

void DesignStripRow::show_designs(const Project& project, std::vector<StripDesign> designs) {
    m_project = project;
    m_cells.clear();
    for (StripDesign& design : designs) m_cells.push_back({std::move(design), nullptr, false});
    m_picked.reset();
    setFixedSize(std::max(1, int(m_cells.size())) * cell_width, cell_height);
    update();
}

void DesignStripRow::pick(std::optional<std::size_t> index) {
    m_picked = index && *index < m_cells.size() ? index : std::nullopt;
    if (m_picked) setAccessibleDescription(m_cells[*m_picked].shown.caption);
    update();
}

QRect DesignStripRow::place_of(std::size_t index) const {
    return {int(index) * cell_width, 0, cell_width, cell_height};
}

void DesignStripRow::mousePressEvent(QMouseEvent* event) {
    const auto index = std::size_t(std::max(0.0, event->position().x()) / cell_width);
    if (index < m_cells.size()) Q_EMIT design_picked(index);
}

void DesignStripRow::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if (step == 0 || m_cells.empty()) return QWidget::keyPressEvent(event);
    const int next = m_picked ? int(*m_picked) + step : 0;
    Q_EMIT design_picked(std::size_t(std::clamp(next, 0, int(m_cells.size()) - 1)));
}

void DesignStripRow::paintEvent(QPaintEvent* event) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    for (std::size_t i = 0; i < m_cells.size(); ++i)
        if (const QRect box = place_of(i); box.intersects(event->rect()))
            paint_cell(painter, m_cells[i], box, m_picked == i);
}

void DesignStripRow::paint_cell(QPainter& painter, Cell& cell, const QRect& box, bool picked) {
    const Theme& t = theme();
    if (!cell.is_tried) {
        Problems problems; // the table says them
        cell.built = build_design(m_project, cell.shown.design, problems);
        cell.is_tried = true;
    }
    const QRectF frame = QRectF(box).adjusted(2, 2, -2, -2);
    painter.setPen(QPen(picked ? t.accent : t.line, picked ? 2 : 1));
    painter.setBrush(picked ? t.tint(0.1) : t.paper);
    painter.drawRoundedRect(frame, 5, 5);
    const QRectF inner = frame.adjusted(4, 4, -4, -caption_height);
    if (cell.built)
        paint_small_section(painter, inner, *cell.built);
    else {
        painter.setPen(t.soft);
        painter.setFont(small_font());
        painter.drawText(inner, Qt::AlignCenter | Qt::TextWordWrap, tr("cannot be built"));
    }
    painter.setFont(small_font());
    painter.setPen(cell.shown.marked ? t.written(t.accent) : t.ink);
    painter.drawText(frame.adjusted(2, 0, -2, -2), Qt::AlignHCenter | Qt::AlignBottom,
                     painter.fontMetrics().elidedText(cell.shown.caption, Qt::ElideRight, cell_width - 8));
}

DesignStrip::DesignStrip(QWidget* parent)
    : QScrollArea(parent)
    , m_row(new DesignStripRow(this)) {
    setObjectName(QStringLiteral("design_strip"));
    setWidget(m_row);
    setFixedHeight(cell_height + 12);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(m_row, &DesignStripRow::design_picked, this, [this](std::size_t index) {
        pick(index);
        Q_EMIT design_picked(index);
    });
}

void DesignStrip::show_designs(const Project& project, std::vector<StripDesign> designs) {
    setVisible(!designs.empty());
    m_row->show_designs(project, std::move(designs));
}

void DesignStrip::pick(std::optional<std::size_t> index) {
    m_row->pick(index);
    if (!m_row->picked()) return;
    const QRect box = m_row->place_of(*m_row->picked());
    ensureVisible(box.center().x(), box.center().y(), cell_width, 0);
}

std::optional<std::size_t> DesignStrip::picked() const {
    return m_row->picked();
}

QRect DesignStrip::place_of(std::size_t index) const {
    return m_row->place_of(index);
}

QWidget* DesignStrip::row() const {
    return m_row;
}

} // namespace mavlo::app
