#pragma once
// The section as a file: drawing, picture, or mesh and field.

#include "compute/jobs.h"
#include "section/section_view.h"

#include <QString>
#include <functional>

namespace mavlo::app {

/// By the ending: .dxf the whole section as a drawing; .svg, .pdf, .png what the view shows; .vtu mesh and
/// field at the view's angle with this current, solved beside the window. `told` gets a sentence when it is
/// done or failed.
void export_section(const QString& file, SectionView& view, const Document& document,
                    const CurrentWave& current, Jobs& jobs, const std::function<void(const QString&)>& told);

} // namespace mavlo::app
