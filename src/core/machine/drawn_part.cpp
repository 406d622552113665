#include "machine/drawn_part.h"

#include "machine/graph_tile.h"
#include "machine/tile_drawing.h"
#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "shape/plane_faces.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace mavlo {
namespace {

using json = nlohmann::ordered_json;
constexpr double same_place = 1e-7; ///< m: the drawing was healed when it was read

Piece radial(double from, double to, double angle) {
    return {polar(from, angle), polar(to, angle), 0, 0};
}

/// Down (or out) to `end`, which may lie beyond the part's far side.
Arrangement closed_lines(const DrawnPart& part, double end) {
    std::vector<Piece> pieces = part.pieces;
    const double half = pi / part.pitches, first = part.mirrored ? 0 : -half;
    for (double angle : {first, half})
        pieces.push_back(radial(std::min(end, part.gap_radius), std::max(end, part.gap_radius), angle));
    for (double r : {end, part.far_radius, part.gap_radius})
        if (r > same_place) add_arc(pieces, {{}, r}, first, half - first, 0);
    return arrange(pieces, same_place);
}

class TileMaker {
  public:
    TileMaker(const DrawnPart& part, std::string side, bool radial = false)
        : m_part(part)
        , m_side(std::move(side))
        , m_radial(radial) {
        m_tile.pitch = 2 * pi / part.pitches;
        m_tile.mirrored = part.mirrored;
        m_tile.gap_radius = m_tile.face_radius = m_tile.iron_radius = part.gap_radius;
    }

    DrawnSlot slot() {
        DrawnSlot out{0, 1e300, 0};
        m_tile.far_radius = m_part.far_radius;
        close();
        for (const PlaneFace& face : plane_faces(m_graph).faces) {
            const auto known = region_in(face);
            if (known == m_part.regions.end() || known->use != Use::Conductor) continue;
            out.area += m_part.mirrored ? 2 * face.area : face.area;
            for (const Point& p : face.polygon) {
                out.from = std::min(out.from, std::abs(norm(p) - m_part.gap_radius));
                out.to = std::max(out.to, std::abs(norm(p) - m_part.gap_radius));
            }
        }
        return out;
    }

    Result<Tile> run() {
        const double far = m_part.far_radius;
        m_tile.far_radius =
            m_part.gap_outside ? hole_radius(far > 1e-6 ? far : inmost(), m_part.pitches / 2) : far;
        close();
        for (const PlaneFace& face : plane_faces(m_graph).faces) name(face);
        for (const auto& region : m_tile.regions)
            if (region.use != Use::Air && region.path != "rotor.shaft") {
                m_tile.outline = outline_of(m_graph, edges());
                sizes();
                return std::move(m_tile);
            }
        return Problem{m_side + ".drawing",
                       "The drawing names no iron; read it again and say what its regions are."};
    }

  private:
    TileEdges edges() const { return {m_tile.first_angle(), m_tile.half_pitch(), m_tile.mirrored}; }

    /// Radius of the innermost corner of a part that is massive to its middle.
    double inmost() const {
        double least = m_part.gap_radius;
        for (const Piece& piece : m_part.pieces)
            for (const Point& p : {piece.a, piece.b})
                if (norm(p) > 1e-4 * m_part.gap_radius) least = std::min(least, norm(p));
        return least;
    }

    void close() { m_graph = closed_lines(m_part, m_tile.far_radius); }

    std::vector<DrawnPart::Region>::const_iterator region_in(const PlaneFace& face) const {
        return std::find_if(m_part.regions.begin(), m_part.regions.end(),
                            [&](const DrawnPart::Region& r) { return holds(m_graph, face, r.inside); });
    }

    void name(const PlaneFace& face) {
        Region region;
        region.seed = face.inside;
        const auto known = region_in(face);
        const bool hole = m_part.gap_outside && norm(face.inside) < m_part.far_radius - same_place;
        region.use = hole                            ? (m_side == "rotor" ? Use::Solid : Use::Air)
                     : known == m_part.regions.end() ? Use::Air
                                                     : known->use;
        switch (region.use) {
        case Use::Iron:
            region.path = m_side;
            region.material = m_side + ".steel";
            break;
        case Use::Magnet:
            region.path = m_side + ".magnet";
            region.material = region.path + ".grade";
            // Radial ones point along the radius, outwards or inwards as their direction does.
            region.magnet = Remanence{known->direction.value_or(0), 0};
            if (m_radial)
                region.magnet =
                    Remanence{std::cos(region.magnet->angle - angle_of(known->inside)) < 0 ? pi : 0, 1};
            region.part = m_magnets++;
            region.spans = edges().spans(m_graph, face);
            break;
        case Use::Conductor:
            region.path = "stator.slot";
            region.material = "winding.conductor.material";
            break;
        case Use::Solid:
            region.path = hole ? "rotor.shaft" : "rotor.shell";
            if (!hole) region.material = "rotor.shell.material";
            break;
        case Use::Air:
            region.path = m_side + (hole ? ".bore" : ".pocket");
            break;
        }
        m_tile.regions.push_back(region);
    }

