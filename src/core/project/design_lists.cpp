#include "project/design_lists.h"

#include "project/unknown_keys.h"

#include <cmath>
#include <nlohmann/json.hpp>

namespace mavlo {

nlohmann::ordered_json lists_json(const Design& design) {
    using json = nlohmann::ordered_json;
    json tree = json::object();
    for (const auto& [side, part] : design.drawings) tree["drawings"][side] = to_json(part);
    for (const FreeShape& shape : design.shapes) tree["drawings"]["shapes"].push_back(to_json(shape));
    for (const DrawnDimension& d : design.dimensions) tree["drawings"]["dimensions"].push_back(to_json(d));
    const int phases = plain_phases(design);
    for (const Coil& coil : design.coils) {
        json row{{"go", {coil.go.slot, coil.go.layer}}};
        if (coil.back.slot != outside_core) row["return"] = {coil.back.slot, coil.back.layer};
        row["turns"] = coil.turns == std::rint(coil.turns) ? json(std::int64_t(coil.turns)) : json(coil.turns);
        row["phase"] = (coil.sign < 0 ? "-" : "") + phase_name(coil.phase, phases);
        tree["coils"].push_back(row);
    }
    return tree;
}

} // namespace mavlo
