#include "circuit/supply_kind.h"

namespace mavlo {

std::vector<std::string> supply_names() {
    std::vector<std::string> names;
    for (const SupplyKind& kind : registry<SupplyKind>().all()) names.push_back(kind.name);
    return names;
}

} // namespace mavlo
