#include "heat/film.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double gravity = 9.80665, stefan = 5.670374419e-8;

double mean_radius(const GapShape& gap) {
    return (gap.inner_radius + gap.outer_radius) / 2;
}

Film film(double nusselt, double conductivity, double length, bool in_range) {
    return {nusselt, nusselt * conductivity / length, in_range};
}

double rayleigh(double length, double wall, double ambient, const Fluid& f) {
    return gravity * f.expansion * std::abs(wall - ambient) * std::pow(length, 3) /
           (f.viscosity * f.diffusivity());
}

double petukhov(double reynolds) {
    return std::pow(0.79 * std::log(reynolds) - 1.64, -2);
}

constexpr double laminar_end = 2300, turbulent_start = 4000;

double channel_reynolds(const Channel& channel, double speed, const Fluid& fluid) {
    return speed * channel.hydraulic_diameter() / fluid.viscosity;
}

double hausen(double reynolds, const Channel& channel, const Fluid& fluid) {
    const double graetz = channel.hydraulic_diameter() / channel.length * reynolds * fluid.prandtl();
    return 3.66 + 0.0668 * graetz / (1 + 0.04 * std::pow(graetz, 2.0 / 3));
}

double gnielinski(double reynolds, const Fluid& fluid) {
    const double pr = fluid.prandtl(), f = petukhov(reynolds) / 8;
    return f * (reynolds - 1000) * pr / (1 + 12.7 * std::sqrt(f) * (std::pow(pr, 2.0 / 3) - 1));
}

double entrance(const Channel& channel) {
    return 1 + std::pow(channel.hydraulic_diameter() / channel.length, 2.0 / 3);
}

} // namespace

double taylor_factor(const GapShape& gap) {
    const double l = gap.width(), r = mean_radius(gap), narrow = 1 - l / (2 * r), x = l / r / narrow;
    const double p = 0.0571 * (1 - 0.652 * x) + 0.00056 / (1 - 0.652 * x);
    return std::pow(pi, 4) / 1697 / (narrow * narrow) / p;
}

double taylor_number(const GapShape& gap, double speed, double viscosity) {
    return speed * speed * mean_radius(gap) * std::pow(gap.width(), 3) / (viscosity * viscosity) /
           taylor_factor(gap);
}

Film gap_by_becker_kaye(const GapShape& gap, double speed, const Fluid& fluid) {
    const double ta = taylor_number(gap, speed, fluid.viscosity), nusselt = ta < 1700 ? 2
                                                                            : ta < 1e4
                                                                                ? 0.128 * std::pow(ta, 0.367)
                                                                                : 0.409 * std::pow(ta, 0.241);
    return film(nusselt, fluid.conductivity, 2 * gap.width(), ta < 1e7);
}

Film gap_by_taylor(const GapShape& gap, double speed, const Fluid& fluid) {
    const double l = gap.width(), r = gap.inner_radius,
                 ta = std::abs(speed) * r * l / fluid.viscosity * std::sqrt(l / r),
                 pr = std::pow(fluid.prandtl(), 0.27),
                 nusselt = ta < 41    ? 2
                           : ta < 100 ? 0.212 * std::pow(ta, 0.63) * pr
                                      : 0.386 * std::sqrt(ta) * pr;
    return film(nusselt, fluid.conductivity, 2 * l, true);
}

Film gap_with_axial_flow(const GapShape& gap, double speed, double axial_speed, const Fluid& fluid) {
    const double v = std::hypot(axial_speed, speed * gap.inner_radius / 2),
                 reynolds = 2 * gap.width() * v / fluid.viscosity;
    return film(0.03 * std::pow(reynolds, 0.8), fluid.conductivity, 2 * gap.width(), reynolds > laminar_end);
}

Film horizontal_cylinder(double diameter, double wall, double ambient, const Fluid& fluid) {
    const double ra = rayleigh(diameter, wall, ambient, fluid),
                 shape = std::pow(1 + std::pow(0.559 / fluid.prandtl(), 9.0 / 16), 8.0 / 27);
    return film(std::pow(0.60 + 0.387 * std::pow(ra, 1.0 / 6) / shape, 2), fluid.conductivity, diameter,
                ra <= 1e12);
}

Film vertical_plate(double height, double wall, double ambient, const Fluid& fluid) {
    const double ra = rayleigh(height, wall, ambient, fluid),
                 shape = std::pow(1 + std::pow(0.492 / fluid.prandtl(), 9.0 / 16), 8.0 / 27);
    return film(std::pow(0.825 + 0.387 * std::pow(ra, 1.0 / 6) / shape, 2), fluid.conductivity, height,
                ra <= 1e12);
}

Film turning_cylinder(double diameter, double speed, const Fluid& fluid) {
    const double reynolds = std::abs(speed) * diameter * diameter / (2 * fluid.viscosity);
    return film(0.133 * std::pow(reynolds, 2.0 / 3) * std::cbrt(fluid.prandtl()), fluid.conductivity, diameter,
                reynolds >= 1e3 && reynolds <= 1e5);
}

Film flat_plate(double length, double speed, const Fluid& fluid) {
    const double reynolds = speed * length / fluid.viscosity, pr = std::cbrt(fluid.prandtl());
    const double nusselt =
        reynolds < 5e5 ? 0.664 * std::sqrt(reynolds) * pr : (0.037 * std::pow(reynolds, 0.8) - 871) * pr;
    return film(nusselt, fluid.conductivity, length, reynolds < 1e7);
}

