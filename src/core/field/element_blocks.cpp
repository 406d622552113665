#include "field/element_blocks.h"

#include "field/loops/best.h"
#include "field/model.h"
#include "field/quadrature.h"

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
