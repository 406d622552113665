// The machine as a generator on six diodes that feed a link of constant voltage.

#include "circuit/gated_supply.h"
#include "circuit/supply_kind.h"

namespace mavlo::supply_rectifier {
namespace {

class Rectifier : public GatedSupply {
  public:
    using GatedSupply::GatedSupply;
    std::unique_ptr<Supply> copy() const override { return std::make_unique<Rectifier>(*this); }

  protected:
    double next_scheduled(double) const override { return std::numeric_limits<double>::infinity(); }
    void at_scheduled(double, const Currents&) override {}
};

Result<std::unique_ptr<Supply>> make(const SupplySettings& s) {
    if (s.bridge.dc < 0) return Problem{"--with dc_voltage", "A voltage of 0 V or more is wanted."};
    return std::unique_ptr<Supply>(std::make_unique<Rectifier>(s.bridge, s.clock));
}

const Register<SupplyKind> registered{
    {"rectifier", "A generator on six diodes into a link of constant voltage.", make, 80}};

} // namespace
} // namespace mavlo::supply_rectifier
