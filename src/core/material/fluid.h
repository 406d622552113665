#pragma once
// Air and coolants over temperature.

#include "quantity/problem.h"

#include <string>
#include <vector>

namespace mavlo {

struct Fluid {
    double density = 0;       ///< kg/m3
    double specific_heat = 0; ///< at constant pressure, J/(kg K)
    double conductivity = 0;  ///< W/(m K)
    double viscosity = 0;     ///< kinematic, m2/s
    double expansion = 0;     ///< volumetric, 1/K

    double prandtl() const { return viscosity * density * specific_heat / conductivity; }
    double diffusivity() const { return conductivity / (density * specific_heat); } ///< m2/s
};

/// Of dry air at this height over the sea, Pa (U.S. Standard Atmosphere, 1976, below 11 km).
double air_pressure(double altitude);

/// Dry air as an ideal gas. Viscosity by W. Sutherland (Phil. Mag. 36, 1893), conductivity by the formula of
/// the U.S. Standard Atmosphere, 1976: within 1 % of tables from 200 to 700 K. `kelvin` 100 to 1500.
Fluid dry_air(double kelvin, double pressure = 101325);

/// The coolants' names: water, water with half its volume of ethylene glycol, mineral oil of low viscosity.
const std::vector<std::string>& coolant_names();

/// A coolant at a temperature, K; straight between tabulated ones. Water: saturated liquid (F.P. Incropera,
/// D.P. DeWitt, Fundamentals of Heat and Mass Transfer, table A.6). Mixture and oil: typical values, rounded,
/// right to some 5 %, the viscosity to some 20 %. Problems where it would freeze or boil, or the name is not
/// known.
Result<Fluid> coolant(const std::string& name, double kelvin);

} // namespace mavlo
