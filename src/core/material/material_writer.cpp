#include "material/material.h"
#include "quantity/quantity.h"

#include <nlohmann/json.hpp>

namespace mavlo {
namespace {

nlohmann::json rows(const std::vector<BhPoint>& points) {
    nlohmann::json list = nlohmann::json::array();
    for (const BhPoint& p : points)
        if (p.h != 0 || p.b != 0) list.push_back({p.h, p.b});
    return list;
}

std::string celsius(double kelvin) {
    return number_text(kelvin - 273.15, 9) + " degC";
}

/// Puts what differs from "not known".
struct Writer {
    nlohmann::json out{};
    void quantity(const char* key, double si, const char* unit) {
        if (si != 0) out[key] = number_text(to_unit(si, *find_unit(unit)), 12) + " " + unit;
    }
    void number(const char* key, double value) {
        if (value != 0) out[key] = value;
    }
};

void put_permeability(Writer& w, const Material& m) {
    w.out["mu_r"] =
        m.curve.linear_mu_r() >= ideal_mu_r ? nlohmann::json("inf") : nlohmann::json(m.curve.linear_mu_r());
}

void put_steel(Writer& w, const Material& m) {
    w.quantity("thickness", m.thickness, "mm");
    if (m.curve.is_linear())
        put_permeability(w, m);
    else
        w.out["bh"] = rows(m.curve.points());
    for (const auto& [kelvin, curve] : m.warm_curves) w.out["bh_at"][celsius(kelvin)] = rows(curve.points());
    for (const LossPoint& p : m.loss.points) w.out["loss"].push_back({p.frequency, p.flux_density, p.loss});
    if (m.loss.known() && m.loss.law != LossLaw::Separated) w.out["loss_law"] = to_string(m.loss.law);
    if (m.solid) w.out["solid"] = true;
}

void put_magnet(Writer& w, const MagnetData& m) {
    w.out["remanence"] = number_text(m.remanence, 12) + " T";
    w.out["recoil_mu_r"] = m.recoil_mu_r;
    w.number("remanence_per_kelvin", m.remanence_per_kelvin);
    w.quantity("coercivity", m.coercivity, "kA/m");
    w.number("coercivity_per_kelvin", m.coercivity_per_kelvin);
    for (const DemagnetisationCurve& c : m.curves) {
        nlohmann::json list = nlohmann::json::array();
        for (const BhPoint& p : c.points) list.push_back({p.h, p.b});
        w.out["demagnetisation"][celsius(c.temperature)] = std::move(list);
    }
}

} // namespace

nlohmann::json to_json(const Material& m) {
    Writer w;
    w.out["kind"] = to_string(m.kind);
    if (!m.note.empty()) w.out["note"] = m.note;
    w.quantity("density", m.density, "kg/m3");
    w.quantity("resistivity", m.resistivity, "Ohm.m");
    w.number("resistivity_per_kelvin", m.resistivity_per_kelvin);
    w.quantity("specific_heat", m.specific_heat, "J/(kg.K)");
    w.quantity("thermal_conductivity", m.thermal_conductivity, "W/(m.K)");
    w.quantity("youngs_modulus", m.youngs_modulus, "GPa");
    w.quantity("yield_strength", m.yield_strength, "MPa");
    if (m.highest_temperature > 0) w.out["highest_temperature"] = celsius(m.highest_temperature);
    if (m.kind == MaterialKind::Steel) {
        w.quantity("thermal_conductivity_across", m.thermal_conductivity_across, "W/(m.K)");
        put_steel(w, m);
    }
    if (m.kind == MaterialKind::Insulator && m.curve.linear_mu_r() > 1) put_permeability(w, m);
    if (m.kind == MaterialKind::Magnet) put_magnet(w, m.magnet);
    return w.out;
}

} // namespace mavlo
