#include "heat/machine_heat.h"

#include "heat/film.h"
#include "heat/heat_groups.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double film_exact = 1e-4; ///< K between two rounds of films
constexpr int most_film_rounds = 60;
constexpr double least_wind = 0.05; ///< m/s: less is still air

} // namespace

Result<std::unique_ptr<MachineHeatModel>> MachineHeatModel::of(std::shared_ptr<const MachineModel> model,
                                                               CoolingData cooling, double speed) {
    std::unique_ptr<MachineHeatModel> made(new MachineHeatModel(std::move(model), std::move(cooling), speed));
    if (auto problems = made->build(); !problems.empty()) return problems;
    return made;
}

MachineHeatModel::MachineHeatModel(std::shared_ptr<const MachineModel> model, CoolingData cooling, double speed)
    : m_model(std::move(model))
    , m(m_model->machine)
    , m_cooling(std::move(cooling))
    , m_speed(speed) {}

void MachineHeatModel::note(bool in_range, const std::string& words) {
    if (!in_range && std::find(m_notes.begin(), m_notes.end(), words) == m_notes.end())
        m_notes.push_back(words);
}

void MachineHeatModel::add_part(HeatPart part, NodeShares shares, double capacity) {
    if (!shares.empty()) m_parts.emplace(part, Lump{std::move(shares), capacity});
}

/// A term whose coefficient depends on the shaft's speed.
void MachineHeatModel::turning(int term, std::function<double(double)> coefficient) {
    if (term < 0) return;
    m_system.set_coefficient(term, coefficient(m_speed));
    m_turning.emplace_back(term, std::move(coefficient));
}

void MachineHeatModel::set_speed(double speed) {
    m_speed = speed;
    for (const auto& [term, coefficient] : m_turning) m_system.set_coefficient(term, coefficient(speed));
}

/// The held node beyond a surface: the ambient, or the fluid or wall that is given there.
int MachineHeatModel::beyond(const char* surface) {
    const auto given = m_cooling.walls.find(surface);
    if (given == m_cooling.walls.end()) return m_ambient;
    const int sink = m_system.add_body();
    m_system.hold(sink, given->second.kelvin);
    m_sinks[surface] = sink;
    return sink;
}

/// W/(m2 K), given or the model's own.
double MachineHeatModel::film_of(const char* surface, double own) const {
    const auto given = m_cooling.walls.find(surface);
    return given == m_cooling.walls.end() ? own : given->second.film();
}

/// The air's speed along the housing, m/s.
double MachineHeatModel::wind() const {
    if (m_cooling.kind != CoolingKind::Fan) return 0;
    return m_cooling.air_speed * (m_cooling.own_fan && m.rating.speed > 0 ? m_speed / m.rating.speed : 1);
}

/// The lumped body of a part, made where there is none yet.
int MachineHeatModel::node(HeatPart part) {
    if (!m_parts.contains(part)) add_part(part, {{m_system.add_body(), 1.0}}, 0);
    return m_parts.at(part).shares.front().first;
}

Problems MachineHeatModel::build() {
    m_ambient = m_system.add_body();
    m_system.hold(m_ambient, m_cooling.ambient);
    if (m_cooling.kind == CoolingKind::Flow) {
        if (const auto fluid = coolant(m_cooling.coolant, m_cooling.inlet); !fluid) return fluid.problems();
        m_inlet = m_system.add_body();
        m_system.hold(m_inlet, m_cooling.inlet);
    }
    for (int body = 0; body < 2; ++body) add_section(body);
    groups();
    contacts();
    gap();
    ends();
    if (m.outer_rotor())
        outer_rotor();
    else
        outside();
    shaft();
    for (const auto& [name, resistance] : m_cooling.measured) m_system.give(name, 1 / resistance);
    for (const auto& [part, own] : m_parts)
        if (own.capacity > 0 && own.shares.size() == 1)
            m_system.add_capacity(own.shares.front().first, own.capacity);
    for (const auto& [surface, wall] : m_cooling.walls)
        if (!m_sinks.contains(surface))
            return {{"--with walls", "This machine has no such surface outside as \"" + surface +
                                         "\" (with a housing they are housing and end_shields, without one "
                                         "stack, of an outer rotor rotor and carrier)."}};
    return {};
}

