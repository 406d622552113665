#include "weigh/design_picture.h"

#include "section/small_section.h"

#include <QPainter>

namespace mavlo::app {

DesignPicture::DesignPicture(QWidget* parent)
    : QWidget(parent) {
    setMinimumSize(150, 150);
}

void DesignPicture::show_design(const Project& project, const Design& design) {
    Problems problems;
    show_built(build_design(project, design, problems));
}

void DesignPicture::show_built(std::shared_ptr<const DrawnMachine> built) {
    m_built = std::move(built);
    update();
}

void DesignPicture::paintEvent(QPaintEvent*) {
    if (!m_built) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paint_small_section(painter, QRectF(rect()).adjusted(4, 4, -4, -4), *m_built);
}

} // namespace mavlo::app
