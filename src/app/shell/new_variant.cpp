#include "shell/new_variant.h"

#include <QInputDialog>

namespace mavlo::app {

void make_variant(Document& document, QWidget* window) {
    const QString name =
        QInputDialog::getText(window, QObject::tr("New variant"), QObject::tr("Name of the new variant"));
    if (!name.isEmpty()) document.add_variant(name);
}

} // namespace mavlo::app