/// W/(m2 K) from a surface of this diameter and length to ambient: by its cooling, per area of the smooth
/// cylinder.
double MachineHeatModel::bare_film(double diameter, double length, double wall) {
    const CoolingData& c = m_cooling;
    const Fluid air = dry_air((wall + c.ambient) / 2, air_pressure(c.altitude));
    if (c.kind == CoolingKind::Given) return c.coefficient;
    const double glow = radiation(c.emissivity, wall, c.ambient);
    if (wind() > least_wind) {
        const Film film = flat_plate(length, wind(), air);
        note(film.in_range, "The air along the housing is faster than the plate's correlation was made for.");
        return film.coefficient + glow;
    }
    const Film film = horizontal_cylinder(diameter, wall, c.ambient, air);
    note(film.in_range, "The housing is larger than the correlation of still air was made for.");
    return film.coefficient + glow;
}

double MachineHeatModel::outside_film(double wall) {
    const CoolingData& c = m_cooling;
    if (c.housing != HousingKind::Ribbed || c.kind == CoolingKind::Given)
        return bare_film(m_outer_diameter, m_length, wall);
    const double pitch = pi * m_outer_diameter / c.ribs, gap = pitch - c.rib_thickness,
                 k = c.housing_material.thermal_conductivity;
    const Fluid air = dry_air((wall + c.ambient) / 2, air_pressure(c.altitude));
    // Ribs see each other: they glow as the cylinder round their tips does.
    const double glow = radiation(c.emissivity, wall, c.ambient) * (1 + 2 * c.rib_height / m_outer_diameter);
    double own = horizontal_cylinder(m_outer_diameter + 2 * c.rib_height, wall, c.ambient, air).coefficient;
    if (wind() > least_wind)
        own = std::max(own, rib_channel(wind(), m_length, gap, c.rib_height, air).coefficient);
    return ribbed_wall(own, c.rib_height, c.rib_thickness, gap, k) + glow;
}

/// W/K from the housing into the coolant.
double MachineHeatModel::jacket_film(double wall) {
    const CoolingData& c = m_cooling;
    const double middle = std::min(std::max((c.inlet + wall) / 2, c.inlet), c.inlet + 40);
    auto fluid = coolant(c.coolant, middle);
    if (!fluid) fluid = coolant(c.coolant, c.inlet);
    Channel channel{c.channel_width, c.channel_height,
                    c.spiral ? pi * m_outer_diameter * c.channels : m_length};
    const double v = c.flow / (channel.area() * (c.spiral ? 1 : c.channels));
    const Film film = channel_flow(channel, v, *fluid);
    note(film.in_range, "The coolant is faster than the channel's correlation was made for.");
    m_pressure = mavlo::pressure_drop(channel, v, *fluid);
    const double walls = 2 * (channel.width + channel.height) * channel.length * (c.spiral ? 1 : c.channels);
    return film.coefficient * walls;
}

