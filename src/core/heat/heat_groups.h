#pragma once
// What the elements of a machine's two bodies are for its heat, in the order of SectionHeat's groups; and its
// domains.

namespace mavlo {

inline constexpr int stator_teeth = 0, stator_yoke = 1, stator_winding = 2, stator_air = 3, stator_gap = 4,
                     stator_carrier = 5;
inline constexpr int rotor_iron = 0, rotor_magnets = 1, rotor_bars = 2, rotor_air = 3, rotor_gap = 4,
                     rotor_shaft = 5;
inline constexpr int steel_domain = 0, winding_domain = 1, magnet_domain = 2, bar_domain = 3,
                     core_domain = 4; ///< shaft, or what carries a stator that lies inside

} // namespace mavlo
