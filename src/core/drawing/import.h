#pragma once
// A drawing from elsewhere, understood: its unit, centre, what it shows of which part, and what its regions
// are.

#include "drawing/clutter.h"
#include "drawing/roles.h"
#include "quantity/problem.h"
#include "shape/dxf/reader.h"

#include <filesystem>
#include <functional>
#include <map>
#include <stop_token>
#include <string>

namespace mavlo {

struct ImportOptions {
    std::optional<std::string> unit; ///< "mm", "in", "m" …; empty: as the drawing says, or judged from its size
    double tolerance = 1e-5;         ///< m: gaps and overshoots up to this are mended
    bool rotor = true, stator = false;
    bool outer_rotor = false;   ///< the machine's, for a part that does not tell on which side its gap lies
    int poles = 2;              ///< likewise, for a rotor that is round all through
    std::optional<int> pitches; ///< poles or slots of the one part that is read; empty: as it repeats
    std::map<int, Role> roles;  ///< chosen by hand, by the regions' numbers
    std::map<int, double> directions;       ///< likewise, of magnets as drawn, rad
    std::stop_token stop{};                 ///< ends it with a problem
    std::function<void(double)> progress{}; ///< told the share of what a drawing may cost
};

struct ImportedRegion {
    int number; ///< from 1
    DrawnSide side;
    Role role;
    double area;                     ///< m2, as drawn
    Point centroid, inside;          ///< m, about the machine's centre
    std::optional<double> direction; ///< of a magnet's remanence, rad
    bool cut = false;                ///< by the edge of a drawn sector
};

struct ImportedPart {
    DrawnSide side;
    Portion portion;
    double inner = 0, outer = 0; ///< radii of its iron, m
    bool gap_outside = true;
};

/// The count and area of one role in the finished part, a whole turn of it.
struct WholeRole {
    int count = 0;
    double area = 0; ///< m2
};

struct ImportedDrawing {
    std::string unit;
    Point centre; ///< in units of the drawing
    std::vector<ImportedPart> parts;
    std::vector<ImportedRegion> regions;
    std::map<Role, WholeRole> whole;
    std::vector<std::string> healed, notes; ///< sentences
    LeftOut left_out;
    Arrangement graph; ///< m, the centre at the origin

    std::vector<Polygon> outlines;           ///< of the regions, in their order
    std::vector<std::vector<Polygon>> holes; ///< of each: what lies in them is not the region's
    const ImportedPart* part(DrawnSide side) const;
    /// The smallest region round a point, of this part or of any; null: none.
    const ImportedRegion* region_at(Point p, std::optional<DrawnSide> side = {}) const;
};

/// The lines of a drawing that does not close, about the machine's centre, with the ends that nothing meets.
struct OpenDrawing {
    std::vector<Piece> pieces; ///< m
    std::vector<Point> ends;
};
OpenDrawing open_drawing(DxfDrawing drawing, const ImportOptions& options);

/// The direction of a magnet carried over to its like elsewhere in the part: opposite in every second pole, and
/// the mirror image about a pole's axis.
double carried_direction(const ImportedPart& part, const ImportedRegion& from, double direction,
                         const ImportedRegion& to);

/// Understands what was read from a file; problems name the places that keep it from closing, in units of the
/// drawing about the machine's centre.
Result<ImportedDrawing> understood(DxfDrawing drawing, const ImportOptions& options);
/// Reads and understands.
Result<ImportedDrawing> import_drawing(const std::filesystem::path& file, const ImportOptions& options);

std::string to_string(DrawnSide side);

} // namespace mavlo
