#pragma once
// The materials that a parameter may name.

#include "machine/parameter.h"
#include "material/material.h"

#include <QStringList>

namespace mavlo::app {

/// Of the project's own library and of the shipped one, of the parameter's kind.
inline QStringList material_names(const Parameter& parameter, const MaterialLibrary& own) {
    QStringList names;
    const bool room = parameter.material == MaterialKind::Air;
    if (room) names << QStringLiteral("air");
    for (const auto* library : {&own, &shipped_materials()})
        for (const auto& [name, material] : *library)
            if (material.kind == parameter.material || (room && material.kind == MaterialKind::Insulator))
                names << QString::fromStdString(name);
    return names;
}

} // namespace mavlo::app
