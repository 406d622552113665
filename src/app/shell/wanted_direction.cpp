#include "shell/wanted_direction.h"

#include <QSettings>
#include <algorithm>

namespace mavlo::app {
namespace {

QString key_of(const KeyFigure& figure) {
    return QStringLiteral("better/") + QString::fromStdString(figure.name);
}

} // namespace

int wanted_direction(const KeyFigure& figure) {
    return std::clamp(QSettings().value(key_of(figure), figure.better).toInt(), -1, 1);
}

void set_wanted_direction(const KeyFigure& figure, int direction) {
    if (direction == figure.better)
        QSettings().remove(key_of(figure));
    else
        QSettings().setValue(key_of(figure), direction);
}

} // namespace mavlo::app