/// Sets what depends on temperatures.
void MachineHeatModel::films(const Eigen::VectorXd& t) {
    const auto set = [&](const char* name, double value) {
        if (const auto found = m_terms.find(name); found != m_terms.end() && found->second >= 0)
            m_system.set_coefficient(found->second, value);
    };
    const auto at = [&](HeatPart part) {
        const auto found = m_parts.find(part);
        return found == m_parts.end() ? m_cooling.ambient : HeatSystem::mean(found->second.shares, t);
    };
    const double housing = at(HeatPart::Housing), area = pi * m_outer_diameter * m_length,
                 plates = pi * m_outer_diameter * m_outer_diameter / 4;
    const auto replaced = [&](double value, double own_area) {
        return m_cooling.housing_to_ambient ? 1 / (*m_cooling.housing_to_ambient * own_area) : value;
    };
    set("housing to ambient", film_of("housing", replaced(outside_film(housing), area)) * area);
    const double shields = at(HeatPart::Shields);
    const Fluid air = dry_air((shields + m_cooling.ambient) / 2, air_pressure(m_cooling.altitude));
    const double plate = m_cooling.kind == CoolingKind::Given
                             ? m_cooling.coefficient
                             : vertical_plate(m_outer_diameter, shields, m_cooling.ambient, air).coefficient +
                                   radiation(m_cooling.emissivity, shields, m_cooling.ambient);
    set("end shields to ambient",
        2 * plates * film_of("end_shields", m_cooling.housing_to_ambient ? 1e-6 / plates : plate));
    set("stack to ambient",
        film_of("stack", replaced(bare_film(m_outer_diameter, m_length, at(HeatPart::Yoke)), area)));
    // What was measured holds all that leaves the outside.
    const double faces = m.outer_rotor() ? plates : 2 * plates;
    set("inner air to ambient", m_cooling.housing_to_ambient ? 1e-6 : 10 * faces);
    set("carrier to ambient",
        film_of("carrier", replaced(bare_film(m_outer_diameter, m_outer_diameter, housing), plates)) * plates);
    const double rim = at(HeatPart::Rotor);
    const Film turning = turning_cylinder(m_outer_diameter, m_speed, dry_air((rim + m_cooling.ambient) / 2));
    const double round_rotor =
        m_cooling.kind == CoolingKind::Given
            ? m_cooling.coefficient
            : std::max(turning.coefficient + radiation(m_cooling.emissivity, rim, m_cooling.ambient),
                       bare_film(m_outer_diameter, m_length, rim));
    set("rotor to ambient", film_of("rotor", round_rotor));
    if (m_terms.contains("housing to coolant")) set("housing to coolant", jacket_film(housing));
}

NodeShares MachineHeatModel::where(LossPart part, const HeatLosses& losses) const {
    const auto shares = [&](HeatPart of) {
        const auto found = m_parts.find(of);
        return found == m_parts.end() ? NodeShares{} : found->second.shares;
    };
    const auto together = [](const NodeShares& a, double share, const NodeShares& b) {
        NodeShares out;
        for (const auto& [node, own] : a) out.emplace_back(node, share * own);
        for (const auto& [node, own] : b) out.emplace_back(node, (1 - share) * own);
        return out;
    };
    const auto by_volume = [&](HeatPart a, HeatPart b) {
        const double va = m_parts.contains(a) ? m_parts.at(a).capacity : 0,
                     vb = m_parts.contains(b) ? m_parts.at(b).capacity : 0;
        return together(shares(a), va / std::max(va + vb, 1e-300), shares(b));
    };
    const auto by_element = [&](const SectionHeat& section, const std::vector<int>& groups, NodeShares evenly) {
        if (losses.density.empty()) return evenly;
        const int body = &section == &rotor() ? m_model->rotor : 1 - m_model->rotor;
        const auto first = std::ptrdiff_t(m_model->first_element[std::size_t(body)]),
                   end = std::ptrdiff_t(m_model->first_element[std::size_t(body) + 1]);
        const auto begin = losses.density.begin();
        NodeShares found = section.by_density({begin + first, begin + end}, groups);
        return found.empty() ? evenly : found;
    };
    switch (part) {
    case LossPart::Copper:
    case LossPart::WindingStray:
        return by_element(stator(), {stator_winding}, shares(HeatPart::Winding));
    case LossPart::IronStator:
    case LossPart::CarrierIron:
    case LossPart::SolidStator:
        return by_element(stator(), {stator_teeth, stator_yoke}, by_volume(HeatPart::Teeth, HeatPart::Yoke));
    case LossPart::IronRotor:
    case LossPart::SolidRotor:
        return by_element(rotor(), {rotor_iron}, shares(HeatPart::Rotor));
    case LossPart::Magnets:
    case LossPart::CarrierMagnets:
        return m_parts.contains(HeatPart::Magnets)
                   ? by_element(rotor(), {rotor_magnets}, shares(HeatPart::Magnets))
                   : shares(HeatPart::Rotor);
    case LossPart::Shell:
    case LossPart::Bars:
    case LossPart::Rings:
        return m_parts.contains(HeatPart::Bars) ? shares(HeatPart::Bars) : shares(HeatPart::Rotor);
    case LossPart::Shaft:
        return m_parts.contains(HeatPart::Shaft) ? shares(HeatPart::Shaft) : shares(HeatPart::Rotor);
    case LossPart::Bearings:
        return m_parts.contains(HeatPart::Bearings) ? shares(HeatPart::Bearings) : shares(HeatPart::Housing);
    case LossPart::Windage:
        return together(shares(HeatPart::Gap), 0.5, shares(HeatPart::InnerAir));
    case LossPart::Switches:
        break;
    }
    return {};
}

