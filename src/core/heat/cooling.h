#pragma once
// Housing, cooling and contacts of a design, as plain values in SI.

#include "heat/walls.h"
#include "machine/machine.h"
#include "material/fluid.h"

#include <map>
#include <optional>
#include <string>

namespace mavlo {

enum class HousingKind { None, Round, Ribbed, Jacket };
enum class CoolingKind { StillAir, Fan, Flow, Given };

struct CoolingData {
    HousingKind housing = HousingKind::Round;
    double wall = 0, length = 0, shield = 0; ///< m; length over the end shields
    Material housing_material;
    int ribs = 0;
    double rib_height = 0, rib_thickness = 0;
    bool spiral = true;
    int channels = 1;
    double channel_width = 0, channel_height = 0;
    double emissivity = 0.9;

    CoolingKind kind = CoolingKind::StillAir;
    double ambient = 313.15, altitude = 0; ///< K, m
    double coefficient = 0;                ///< W/(m2 K), given
    bool own_fan = false;
    double air_speed = 0; ///< m/s; of an own fan at the rated speed
    std::string coolant;
    double flow = 0, inlet = 313.15; ///< m3/s, K

    double stack_contact = 0, shaft_contact = 0, magnet_contact = 0, bar_contact = 0,
           liner_contact = 0;                   ///< m of air
    std::optional<double> wall_resistance{};    ///< K/W
    Material liner, resin, enamel, end_filling; ///< the last may be air
    double impregnated = 1;
    double insulation_limit = 428.15; ///< K

    GivenWalls walls{}; ///< in place of the films outside

    Material shaft;              ///< conducts heat
    double free_shaft = 0;       ///< m of it in the open
    double bearing_diameter = 0; ///< m, mean; 0: by the shaft's
    double bearing_width = 0;    ///< m, of each; 0: by the shaft's

    /// K/W, as measured instead of computed: of all that leaves the outside, across the gap, and by the names
    /// of the model's terms; those of one name share it.
    std::optional<double> housing_to_ambient{}, gap{};
    std::map<std::string, double> measured{};
};

/// Of a machine's values, with the materials that they name. Problems where a material or what it conducts is
/// not known, or where what is given lets no heat out.
Result<CoolingData> cooling_of(const Machine& machine, const MaterialLibrary& own);

/// K that a winding's class of insulation allows (IEC 60085); none where there is no such value.
std::optional<double> insulation_limit(const Values& values);

} // namespace mavlo
