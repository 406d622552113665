#pragma once
// Kinds of supplies. A new one is one file in circuit/supplies/ that registers itself.

#include "circuit/supply.h"
#include "circuit/voltage_rule.h"
#include "quantity/problem.h"
#include "quantity/registry.h"

#include <string>
#include <vector>

namespace mavlo {

enum class Sampling { Natural, Symmetric, Asymmetric };

/// What supplies may need; each names what it takes. Angles are electrical, ahead of the no-load EMF.
struct SupplySettings {
    Bridge bridge;
    Clock clock;
    double voltage = 0, voltage_angle = 0; ///< phase, peak; rad
    double lead = 0;                       ///< rad, of blocks
    double chop_current = 0, band = 0;     ///< A; 0: not limited
    bool hard_chop = false;                ///< both switches open at the limit, else the upper one
    double carrier_frequency = 0, modulation = 0;
    Sampling sampling = Sampling::Natural;
    double dead_time = 0, least_interval = 0; ///< s
    double current = 0, advance = 0;          ///< of current control: A peak, rad from +q towards -d
    int shorted = 3;                          ///< phases of a short circuit
};

/// What sets the fundamental of the phases' voltage.
enum class Fundamental {
    None,       ///< nothing that is given: currents, or what the machine itself makes
    Voltage,    ///< voltage and voltage_angle
    SixStep,    ///< the link, and voltage_angle
    Modulation, ///< modulation of the link, and voltage_angle
    Blocks,     ///< lead
};

struct SupplyKind {
    std::string name;
    std::string tells; ///< one sentence
    Result<std::unique_ptr<Supply>> (*make)(const SupplySettings&) = nullptr;
    int order = 0;
    Fundamental fundamental = Fundamental::None;
    VoltageRule rule = VoltageRule::Sine; ///< the most it makes without distortion
};

} // namespace mavlo
