#pragma once
// The parts of a machine's loss, and of which of them nothing is known.

#include "machine/machine.h"

#include <array>
#include <string>

namespace mavlo {

/// `WindingStray`: eddy currents in the strands by the magnets' field that crosses the slots, beside what the
/// currents' own field adds (`Copper`). `Carrier…`: what the ripple of an inverter's carrier adds; `Switches`:
/// its valves, where the terminals' power does not hold them already. `Rings`: those of a cage, both, with what
/// of its bars lies between them and the stack. `SolidStator`, `SolidRotor`: eddy currents in massive steel,
/// beside its hysteresis (`Iron…`).
enum class LossPart {
    Copper,
    WindingStray,
    IronStator,
    IronRotor,
    Magnets,
    Shaft,
    Shell,
    Bars,
    Rings,
    SolidStator,
    SolidRotor,
    Bearings,
    Windage,
    CarrierIron,
    CarrierMagnets,
    Switches
};
inline constexpr std::array all_loss_parts{
    LossPart::Copper,  LossPart::WindingStray, LossPart::IronStator,     LossPart::IronRotor,
    LossPart::Magnets, LossPart::Shaft,        LossPart::Shell,          LossPart::Bars,
    LossPart::Rings,   LossPart::SolidStator,  LossPart::SolidRotor,     LossPart::Bearings,
    LossPart::Windage, LossPart::CarrierIron,  LossPart::CarrierMagnets, LossPart::Switches};
/// Eddy currents of what is no sheet: a field in time has them in it.
inline constexpr std::array eddy_parts{LossPart::Magnets,   LossPart::Shaft, LossPart::Shell,
                                       LossPart::Bars,      LossPart::Rings, LossPart::SolidStator,
                                       LossPart::SolidRotor};

/// Some of them.
class LossParts {
  public:
    LossParts() = default;
    LossParts(std::initializer_list<LossPart> parts) {
        for (LossPart part : parts) add(part);
    }
    void add(LossPart part) { m_bits |= bit(part); }
    void add(LossParts parts) { m_bits |= parts.m_bits; }
    void remove(LossParts parts) { m_bits &= ~parts.m_bits; }
    bool has(LossPart part) const { return (m_bits & bit(part)) != 0; }
    bool empty() const { return m_bits == 0; }
    bool operator==(const LossParts&) const = default;

  private:
    static unsigned bit(LossPart part) { return 1u << unsigned(part); }
    unsigned m_bits = 0;
};

/// What the machine's materials do not tell: iron of a steel without measured losses, magnets of a grade
/// without a resistivity. And what only a field in time tells: eddy currents in massive steel, with their own
/// field.
LossParts unknown_losses(const Machine& machine);
/// Hz: where the shortest of the steels' loss tables ends.
double loss_table_end(const Machine& machine);
/// Those of massive steel alone.
LossParts solid_losses_of(const Machine& machine);
/// The same as sentences that name the materials and say what stays open, but for the parts that are `found`;
/// empty where all is known.
std::string unknown_losses_in_words(const Machine& machine, LossParts found = {});

} // namespace mavlo