    void sizes() {
        for (const auto& edge : m_graph.edges) add_hints(m_tile, m_graph.piece(edge));
        const double r = m_part.gap_radius, half = m_tile.half_pitch();
        m_tile.gap_size = half * r / 20;
        m_tile.max_size = std::min(half * r / 3, std::abs(r - m_part.far_radius) / 3);
    }

    const DrawnPart& m_part;
    std::string m_side;
    bool m_radial;
    Tile m_tile;
    Arrangement m_graph;
    int m_magnets = 0;
};

std::optional<Use> use_of(const std::string& word) {
    for (Use use : {Use::Iron, Use::Magnet, Use::Conductor, Use::Solid, Use::Air})
        if (word == to_string(use)) return use;
    return std::nullopt;
}

json rounded(double value) {
    return rounded_to(value, 12);
}

DrawnPart read_part(const json& j) {
    DrawnPart part;
    part.pitches = j.at("pitches").get<int>();
    part.mirrored = j.at("mirrored").get<bool>();
    part.gap_outside = j.at("gap").get<std::string>() == "outside";
    part.gap_radius = mm * j.at("gap_radius").get<double>();
    part.far_radius = mm * j.at("far_radius").get<double>();
    for (const json& p : j.at("pieces"))
        part.pieces.push_back({{mm * p.at(0).get<double>(), mm * p.at(1).get<double>()},
                               {mm * p.at(2).get<double>(), mm * p.at(3).get<double>()},
                               p.size() > 4 ? p.at(4).get<double>() : 0,
                               0});
    for (const json& r : j.at("regions")) {
        DrawnPart::Region region;
        region.inside = {mm * r.at("inside").at(0).get<double>(), mm * r.at("inside").at(1).get<double>()};
        region.use = use_of(r.at("role").get<std::string>()).value_or(Use::Air);
        if (r.contains("direction")) region.direction = degree * r.at("direction").get<double>();
        part.regions.push_back(region);
    }
    return part;
}

} // namespace

json to_json(const DrawnPart& part) {
    json j{{"pitches", part.pitches},
           {"mirrored", part.mirrored},
           {"gap", part.gap_outside ? "outside" : "inside"},
           {"gap_radius", rounded(part.gap_radius / mm)},
           {"far_radius", rounded(part.far_radius / mm)}};
    json pieces = json::array(), regions = json::array();
    for (const Piece& p : part.pieces) {
        json list{rounded(p.a.x / mm), rounded(p.a.y / mm), rounded(p.b.x / mm), rounded(p.b.y / mm)};
        if (!p.straight()) list.push_back(rounded(p.bulge));
        pieces.push_back(list);
    }
    for (const DrawnPart::Region& r : part.regions) {
        json region{{"role", to_string(r.use)},
                    {"inside", {rounded(r.inside.x / mm), rounded(r.inside.y / mm)}}};
        if (r.direction) region["direction"] = rounded(*r.direction / degree);
        regions.push_back(region);
    }
    j["pieces"] = pieces;
    j["regions"] = regions;
    return j;
}

Result<DrawnPart> drawn_part_from(const json& j) {
    try {
        DrawnPart part = read_part(j);
        const bool sound = part.pitches >= 1 && part.pitches <= 2000 && part.gap_radius > 0 &&
                           part.far_radius >= 0 && part.gap_outside == (part.gap_radius > part.far_radius) &&
                           part.pieces.size() < 200'000;
        if (sound) return part;
    } catch (const std::exception&) {
    }
    return Problem{"", "This is no drawing as Mavlo keeps it; read the part from its DXF file again."};
}

std::string canonical_text(const DrawnPart& part) {
    return to_json(part).dump();
}

DrawnSlot drawn_slot_of(const DrawnPart& part) {
    return TileMaker(part, "stator").slot();
}

std::optional<Problem> misfit(const DrawnPart& part, const TileFrame& frame, const std::string& side) {
    const bool rotor = side == "rotor";
    if (part.pitches != frame.pitches)
        return Problem{rotor ? "rotor.poles" : "stator.slots",
                       fmt::format("The drawn {} has {} {}, not {}.", side, part.pitches,
                                   rotor ? "poles" : "slots", frame.pitches)};
    if (part.gap_outside == frame.outside())
        return Problem{"machine.topology", fmt::format("The drawn {} has its gap on the other side.", side)};
    if (std::abs(part.gap_radius - frame.gap_radius) > 1e-6)
        return Problem{
            "stator.bore_diameter",
            fmt::format("The drawn {} has a radius of {:.4f} mm at the gap; the dimensions make it {:.4f} "
                        "mm.",
                        side, part.gap_radius * 1e3, frame.gap_radius * 1e3)};
    if (std::abs(part.far_radius - frame.far_radius) > 1e-6)
        return Problem{
            rotor ? frame.far_path() : "stator.outer_diameter",
            fmt::format("The drawn {} has a radius of {:.4f} mm on its far side; the dimensions make it "
                        "{:.4f} mm.",
                        side, part.far_radius * 1e3, frame.far_radius * 1e3)};
    return std::nullopt;
}

Arrangement drawn_lines(const DrawnPart& part) {
    return closed_lines(part, part.far_radius);
}

Result<Tile> drawn_tile(const DrawnPart& part, const std::string& side, bool radial) {
    return TileMaker(part, side, radial).run();
}

} // namespace mavlo
