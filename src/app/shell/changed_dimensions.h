#pragma once

#include "machine/design.h"

#include <QStringList>

namespace mavlo::app {

/// "air gap 0.8 mm → 1 mm", one a parameter that the present design uses.
QStringList changed_dimensions(const Design& before, const Design& now);

} // namespace mavlo::app
