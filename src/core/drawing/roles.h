#pragma once
// What the regions of a drawing are, proposed from where they lie and what shape they have.

#include "drawing/portion.h"

#include <optional>
#include <string>
#include <vector>

namespace mavlo {

/// `Solid`: carries eddy currents, as a ring of aluminium on a rotor.
enum class Role { Iron, Magnet, Air, Conductor, Shaft, Solid };
std::string to_string(Role role); ///< "iron", "magnet", "air", "conductor", "shaft", "solid"
const std::vector<std::string>& role_words();
std::optional<Role> role_of(const std::string& word);

enum class DrawnSide { Rotor, Stator };

/// The ring of a machine that is a rotor or a stator.
struct Ring {
    DrawnSide side = DrawnSide::Rotor;
    int iron = -1;               ///< the face that is its lamination
    int core = -1;               ///< the face within it that is shaft or hole; -1: none
    double inner = 0, outer = 0; ///< radii that its iron spans
    bool gap_outside = true;     ///< its gap lies round it
};

/// What is known of a drawing besides its lines.
struct RingHints {
    bool both = false;        ///< it shows two parts
    bool outer_rotor = false; ///< likely, where the drawing of one part does not tell
    const std::vector<std::string>& layers;
};

/// The ring of each part that was asked for; nothing when no lamination is found. Of two parts the inner one is
/// the rotor, unless layers' names or blocks of magnet say that it is the stator.
std::optional<Ring> find_ring(const Arrangement& graph, const PlaneFaces& faces, const Portion& extent,
                              DrawnSide side, const RingHints& hints);

struct DrawnFace {
    int face;
    Role role;
    std::optional<double> direction; ///< rad, of a magnet's remanence
};

/// Roles of the ring's faces, its iron among them; the gap and what lies beyond it are none of its.
std::vector<DrawnFace> propose_roles(const Arrangement& graph, const PlaneFaces& faces, const Ring& ring,
                                     const std::vector<std::string>& layers);

/// Directions of the magnets' remanence: across a block's thin side, along the radius elsewhere, the other way
/// in every second pole.
void propose_directions(const Arrangement& graph, const PlaneFaces& faces, const Portion& portion,
                        bool gap_outside, std::vector<DrawnFace>& roles);

/// On which side of a magnet its pole's axis lies: where the lines go that leave it towards the gap. +1: at
/// larger angles, -1: at smaller, 0: it lies on it, or `between_poles`.
inline constexpr double between_poles = 2;
double pole_side(const Arrangement& graph, const PlaneFace& magnet, bool gap_outside);

/// The corners of a face's outer walk: straight pieces that go on in one line count as one, and arcs of one
/// circle.
std::vector<Piece> sides_of(const Arrangement& graph, const PlaneFace& face);

} // namespace mavlo
