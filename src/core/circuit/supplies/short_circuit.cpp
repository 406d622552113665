// Terminals joined without impedance: all three, or two with the third open.

#include "circuit/supply_kind.h"

namespace mavlo::supply_short_circuit {
namespace {

class ShortCircuit : public Supply {
  public:
    explicit ShortCircuit(int shorted)
        : m_shorted(shorted) {}
    std::unique_ptr<Supply> copy() const override { return std::make_unique<ShortCircuit>(*this); }
    std::array<LegLaw, 3> legs(double) const override {
        std::array<LegLaw, 3> laws{};
        // An open leg takes any potential.
        if (m_shorted == 2) laws[2] = {-1e12, 0, 1e12, 0};
        return laws;
    }

  private:
    int m_shorted;
};

Result<std::unique_ptr<Supply>> make(const SupplySettings& s) {
    if (s.shorted != 2 && s.shorted != 3)
        return Problem{"--with shorted", "Two or three terminals are joined; one phase alone has no way back."};
    return std::unique_ptr<Supply>(std::make_unique<ShortCircuit>(s.shorted));
}

const Register<SupplyKind> registered{
    {"short-circuit", "Two or three terminals joined suddenly, from the angle where the run begins.", make,
     70}};

} // namespace
} // namespace mavlo::supply_short_circuit
