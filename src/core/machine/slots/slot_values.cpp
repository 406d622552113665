#include "machine/slots/slot_values.h"

namespace mavlo {

const SlotPlace& slots_of_stator() {
    static const SlotPlace place{"stator.slot", "stator"};
    return place;
}

const SlotPlace& bars_of_rotor() {
    static const SlotPlace place{"rotor.bar", "rotor"};
    return place;
}

double SlotValues::number(std::string_view name) const {
    const auto own = m_own.find(name);
    return own != m_own.end() ? own->second : m_values.number(path(name));
}

SlotValues SlotValues::with(const std::string& name, double si) const {
    SlotValues other = *this;
    other.m_own[name] = si;
    return other;
}

std::string SlotValues::far_side(const TileFrame& frame) const {
    if (m_place.side == "rotor") return frame.outside() ? "the rotor's outer diameter" : "the shaft";
    return frame.outside() ? "the stator's outer diameter" : "the stator's bore";
}

} // namespace mavlo
