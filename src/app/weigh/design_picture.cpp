#include "weigh/design_picture.h"

#include "section/section_layers.h"
#include "shell/theme.h"

#include <QPainter>

namespace mavlo::app {

DesignPicture::DesignPicture(QWidget* parent)
    : QWidget(parent) {
    setMinimumSize(150, 150);
}

void DesignPicture::show_design(const Project& project, const Design& design) {
    Problems problems;
    m_built = build_design(project, design, problems);
    update();
}

void DesignPicture::clear() {
    m_built.reset();
    update();
}

void DesignPicture::paintEvent(QPaintEvent*) {
    if (!m_built) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    ViewFrame frame;
    frame.fit(QRectF(rect()).adjusted(4, 4, -4, -4), m_built->drawing.bodies.back().outer_radius);
    paint_materials(painter, frame, *m_built, {});
    paint_outlines(painter, frame, *m_built, {});
}

} // namespace mavlo::app