Film rib_channel(double speed, double length, double gap, double height, const Fluid& fluid) {
    if (speed <= 0) return {0, 0, false};
    const double d = 4 * gap * height / (2 * height + gap),
                 carried = fluid.density * fluid.specific_heat * speed;
    const double m =
        0.1448 * std::pow(length, 0.946) / std::pow(d, 1.16) * std::pow(fluid.conductivity / carried, 0.214);
    const double h = carried * d / (4 * length) * -std::expm1(-m);
    return {h * d / fluid.conductivity, h, true};
}

double rib_efficiency(double coefficient, double height, double thickness, double conductivity) {
    const double mh = height * std::sqrt(2 * coefficient / (conductivity * thickness));
    return mh > 0 ? std::tanh(mh) / mh : 1;
}

double ribbed_wall(double coefficient, double height, double thickness, double gap, double conductivity) {
    const double eta = rib_efficiency(coefficient, height, thickness, conductivity);
    return coefficient * (gap + eta * (2 * height + thickness)) / (gap + thickness);
}

double Channel::aspect() const {
    return std::min(width, height) / std::max(width, height);
}

Film turbulent_channel(const Channel& channel, double speed, const Fluid& fluid) {
    const double reynolds = channel_reynolds(channel, speed, fluid);
    return film(gnielinski(reynolds, fluid), fluid.conductivity, channel.hydraulic_diameter(),
                reynolds > 3000 && reynolds < 5e6);
}

Film dittus_boelter(const Channel& channel, double speed, const Fluid& fluid) {
    const double reynolds = channel_reynolds(channel, speed, fluid);
    return film(0.023 * std::pow(reynolds, 0.8) * std::pow(fluid.prandtl(), 0.4), fluid.conductivity,
                channel.hydraulic_diameter(), reynolds > 1e4);
}

Film laminar_channel(const Channel& channel, double speed, const Fluid& fluid) {
    const double reynolds = channel_reynolds(channel, speed, fluid);
    return film(hausen(reynolds, channel, fluid), fluid.conductivity, channel.hydraulic_diameter(),
                reynolds < laminar_end);
}

Film channel_flow(const Channel& channel, double speed, const Fluid& fluid) {
    const double reynolds = channel_reynolds(channel, speed, fluid);
    const auto told = [&](double nusselt) {
        return film(nusselt, fluid.conductivity, channel.hydraulic_diameter(), reynolds < 5e6);
    };
    if (reynolds <= laminar_end) return told(hausen(reynolds, channel, fluid));
    if (reynolds >= turbulent_start) return told(entrance(channel) * gnielinski(reynolds, fluid));
    const double share = (reynolds - laminar_end) / (turbulent_start - laminar_end);
    return told((1 - share) * hausen(laminar_end, channel, fluid) +
                share * entrance(channel) * gnielinski(turbulent_start, fluid));
}

LaminarDuct laminar_duct(double a) {
    const auto polynomial = [a](double first, std::initializer_list<double> rest) {
        double sum = 1, power = 1;
        for (double c : rest) sum += c * (power *= a);
        return first * sum;
    };
    return {polynomial(7.541, {-2.610, 4.970, -5.119, 2.702, -0.548}),
            polynomial(8.235, {-2.0421, 3.0853, -2.4765, 1.0578, -0.1861}),
            polynomial(24, {-1.3553, 1.9467, -1.7012, 0.9564, -0.2537})};
}

double pressure_drop(const Channel& channel, double speed, const Fluid& fluid) {
    const double reynolds = channel_reynolds(channel, speed, fluid), d = channel.hydraulic_diameter();
    if (reynolds <= 0) return 0;
    const double laminar = 4 * laminar_duct(channel.aspect()).friction / reynolds,
                 factor =
                     reynolds < laminar_end ? laminar : std::max(laminar, petukhov(std::max(reynolds, 3000.0)));
    return factor * channel.length / d * fluid.density * speed * speed / 2;
}

double radiation(double emissivity, double wall, double ambient) {
    return emissivity * stefan * (wall * wall + ambient * ambient) * (wall + ambient);
}

double radiation_between(double inner_emissivity, double outer_emissivity, double inner_over_outer_radius,
                         double inner, double outer) {
    const double together = 1 / (1 / inner_emissivity + inner_over_outer_radius * (1 / outer_emissivity - 1));
    return radiation(together, inner, outer);
}

double stirred_air(double rim_speed) {
    return 15.5 * (1 + 0.29 * std::abs(rim_speed));
}

BearingFilm ball_bearing(double mean_diameter, double speed) {
    constexpr double most = 0.12, least_resistance = 0.02;
    const double resistance = 0.45 * (most - mean_diameter) * (33 - std::abs(speed) * mean_diameter);
    return {std::max(resistance, least_resistance), mean_diameter < most && resistance > least_resistance};
}

double turning_pin(double radius, double length, double conductivity, double speed, double ambient) {
    constexpr double above = 40, bare_steel = 0.3;
    const double diameter = 2 * radius, wall = ambient + above;
    const Fluid air = dry_air(ambient + above / 2);
    const double film = std::max(turning_cylinder(diameter, speed, air).coefficient,
                                 horizontal_cylinder(diameter, wall, ambient, air).coefficient) +
                        radiation(bare_steel, wall, ambient);
    const double section = pi * radius * radius, round = pi * diameter,
                 m = std::sqrt(film * round / (conductivity * section));
    return std::sqrt(film * round * conductivity * section) * std::tanh(m * (length + radius / 2));
}

} // namespace mavlo
