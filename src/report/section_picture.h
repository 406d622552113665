#pragma once
// The cross-section as a picture: materials, the field over it, or a pitch with its dimensions.

#include "figure/picture.h"
#include "machine/machine.h"
#include "report/canvas.h"

namespace mavlo {

enum class Overlay { Materials, Flux, Lines, Mesh };

/// The bytes of a picture of the whole section with the rotor turned by `angle` (rad); empty when it cannot be
/// made. `field` is needed for all overlays but the materials.
std::string section_picture(const Machine& machine, double angle, Overlay overlay, const FieldPicture* field,
                            Canvas::Form form);

/// A pitch of a body with the dimensions that stand on it, as an SVG.
std::string dimensioned_picture(const Machine& machine, const Body& body);

} // namespace mavlo
