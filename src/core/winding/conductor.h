#pragma once
// The conductor: copper of a turn, its size over the enamel, and how full it makes the slot.

namespace mavlo {

enum class ConductorShape {
    Round,
    Rectangular, ///< flat wire, hairpins
    Litz,        ///< a round bundle of fine strands, each of which takes every place in it
    Foil,        ///< as high as the coil, thin across
};

/// As it is asked for. Lengths in m; 0: what the fill factor leaves.
struct ConductorInput {
    ConductorShape shape = ConductorShape::Round;
    double diameter = 0;          ///< bare, of a strand
    double width = 0, height = 0; ///< bare, across the slot and along its depth
    int strands = 1;              ///< in hand
    int grade = 0;                ///< of the enamel: 1 to 3 as IEC 60317 has them; 0: bare
    double fill_factor = 0.4;     ///< copper over slot area, used where a size is 0
    double slot_area = 0;         ///< for conductors, m2
    double free_area = 0;         ///< without liner, wedge and separators; 0: the slot's
    double turns_in_slot = 1;     ///< of the fullest slot
    double coil_height = 0;       ///< depth that conductors have, m: what a foil's height follows
};

struct ConductorSize {
    ConductorShape shape = ConductorShape::Round;
    int strands = 1;
    double diameter = 0;                      ///< round and litz: of a strand, bare
    double width = 0, height = 0;             ///< rectangular and foil: bare
    double outer_width = 0, outer_height = 0; ///< of what is packed, over its insulation: a strand, or a bundle
    double area = 0;                          ///< copper of one turn, m2
    double fill = 0;                          ///< copper over the slot's area for conductors
    double insulated_fill =
        0; ///< conductors over their insulation over the free area; round ones by their circle
    int packed_a_turn() const { return shape == ConductorShape::Litz ? 1 : strands; }
    bool is_round() const { return shape == ConductorShape::Round || shape == ConductorShape::Litz; }
};

/// A litz bundle of n strands is 1.155 sqrt(n) strands thick (bunched strands fill about three quarters of
/// their circle).
ConductorSize size_conductor(const ConductorInput& input);

} // namespace mavlo
