#pragma once
// A slot's dimensions, wherever the slot stands.

#include "machine/tile_kind.h"

#include <map>

namespace mavlo {

/// Where slots are cut, and what their parameters begin with.
struct SlotPlace {
    std::string prefix; ///< "stator.slot", "rotor.bar"
    std::string side;   ///< "stator", "rotor"
    bool operator==(const SlotPlace&) const = default;
};
const SlotPlace& slots_of_stator();
const SlotPlace& bars_of_rotor();

/// Values by the names that a slot has for them: "depth" is stator.slot.depth or rotor.bar.depth. The values
/// must outlive it.
class SlotValues {
  public:
    SlotValues(const Values& values, const SlotPlace& place)
        : m_values(values)
        , m_place(place) {}

    std::string path(std::string_view name) const { return m_place.prefix + "." + std::string(name); }
    const SlotPlace& place() const { return m_place; }
    double number(std::string_view name) const;
    /// 0 where slots of this place have no such thing (bars have no liner).
    double given(std::string_view name) const { return has(name) ? number(name) : 0; }
    int whole(std::string_view name) const { return m_values.whole(path(name)); }
    const std::string& word(std::string_view name) const { return m_values.word(path(name)); }
    bool is_auto(std::string_view name) const { return m_values.is_auto(path(name)); }
    bool has(std::string_view name) const { return m_own.contains(name) || m_values.has(path(name)); }
    /// With another number of this name.
    SlotValues with(const std::string& name, double si) const;
    /// What lies on the other side of the slots' body: "the stator's bore".
    std::string far_side(const TileFrame& frame) const;

  private:
    const Values& m_values;
    SlotPlace m_place;
    std::map<std::string, double, std::less<>> m_own;
};

} // namespace mavlo
