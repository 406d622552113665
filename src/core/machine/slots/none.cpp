// A smooth stator without slots or winding, for fields against exact series.

#include "machine/slot_kind.h"

namespace mavlo {
namespace {

const RegisterSlotKind registered{
    {"none",
     {},
     [](const StatorFrame&, const Values&) -> Result<SlotContour> { return SlotContour{}; },
     [](const StatorFrame&, const Values&) { return std::vector<DimensionMark>{}; }}};

} // namespace
} // namespace mavlo
