#pragma once
// A magnet's demagnetisation curve as the field that each share of its remanence withstands.

#include "machine/tile.h"

#include <vector>

namespace mavlo {

/// Recoil lines B = s B_r - mu |H| of one slope (B.D. Cullity, C.D. Graham, Introduction to Magnetic Materials,
/// 2nd ed., sec. 13.3). A field |H| leaves the largest share s whose line meets the curve there: with measured
/// curves s(H) = (J(H) + (mu - mu0) |H|) / B_r, without any the whole up to the knee and nothing beyond it.
struct MagnetLine {
    double remanence = 0;    ///< T, of the whole grade at its temperature
    double knee = 0;         ///< T
    double permeability = 0; ///< of the recoil lines, V.s/(A.m)
    /// Measured: shares falling from 1 and the fields (A/m, rising) that leave them; empty: straight down at
    /// the knee. Below the last share the curve goes straight down.
    std::vector<double> share{}, field{};

    static MagnetLine of(const Substance& magnet);
    double field_of(double s) const; ///< A/m
    double slope_of(double s) const; ///< d field/d share, A/m; zero or below it
};

/// One for each of these substances; those that are no magnets have none.
std::vector<MagnetLine> magnet_lines(const std::vector<Substance>& substances);

} // namespace mavlo
