#pragma once
// Heat that passes from walls to fluids and by radiation: published correlations with their ranges.

#include "material/fluid.h"

namespace mavlo {

/// Temperatures in K, lengths in m, coefficients in W/(m2 K).
struct Film {
    double nusselt = 0;
    double coefficient = 0;
    bool in_range = true; ///< within what the correlation was made from
};

/// Of an annular gap whose inner (or outer) wall turns, from wall to wall over the gap l, on the hydraulic
/// diameter 2 l.
struct GapShape {
    double inner_radius = 0, outer_radius = 0;
    double width() const { return outer_radius - inner_radius; }
};

/// K.M. Becker, J. Kaye, J. Heat Transfer 84, 1962, p. 97: with Ta = omega^2 r_m l^3/nu^2 over the factor F_g
/// of the curved gap (G.I. Taylor, Phil. Trans. R. Soc. A 223, 1923), Nu = 2 below 1700, 0.128 Ta^0.367 to 1e4,
/// 0.409 Ta^0.241 to 1e7.
Film gap_by_becker_kaye(const GapShape& gap, double speed, const Fluid& fluid);
/// The factor F_g and Ta/F_g of it.
double taylor_number(const GapShape& gap, double speed, double viscosity);
double taylor_factor(const GapShape& gap);
/// G.I. Taylor, Proc. R. Soc. A 151, 1935; C. Gazley, Trans. ASME 80, 1958; as P.H. Mellor, D. Roberts, D.R.
/// Turner, IEE Proc. B 138(5), 1991 use it: with Ta = Re (l/r)^1/2, Re = omega r l/nu, Nu = 2 below 41, 0.212
/// Ta^0.63 Pr^0.27 to 100, 0.386 Ta^0.5 Pr^0.27 beyond.
Film gap_by_taylor(const GapShape& gap, double speed, const Fluid& fluid);
/// C. Gazley, as above, with air that flows along the gap: Nu = 0.03 Re^0.8 with Re = 2 l v/nu and v^2 =
/// v_axial^2 + (omega r/2)^2; of turbulent flow.
Film gap_with_axial_flow(const GapShape& gap, double speed, double axial_speed, const Fluid& fluid);

/// S.W. Churchill, H.H.S. Chu, Int. J. Heat Mass Transfer 18, 1975, p. 1049: a long horizontal cylinder in
/// still fluid, Ra up to 1e12.
Film horizontal_cylinder(double diameter, double wall, double ambient, const Fluid& fluid);
/// The same authors, ibid. p. 1323: a vertical plate of this height.
Film vertical_plate(double height, double wall, double ambient, const Fluid& fluid);
/// K.M. Becker, Int. J. Heat Mass Transfer 6, 1963: a cylinder that turns in still fluid, Nu = 0.133 Re^2/3
/// Pr^1/3 with Re = omega D^2/(2 nu) from 1e3 to 1e5.
Film turning_cylinder(double diameter, double speed, const Fluid& fluid);
/// Along a plate: E. Pohlhausen, ZAMM 1, 1921, 0.664 Re^1/2 Pr^1/3 to Re 5e5, then (0.037 Re^0.8 - 871) Pr^1/3.
Film flat_plate(double length, double speed, const Fluid& fluid);

/// F. Heiles, Elektrotech. Maschinenbau 69, 1952: air blown along open channels between ribs, of the channel's
/// walls:
///   h = rho c v D/(4 L) (1 - e^-m), m = 0.1448 L^0.946/D^1.16 (k/(rho c v))^0.214
/// with D four times the area over the wetted walls (the open side is none).
Film rib_channel(double speed, double length, double gap, double height, const Fluid& fluid);
/// Share of a straight rib's wall that counts: tanh(m H)/(m H), m^2 = 2 h/(k t).
double rib_efficiency(double coefficient, double height, double thickness, double conductivity);
/// Coefficient of the smooth wall under ribs, their tips taken like their sides (W.B. Harper, D.R. Brown, NACA
/// 158, 1922).
double ribbed_wall(double coefficient, double height, double thickness, double gap, double conductivity);

/// A rectangular channel. Turbulent from Re 4000: V. Gnielinski, Int. Chem. Eng. 16, 1976, with the friction
/// factor (0.79 ln Re - 1.64)^-2 (B.S. Petukhov, 1970) and the entrance's factor 1 + (D/L)^2/3; laminar to
/// 2300: H. Hausen, 1943; straight over Re between (V. Gnielinski, Int. J. Heat Mass Transfer 63, 2013).
struct Channel {
    double width = 0, height = 0, length = 0;
    double area() const { return width * height; }
    double hydraulic_diameter() const { return 2 * width * height / (width + height); }
    double aspect() const; ///< shorter over longer side
};
Film channel_flow(const Channel& channel, double speed, const Fluid& fluid);
/// Gnielinski's turbulent formula without the entrance's factor, and F.W. Dittus, L.M.K. Boelter (Univ. Calif.
/// Publ. Eng. 2, 1930) in W.H. McAdams' form for a fluid that is heated: 0.023 Re^0.8 Pr^0.4, Re from 1e4.
Film turbulent_channel(const Channel& channel, double speed, const Fluid& fluid);
Film dittus_boelter(const Channel& channel, double speed, const Fluid& fluid);
Film laminar_channel(const Channel& channel, double speed, const Fluid& fluid);
/// Fully developed laminar flow in a duct of this aspect (R.K. Shah, A.L. London, Laminar Flow Forced
/// Convection in Ducts, 1978): walls of one temperature, walls of one flux along the duct, and Fanning's
/// friction factor times Re.
struct LaminarDuct {
    double nusselt_temperature, nusselt_flux, friction;
};
LaminarDuct laminar_duct(double aspect);
/// Pa along the channel: of friction alone, laminar by laminar_duct, turbulent by Petukhov's factor.
double pressure_drop(const Channel& channel, double speed, const Fluid& fluid);

/// J. Stefan's law between a grey wall and surroundings that are far larger: per area, linear between the two
/// temperatures.
double radiation(double emissivity, double wall, double ambient);
/// Between concentric cylinders, per inner area.
double radiation_between(double inner_emissivity, double outer_emissivity, double inner_over_outer_radius,
                         double inner, double outer);

/// W/(m2 K) of end windings and walls in the air that a rotor stirs: 15.5 (1 + 0.29 v) with the speed of the
/// rotor's rim, m/s (P.H. Mellor, D. Roberts, D.R. Turner, IEE Proc. B 138(5), 1991); in the literature factors
/// between half and twice that are found.
double stirred_air(double rim_speed);

/// K/W of one ball bearing between its rings: 0.45 (0.12 - d)(33 - omega d) with its mean diameter d below 0.12
/// m (G. Kylander, Thermal Modelling of Small Cage Induction Motors, Chalmers, 1995). Never below what solid
/// steel would let through.
struct BearingFilm {
    double resistance;
    bool in_range;
};
BearingFilm ball_bearing(double mean_diameter, double speed);

/// W/K of a round pin of this radius, length and conductivity that turns in still air and takes its heat at one
/// end (F.P. Incropera et al., Fundamentals of Heat and Mass Transfer, 6th ed., table 3.4, the tip as half a
/// radius more of length; its film as turning_cylinder's, at least horizontal_cylinder's, with the radiation of
/// bare steel, emissivity 0.3, both at 40 K above the ambient).
double turning_pin(double radius, double length, double conductivity, double speed, double ambient);

} // namespace mavlo
