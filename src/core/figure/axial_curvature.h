#pragma once
// What flat slices leave out of an axial machine: the field's spreading along the radius.

#include "machine/machine.h"

#include <optional>

namespace mavlo {

/// Linkage of a coil with the magnets' wave of this multiple of the pole pairs in three dimensions, over that
/// of slices without end. Both are linear and between planes of ideal iron that reach on for ever, the magnets'
/// layer filled with their recoil permeability: each wave number k of the plane then crosses the gap as a
/// slice's u = n p/r does, by a Hankel transform of order n p (G.N. Watson, Theory of Bessel Functions, 2nd
/// ed., sec. 14.4):
///   int k F(k) M(k) C(k) dk  over  int F(n p/r) m(r) c(r) r dr,
/// with m and c the magnets' and the coil's n-th coefficients at a radius and F what a magnet layer of
/// thickness h before a gap g gives at the coil (Z.Q. Zhu, D. Howe, IEEE Trans. Magn. 29(1), 1993, for a flat
/// gap). Empty where the machine has no magnets on the surface or no winding; slots are taken as closed.
std::optional<double> linkage_in_three_dimensions(const Machine& machine, int order = 1);

} // namespace mavlo
