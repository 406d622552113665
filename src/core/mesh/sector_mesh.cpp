#include "mesh/sector_mesh.h"

#include <cmath>

namespace mavlo {
namespace {

/// Lays out `halves` half pitches. Half h is mirrored when even: it covers the angles (h-1)g … hg, and pitch
/// h/2 is centred on 2 (h/2) g.
class Layout {
  public:
    Layout(const Cell& cell, const HalfMesh& half, int pitches, int sign)
        : m_cell(cell)
        , m_half(half)
        , m_pitches(pitches)
        , m_sign(sign) {
        m_out.smallest_angle = half.smallest_angle;
    }

    template <class MakePart>
    SectorMesh run(MakePart make_part) {
        std::vector<int> previous;
        for (int h = 0; h < 2 * m_pitches; ++h) {
            const std::vector<int> ids = place_nodes(h, previous);
            for (std::size_t r = 0; r < m_cell.regions.size(); ++r)
                m_out.parts.push_back(make_part(m_cell.regions[r], h / 2, h % 2));
            place_elements(h, ids);
            previous = ids;
            if (h == 0) m_start = ids;
        }
        number_unknowns();
        return std::move(m_out);
    }

  private:
    double angle(int h, double local) const {
        const double g = m_cell.half_pitch;
        return h % 2 ? (h - 1) * g + local : h * g - local;
    }

    std::vector<int> place_nodes(int h, const std::vector<int>& previous) {
        std::vector<int> ids(m_half.nodes.size());
        for (std::size_t i = 0; i < ids.size(); ++i) {
            // Even halves begin on the second line, odd ones on the first: shared with the half before.
            const bool shared = h > 0 && (h % 2 ? m_half.on_first[i] : m_half.on_second[i]);
            if (shared) {
                ids[i] = previous[i];
                continue;
            }
            ids[i] = int(m_out.nodes.size());
            const Point p = m_half.nodes[i];
            const double local = m_half.on_first[i] ? 0 : m_half.on_second[i] ? m_cell.half_pitch : angle_of(p);
            m_out.nodes.push_back(polar(norm(p), angle(h, local)));
            const bool last = h + 1 == 2 * m_pitches && m_half.on_second[i];
            m_image.push_back(last ? m_start[i] : -1);
            m_fixed.push_back(m_half.on_outside[i]);
        }
        return ids;
    }

    void place_elements(int h, const std::vector<int>& ids) {
        const int first_part = int(m_out.parts.size() - m_cell.regions.size());
        for (const auto& t : m_half.triangles) {
            std::array<int, 6> node{};
            for (std::size_t k = 0; k < 6; ++k) node[k] = ids[std::size_t(t.node[k])];
            if (h % 2 == 0) node = {node[0], node[2], node[1], node[5], node[4], node[3]};
            m_out.elements.push_back({node, first_part + t.region, t.curved});
        }
        for (const auto& e : m_half.gap_edges) {
            auto local = [&](int i) {
                return m_half.on_first[std::size_t(i)]    ? 0
                       : m_half.on_second[std::size_t(i)] ? m_cell.half_pitch
                                                          : angle_of(m_half.nodes[std::size_t(i)]);
            };
            SectorMesh::GapEdge edge{{ids[std::size_t(e[0])], ids[std::size_t(e[1])], ids[std::size_t(e[2])]},
                                     angle(h, local(e[0])),
                                     angle(h, local(e[2]))};
            if (edge.from > edge.to) {
                std::swap(edge.from, edge.to);
                std::swap(edge.node[0], edge.node[2]);
            }
            m_out.gap.push_back(edge);
        }
    }

    void number_unknowns() {
        const std::size_t n = m_out.nodes.size();
        m_out.unknown.assign(n, -1);
        m_out.sign.assign(n, 1);
        for (std::size_t i = 0; i < n; ++i)
            if (m_image[i] < 0 && !m_fixed[i]) m_out.unknown[i] = m_out.unknowns++;
        for (std::size_t i = 0; i < n; ++i)
            if (m_image[i] >= 0 && !m_fixed[i]) {
                m_out.unknown[i] = m_out.unknown[std::size_t(m_image[i])];
                m_out.sign[i] = std::int8_t(m_sign);
            }
    }

    const Cell& m_cell;
    const HalfMesh& m_half;
    int m_pitches, m_sign;
    SectorMesh m_out;
    std::vector<int> m_start, m_image;
    std::vector<bool> m_fixed;
};

} // namespace

SectorMesh stator_mesh(const Machine& machine, const HalfMesh& half) {
    const bool side_by_side = machine.winding.sharing == SlotSharing::SideBySide;
    return Layout(machine.stator, half, machine.sector.slots, machine.sector.sign)
        .run([&](const Region& region, int slot, int upper) {
            Part part{
                region.role, slot, region.layer, Magnetisation::None, 2 * slot * machine.stator.half_pitch, 0};
            if (region.role == Role::Conductor && side_by_side) part.layer = upper;
            return part;
        });
}

SectorMesh rotor_mesh(const Machine& machine, const HalfMesh& half) {
    return Layout(machine.rotor, half, machine.sector.poles, machine.sector.sign)
        .run([&](const Region& region, int pole, int upper) {
            const double axis = 2 * pole * machine.rotor.half_pitch;
            return Part{region.role,
                        pole,
                        region.layer,
                        region.magnetisation,
                        axis + (upper ? region.direction : -region.direction),
                        pole % 2 ? -1 : 1};
        });
}

} // namespace mavlo