Eigen::VectorXd MachineHeatModel::powers(const HeatLosses& losses) const {
    Eigen::VectorXd power = Eigen::VectorXd::Zero(m_system.nodes());
    const auto add = [&](HeatPart part, double watts) {
        if (watts != 0) power += m_system.spread(m_parts.at(part).shares, watts);
    };
    const bool has_ends = m_parts.contains(HeatPart::Ends);
    if (has(HeatPart::Winding)) add(HeatPart::Winding, losses.slots + (has_ends ? 0 : losses.ends));
    if (losses.added != 0) power += m_system.spread(where(LossPart::WindingStray, losses), losses.added);
    if (has_ends) add(HeatPart::Ends, losses.ends);
    for (const auto& [part, watts] : losses.watts)
        if (watts != 0) power += m_system.spread(where(part, losses), watts);
    return power;
}

Result<MachineHeat> MachineHeatModel::steady(const HeatLosses& losses) {
    MachineHeat out;
    const Eigen::VectorXd power = powers(losses);
    Eigen::VectorXd t =
        m_last.size() > 0
            ? m_last
            : Eigen::VectorXd(Eigen::VectorXd::Constant(m_system.nodes(), m_cooling.ambient + 20));
    for (int round = 0;; ++round) {
        films(t);
        auto found = m_system.steady(power);
        if (!found) return found.problems();
        const double change = (*found - t).cwiseAbs().maxCoeff();
        t = std::move(*found);
        if (change < film_exact || round == most_film_rounds) break;
    }
    m_last = t;
    out = told(t);
    out.loss = power.sum();
    out.to_ambient = m_system.into(m_ambient, t) + (m_inlet >= 0 ? m_system.into(m_inlet, t) : 0);
    for (const auto& [surface, sink] : m_sinks) out.to_ambient += m_system.into(sink, t);
    out.notes = m_notes;
    if (m_inlet >= 0) {
        out.all = t;
        const double outlet = 2 * out.mean[HeatPart::Coolant] - m_cooling.inlet;
        if (const auto fluid = coolant(m_cooling.coolant, outlet); !fluid) return fluid.problems();
    }
    out.all = std::move(t);
    return out;
}

std::vector<double> MachineHeatModel::at_nodes(const Eigen::VectorXd& temperature) const {
    std::vector<double> out;
    for (const auto& section : m_sections)
        for (std::size_t e = 0; e < section->mesh().elements.size(); ++e)
            for (double kelvin : section->at(e, temperature)) out.push_back(kelvin - zero_celsius);
    return out;
}

std::vector<Point> MachineHeatModel::flux_at_nodes(const Eigen::VectorXd& temperature) const {
    std::vector<Point> out;
    for (const auto& section : m_sections)
        for (std::size_t e = 0; e < section->mesh().elements.size(); ++e) {
            const auto flux = section->flux(e, temperature);
            out.insert(out.end(), flux.begin(), flux.end());
        }
    return out;
}

std::vector<HeatSurface> MachineHeatModel::surfaces(const MachineHeat& heat) const {
    struct Outside {
        const char *name, *term;
        HeatPart part;
        bool per_area; ///< the term is a film, not the whole surface's conductance
    };
    static constexpr Outside all[] = {{"housing", "housing to ambient", HeatPart::Housing, false},
                                      {"end_shields", "end shields to ambient", HeatPart::Shields, false},
                                      {"stack", "stack to ambient", HeatPart::Yoke, true},
                                      {"rotor", "rotor to ambient", HeatPart::Rotor, true},
                                      {"carrier", "carrier to ambient", HeatPart::Housing, false}};
    const double side = pi * m_outer_diameter * m_length, plate = pi * m_outer_diameter * m_outer_diameter / 4;
    std::vector<HeatSurface> out;
    for (const Outside& own : all) {
        const auto term = m_terms.find(own.term);
        if (term == m_terms.end() || term->second < 0) continue;
        const std::string name = own.name;
        HeatSurface s{name, name == "end_shields" ? 2 * plate : name == "carrier" ? plate : side};
        const auto sink = m_sinks.find(name);
        const int far = sink == m_sinks.end() ? m_ambient : sink->second;
        s.watts = -m_system.flow(term->second, heat.all)[far];
        s.fluid = m_system.held_at(far);
        const double coefficient = m_system.terms()[std::size_t(term->second)].coefficient;
        s.coefficient = own.per_area ? coefficient : coefficient / s.area;
        s.wall = s.fluid + s.watts / (s.coefficient * s.area);
        out.push_back(s);
    }
    return out;
}

