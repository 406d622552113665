#include "mesh/section_tiles.h"

namespace mavlo {
namespace {

TileMesh shifted(TileMesh mesh, double height) {
    for (Point& node : mesh.nodes) node.x += height;
    return mesh;
}

} // namespace

bool is_joined(const Section& section, const Body& body) {
    return section.second && body.tile.mirror;
}

Result<std::vector<TileMesh>> tile_meshes(std::span<const Section> sections, double factor) {
    std::vector<TileMesh> meshes;
    for (std::size_t s = 0; s < sections.size(); ++s)
        for (std::size_t k = 0; k < sections[s].bodies.size(); ++k) {
            const Body& body = sections[s].bodies[k];
            if (is_joined(sections[s], body)) {
                const Body& first = sections[s - 1].bodies[k];
                meshes.push_back(shifted(meshes[meshes.size() - sections[s].bodies.size()],
                                         body.tile.far_radius - first.tile.far_radius));
                continue;
            }
            auto mesh = triangulate(body.tile, factor);
            if (!mesh) return Problem{body.turns ? "rotor" : "stator", mesh.problems().front().sentence};
            meshes.push_back(std::move(*mesh));
        }
    return meshes;
}

} // namespace mavlo
