#pragma once

#include "shell/document.h"

#include <QWidget>

namespace mavlo::app {

/// Asks for a name and makes a variant of the one in hand; nothing where none is given.
void make_variant(Document& document, QWidget* window);

} // namespace mavlo::app