double MachineHeatModel::coolant_outlet(const MachineHeat& heat) const {
    return 2 * heat.mean.at(HeatPart::Coolant) - m_cooling.inlet;
}

MachineHeat MachineHeatModel::told(const Eigen::VectorXd& t) const {
    MachineHeat out;
    for (const auto& [part, own] : m_parts) out.mean[part] = HeatSystem::mean(own.shares, t);
    if (has(HeatPart::Winding))
        out.winding_highest =
            std::max(stator().highest(stator_winding, t), has(HeatPart::Ends) ? out.mean[HeatPart::Ends] : 0);
    if (has(HeatPart::Magnets)) out.magnets_highest = rotor().highest(rotor_magnets, t);
    return out;
}

Result<Eigen::VectorXd> MachineHeatModel::answer(const HeatLosses& losses, bool whole) {
    return whole ? m_system.steady(powers(losses)) : m_system.answer(powers(losses));
}

Result<Eigen::MatrixXd> MachineHeatModel::rises(const std::vector<HeatPart>& parts) {
    const auto n = Eigen::Index(parts.size());
    Eigen::MatrixXd r(n, n);
    for (Eigen::Index k = 0; k < n; ++k) {
        const auto answer = m_system.answer(m_system.spread(m_parts.at(parts[std::size_t(k)]).shares, 1));
        if (!answer) return answer.problems();
        for (Eigen::Index j = 0; j < n; ++j)
            r(j, k) = HeatSystem::mean(m_parts.at(parts[std::size_t(j)]).shares, *answer);
    }
    return r;
}

Result<Eigen::VectorXd> MachineHeatModel::at_rest(const std::vector<HeatPart>& parts) {
    const auto t = m_system.steady(Eigen::VectorXd::Zero(m_system.nodes()));
    if (!t) return t.problems();
    Eigen::VectorXd out{Eigen::Index(parts.size())};
    for (std::size_t k = 0; k < parts.size(); ++k)
        out[Eigen::Index(k)] = HeatSystem::mean(m_parts.at(parts[k]).shares, *t);
    return out;
}

double MachineHeatModel::capacity(HeatPart part) const {
    return m_parts.at(part).capacity;
}

std::vector<HeatPart> MachineHeatModel::parts() const {
    std::vector<HeatPart> list;
    for (const auto& [part, own] : m_parts) list.push_back(part);
    return list;
}

Result<std::vector<HeatWay>> MachineHeatModel::ways(const MachineHeat& heat) {
    const HeatPart of = has(HeatPart::Winding) ? HeatPart::Winding : HeatPart::Yoke;
    const auto adjoint = m_system.answer(m_system.spread(m_parts.at(of).shares, 1));
    if (!adjoint) return adjoint.problems();
    std::map<std::string, HeatWay> by_name;
    const auto& terms = m_system.terms();
    for (std::size_t k = 0; k < terms.size(); ++k) {
        HeatWay& way = by_name[terms[k].name];
        way.name = terms[k].name;
        way.influence += 0.1 * m_system.between(int(k), *adjoint, heat.all);
        const Eigen::VectorXd out = m_system.flow(int(k), heat.all);
        way.flow += out.cwiseMax(0).sum();
    }
    std::vector<HeatWay> list;
    for (auto& [name, way] : by_name) list.push_back(std::move(way));
    std::sort(list.begin(), list.end(),
              [](const HeatWay& a, const HeatWay& b) { return std::abs(a.influence) > std::abs(b.influence); });
    return list;
}

} // namespace mavlo
