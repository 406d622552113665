#pragma once
// The parameters that rotors with magnets share. `layer` is "rotor." or, for a second layer, "rotor.second.".

#include "machine/parameter.h"

namespace mavlo {

/// Thickness and what every magnet has: grade, temperature, axial segments, pieces across.
std::vector<Parameter> magnet_parameters(const std::string& layer, const char* thickness);
/// Of magnets in pockets: their width, and the clearance round them.
std::vector<Parameter> buried_magnet_parameters(const std::string& layer, const char* thickness,
                                                const char* width);

struct PocketStandards {
    const char* angle; ///< null: the pockets have none
    const char* depth;
    const char* post; ///< null: none
};
/// Of the pockets themselves.
std::vector<Parameter> pocket_parameters(const std::string& layer, const PocketStandards& standards);
/// An iron face of a smaller radius than the gap's.
std::vector<Parameter> face_parameters();

} // namespace mavlo
