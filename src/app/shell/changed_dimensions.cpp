#include "shell/changed_dimensions.h"

#include "machine/parameter.h"
#include "shell/spoken.h"

namespace mavlo::app {

QStringList changed_dimensions(const Design& before, const Design& now) {
    QStringList list;
    for (const Parameter* p : used_parameters(now)) {
        const std::string was = before.text(p->path), is = now.text(p->path);
        if (was == is) continue;
        const QString label = spoken(p->label);
        list << QStringLiteral("%1 %2 → %3")
                    .arg(label.left(1).toLower() + label.mid(1), QString::fromStdString(was),
                         QString::fromStdString(is));
    }
    return list;
}

} // namespace mavlo::app
