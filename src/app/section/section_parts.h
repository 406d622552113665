#pragma once
// The parts of a section one after the other, in words: for the keyboard, and for those who hear the drawing.

#include "shell/document.h"

#include <QString>
#include <vector>

namespace mavlo::app {

struct SectionPart {
    std::string region, material; ///< as part_selected tells them
    QString words;                ///< "magnets, 16"
    Point place;                  ///< a point of the first one, m
};

/// Inside out: the bodies' iron and what lies in it, each kind once.
std::vector<SectionPart> section_parts(const DrawnMachine& built);

} // namespace mavlo::app
