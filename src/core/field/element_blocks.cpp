#include "field/element_blocks.h"

#include "field/loops/best.h"
#include "field/model.h"
#include "field/quadrature.h"

#include <algorithm>

namespace mavlo {
namespace {

void put(ElementBlocks& to, std::size_t lane, const FieldModel& model, const FieldModel::ElementData& e) {
    ElementBlock& block = to.blocks.back();
    for (std::size_t k = 0; k < 6; ++k) {
        if (e.unknown[k] < 0) continue;
        block.unknown[k][lane] = e.unknown[k];
        block.sign[k][lane] = e.sign[k];
    }
    for (std::size_t k = 0; k < 21; ++k) {
        if (e.entry[k] < 0) continue;
        block.entry[k][lane] = e.entry[k];
        block.entry_sign[k][lane] = e.entry_sign[k];
    }
    for (int q = 0; q < e.count; ++q) {
        BlockPoint& point = to.points[std::size_t(block.first + q)];
        const auto& from = model.points[std::size_t(e.first + q)];
        for (std::size_t k = 0; k < 6; ++k) {
            point.gx[k][lane] = from.gx[k];
            point.gy[k][lane] = from.gy[k];
        }
        point.weight[lane] = from.weight;
    }
}

/// Where the blocks before have half of the points.
std::size_t middle_of(const ElementBlocks& all) {
    std::size_t middle = 0;
    while (middle < all.blocks.size() && 2 * std::size_t(all.blocks[middle].first) < all.points.size())
        ++middle;
    return middle;
}

/// Gives the second half places of its own for what the first writes, too.
template <std::size_t rows>
ElementBlocks::Shared part_halves(ElementBlocks& all, int places, int (ElementBlock::*of)[rows][vector_lanes]) {
    std::vector<bool> taken(std::size_t(places), false);
    std::vector<int> own(std::size_t(places), -1);
    ElementBlocks::Shared shared;
    shared.places = places;
    for (std::size_t b = 0; b < all.blocks.size(); ++b)
        for (auto& row : all.blocks[b].*of)
            for (int& place : row) {
                const auto at = std::size_t(place);
                if (b < all.second) {
                    taken[at] = true;
                } else if (taken[at]) {
                    if (own[at] < 0) {
                        own[at] = int(shared.size());
                        shared.again.push_back(place);
                    }
                    place = own[at];
                }
            }
    return shared;
}

} // namespace

ElementBlocks make_element_blocks(const FieldModel& model) {
    ElementBlocks result;
    for (int law = 0; law < int(model.laws.size()); ++law)
        for (int count : {int(straight_rule().size()), int(curved_rule().size())}) {
            std::size_t lane = vector_lanes;
            for (int index : model.nonlinear) {
                const auto& e = model.elements[std::size_t(index)];
                if (e.count != count || e.law != law) continue;
                if (lane == vector_lanes) {
                    ElementBlock block;
                    block.law = law;
                    block.count = count;
                    block.first = int(result.points.size());
                    result.blocks.push_back(block);
                    result.points.resize(result.points.size() + std::size_t(count));
                    lane = 0;
                }
                put(result, lane++, model, e);
            }
        }
    for (ElementBlock& block : result.blocks)
        std::copy_n(&block.unknown[0][0], 6 * vector_lanes, &block.force[0][0]);
    result.second = middle_of(result);
    result.forces = part_halves(result, model.unknowns(), &ElementBlock::force);
    result.entries = part_halves(result, int(model.pattern->row.size()), &ElementBlock::entry);
    return result;
}

const ElementLoops& element_loops() {
#ifdef __x86_64__
    static const ElementLoops& best =
        *best_for_processor(&element_loops_any, &element_loops_avx2, &element_loops_avx512);
    return best;
#else
    return element_loops_any;
#endif
}

} // namespace mavlo
