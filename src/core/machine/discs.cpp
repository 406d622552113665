#include "machine/discs.h"

#include "machine/axial.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <tuple>

namespace mavlo {
namespace {

constexpr int seen_radii = 25; ///< at which outlines are taken

/// Angles between which a region lies at one radius, in its tile.
struct AngleExtent {
    double from, to;
};

class DiscMaker {
  public:
    explicit DiscMaker(const Machine& machine)
        : m_machine(machine)
        , m_form(axial_form(machine.values)) {
        m_out.inner = m_form.inner;
        m_out.outer = m_form.outer;
        for (const Section& section : machine.solved())
            if (!section.second) m_out.slices.push_back(section.chart().flat);
    }

    Discs run() {
        for (int k = 0; k < seen_radii; ++k) {
            // Not quite at the edges, where the arc of a magnet with square ends is nothing.
            const double share = std::clamp(double(k) / (seen_radii - 1), 1e-6, 1 - 1e-6);
            look(m_form.inner + share * m_form.length());
        }
        for (const bool rotor : {true, false}) // the stator's stand before the rotor's
            for (const auto& [key, edges] : m_edges)
                if (std::get<0>(key) == rotor) add_parts(key, edges);
        layers();
        return std::move(m_out);
    }

  private:
    using Key = std::tuple<bool, int, int, bool>; ///< rotor, piece or layer, its number on the side, upper side
    struct SeenAt {
        double radius;
        AngleExtent extent;
    };

    void look(double radius) {
        const bool coils = has_coils_at(m_machine.values, radius);
        for (const Body& body : bodies_at(m_machine, radius)) {
            const auto all = faces(body.tile.outline);
            int number = 0;
            for (const Region& region : body.tile.regions) {
                if (region.use != Use::Magnet && region.use != Use::Conductor) continue;
                if (region.use == Use::Conductor && !coils) continue;
                for (const Polygon& face : all)
                    if (contains(face, region.seed)) note(body, region, number, face, radius);
                ++number;
            }
        }
    }

    void note(const Body& body, const Region& region, int number, const Polygon& face, double radius) {
        AngleExtent extent{1e9, -1e9};
        for (Point p : face) {
            const double angle = body.tile.chart.angle(p);
            extent.from = std::min(extent.from, angle);
            extent.to = std::max(extent.to, angle);
        }
        m_edges[{body.turns, region.part, number, false}].push_back({radius, extent});
        m_pitch[body.turns] = {body.tile.pitch, body.pitches, body.alternates};
    }

    /// On every pitch, the drawn half and its image.
    void add_parts(const Key& key, const std::vector<SeenAt>& edges) {
        const bool rotor = std::get<0>(key);
        const auto [pitch, pitches, alternates] = m_pitch[rotor];
        const bool beside = !rotor && m_machine.winding.layout.sharing == SlotSharing::SideBySide;
        // Layers in a slot lie behind each other: the first is seen.
        if (!rotor && !beside && std::get<1>(key) > 0) return;
        for (int k = 0; k < pitches; ++k)
            for (const double image : {1.0, -1.0}) {
                const bool whole = edges[edges.size() / 2].extent.from < 1e-9 && !beside;
                if (whole && image < 0) continue;
                DiscPart part{rotor ? Use::Magnet : Use::Conductor,
                              k,
                              beside && image > 0 ? 1 : 0,
                              alternates && k % 2 ? -1 : 1,
                              {}};
                for (const SeenAt& e : edges)
                    part.outline.push_back(polar(e.radius, k * pitch + image * e.extent.to));
                for (auto e = edges.rbegin(); e != edges.rend(); ++e)
                    part.outline.push_back(
                        polar(e->radius, k * pitch + image * (whole ? -e->extent.to : e->extent.from)));
                m_out.parts.push_back(std::move(part));
            }
    }

    void add(Use use, const char* path, double from, double to) {
        if (std::abs(to - from) < 1e-9) return;
        m_out.layers.push_back({use, path, std::min(from, to), std::max(from, to), m_form.inner, m_form.outer});
    }

    /// Of the computed half, and of the other one as its mirror image.
    void layers() {
        const Tile &rotor = m_machine.section.rotor().tile, &stator = m_machine.section.stator().tile;
        const double r = stator.chart.flat;
        // What lies beyond the other gap stands farther off by the difference of the two.
        const auto half = [&](double sign, double middle, double rotor_by, double stator_by) {
            const auto at = [&](double height, double by) {
                return middle + sign * (height - r - middle + by);
            };
            const auto of_rotor = [&](double height) { return at(height, rotor_by); };
            const auto of_stator = [&](double height) { return at(height, stator_by); };
            add(Use::Iron, "rotor", of_rotor(rotor.far_radius), of_rotor(rotor.iron_radius));
            add(Use::Magnet, "rotor.magnet", of_rotor(rotor.iron_radius), of_rotor(rotor.face_radius));
            if (m_machine.values.has("stator.thickness"))
                add(Use::Iron, "stator", of_stator(stator.iron_radius), of_stator(stator.far_radius));
            if (m_machine.wound())
                add(Use::Conductor, "stator.slot", of_stator(m_machine.winding.slot_bottom),
                    of_stator(m_machine.winding.slot_bottom - m_machine.winding.conductor_depth));
        };
        half(1, 0, 0, 0);
        if (m_form.halves != 2) return;
        const double wider = other_gap(m_machine.values) - m_machine.gap;
        if (m_form.rotor_between)
            half(-1, rotor.far_radius - r, 0, wider);
        else
            half(-1, stator.far_radius - r, -wider, 0);
    }

    struct Pitch {
        double angle;
        int count;
        bool alternates;
    };
    const Machine& m_machine;
    AxialForm m_form;
    std::map<Key, std::vector<SeenAt>> m_edges;
    std::map<bool, Pitch> m_pitch;
    Discs m_out;
};

} // namespace

Discs make_discs(const Machine& machine) {
    return DiscMaker(machine).run();
}

} // namespace mavlo
