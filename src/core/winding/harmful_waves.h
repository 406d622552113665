#pragma once
// The MMF's waves beside the main one, and what they do.

#include "winding/layout.h"

#include <string>
#include <vector>

namespace mavlo {

struct HarmfulWave {
    int order = 0;       ///< periods a turn
    bool forward = true; ///< turns as the rotor does
    double share = 0;    ///< of the main wave's amplitude
    std::string causes;  ///< in words
};

/// Waves up to the 50th order (or three times the poles' order) of at least `least` of the main wave, largest
/// first. Sub-harmonics reach deep into the rotor; waves against the rotor, or at another pace, induce eddy
/// currents in magnets and solid parts (K. Atallah et al., IEEE Trans. Magn. 36(5), 2000); orders 6k -+ 1 of
/// the poles' order make torque ripple; with the main wave each makes a radial force of |n -+ p| periods, of
/// which low ones bend the stator (J.F. Gieras, C. Wang, J.C. Lai, Noise of Polyphase Electric Motors, 2006,
/// ch. 2).
std::vector<HarmfulWave> harmful_waves(const WindingLayout& layout, double least = 0.05);

} // namespace mavlo
