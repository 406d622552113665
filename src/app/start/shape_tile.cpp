#include "start/shape_tile.h"

#include "section/small_section.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QPainter>

namespace mavlo::app {
namespace {
constexpr int caption_height = 22;
}

Design starting_design(const std::string& shape, int slots, int poles) {
    Design design;
    if (const auto project = new_project(shape)) design = project->in_hand().design;
    if (slots > 0) design.texts["stator.slots"] = std::to_string(slots);
    if (poles > 0) design.texts["rotor.poles"] = std::to_string(poles);
    return design;
}

ShapeTile::ShapeTile(const StartingShape& shape, QWidget* parent)
    : QAbstractButton(parent)
    , m_name(shape.name) {
    setObjectName(QString::fromStdString("shape:" + shape.name));
    setText(spoken(shape.title));
    setToolTip(spoken(shape.tells));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setMinimumSize(96, 104);
    set_pair(0, 0);
    m_own = m_built;
}

void ShapeTile::set_pair(int slots, int poles) {
    Problems problems;
    m_built = build_design({}, starting_design(m_name, slots, poles), problems);
    setEnabled(m_built != nullptr);
    setToolTip(m_built ? toolTip()
                       : tr("Cannot be built so: %1").arg(QString::fromStdString(problems.front().sentence)));
    update();
}

void ShapeTile::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
    painter.setPen(QPen(hasFocus() || underMouse() ? t.accent : t.line, hasFocus() ? 2 : 1));
    painter.setBrush(t.paper);
    painter.drawRoundedRect(box, 6, 6);
    painter.setFont(small_font());
    painter.setPen(isEnabled() ? t.ink : t.soft);
    painter.drawText(box.adjusted(4, 0, -4, -4), Qt::AlignHCenter | Qt::AlignBottom,
                     painter.fontMetrics().elidedText(text(), Qt::ElideRight, int(box.width()) - 8));
    if (!m_built) {
        painter.drawText(box.adjusted(8, 8, -8, -caption_height), Qt::AlignCenter | Qt::TextWordWrap,
                         tr("not with these slots and poles"));
        return;
    }
    paint_small_section(painter, box.adjusted(8, 8, -8, -caption_height), *m_built);
}

} // namespace mavlo::app
