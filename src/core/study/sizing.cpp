#include "study/sizing.h"

#include "heat/cooling.h"
#include "machine/axial.h"
#include "machine/parameter.h"
#include "machine/slot_space.h"
#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "question/quick.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double wanted_voltage = 0.88;    ///< of what the link gives, at the rating
constexpr double below_class = 15;         ///< K
constexpr double thickest_strand = 1.3e-3; ///< m: thicker wire is wound as several
constexpr double torque_within = 0.01, heat_within = 0.12;
constexpr int current_rounds = 3, size_rounds = 6;

double usual_stress(SizingCooling cooling) {
    return cooling == SizingCooling::StillAir ? 8e3 : cooling == SizingCooling::Fan ? 15e3 : 28e3; // Pa
}

std::string metres(double value) {
    return number_text(value * 1e3, 6) + " mm";
}

/// Lengths of the section; insulation, wire and what lies along the axis stay.
bool grows(const Parameter& p) {
    if (p.unit != "mm" || p.is_word()) return false;
    for (const char* stays : {"machine.stack_length", "stator.slot.liner", "stator.slot.wedge", "winding.",
                              "housing.", "thermal.", "rotor.ring.", "rotor.magnet.segment"})
        if (p.path.starts_with(stays)) return false;
    return true;
}

Design grown(const Design& shape, double factor) {
    constexpr double least_gap = 0.3e-3;
    Design design = shape;
    for (const Parameter* p : used_parameters(shape)) {
        const std::string text(trim(shape.text(p->path)));
        if (!grows(*p) || text.empty() || text.front() == '=' || text == "auto") continue;
        const auto value = parse_quantity(with_unit(text, p->unit));
        if (!value) continue;
        // A gap grows less than what is round it.
        const double own = p->path == "gap" ? std::sqrt(factor) : factor;
        design.texts[p->path] = metres(std::max(own * value->si, p->path == "gap" ? least_gap : 0.0));
    }
    return design;
}

void set_cooling(Design& design, const Specification& s) {
    auto& texts = design.texts;
    texts["cooling.ambient"] = number_text(s.ambient - zero_celsius, 6) + " degC";
    if (design.text("machine.topology") == "outer-rotor") {
        texts["cooling.kind"] = s.cooling == SizingCooling::StillAir ? "still-air" : "fan";
        return;
    }
    texts["housing.kind"] = s.cooling == SizingCooling::Jacket ? "jacket" : "ribbed";
    texts["cooling.kind"] = s.cooling == SizingCooling::StillAir ? "still-air"
                            : s.cooling == SizingCooling::Fan    ? "fan"
                                                                 : "flow";
}

/// One design after the other, each from what the last one's fields said.
class Growing {
  public:
    Growing(const Specification& specification, const Design& shape, const Watch& watch)
        : s(specification)
        , m_shape(shape)
        , m_watch(watch) {}

    Result<SizedDesign> run() {
        const auto base = build_machine(m_shape, {});
        if (!base) return base.problems();
        if (auto problems = choose_size(*base); !problems.empty()) return problems;
        double current = base->rating.current * m_factor * m_factor;
        if (auto problems = find_current(current); !problems.empty()) return problems;
        std::optional<SizedDesign> best;
        for (int round = 0; round < size_rounds; ++round) {
            if (auto problems = choose_turns(current); !problems.empty()) return problems;
            SizedDesign now = told(current);
            if (!best || is_better(now, *best)) best = std::move(now);
            if (!choose_size_by_heat()) break;
            if (auto problems = find_current(current); !problems.empty()) return problems;
        }
        return std::move(*best);
    }

  private:
    /// What fits before what does not, then the lighter one, or of two that do not fit the cooler.
    static bool is_better(const SizedDesign& a, const SizedDesign& b) {
        if (a.fits != b.fits) return a.fits;
        const char* by = a.fits ? "active_mass" : "temperature_winding_highest";
        return a.figures[by].value_or(1e9) < b.figures[by].value_or(1e9);
    }

    Problems choose_size(const Machine& base) {
        const double volume = s.torque / (2 * usual_stress(s.cooling)), p = base.pole_pairs(),
                     aspect = pi * std::sqrt(p) / (4 * p), r = base.rotor_radius(),
                     outer = base.section.outer_radius();
        double diameter = std::cbrt(4 * volume / (pi * aspect));
        const auto length = [&] { return 4 * volume / (pi * diameter * diameter); };
        if (s.length && length() > *s.length) diameter = std::sqrt(4 * volume / (pi * *s.length));
        m_factor = diameter / 2 / r;
        if (s.outer_diameter && m_factor * outer > *s.outer_diameter / 2) {
            m_factor = *s.outer_diameter / 2 / outer;
            diameter = 2 * r * m_factor;
        }
        m_length = std::min(length(), s.length.value_or(1e9));
        m_outer = outer;
        m_magnets = base.facts().magnets;
        m_turns = int(base.values.number("winding.turns"));
        grow();
        return {};
    }

    void grow() {
        m_design = grown(m_shape, m_factor);
        set_cooling(m_design, s);
        auto& texts = m_design.texts;
        texts["rating.speed"] = texts["rating.max_speed"] = number_text(s.speed / rpm, 8) + " rpm";
        texts["rating.dc_voltage"] = number_text(s.dc_voltage, 8) + " V";
        texts["rating.torque"] = number_text(s.torque, 8) + " N.m";
        texts["winding.temperature"] = "100 degC";
        texts["winding.conductor.strands"] = std::to_string(m_strands);
        if (m_magnets) texts["rotor.magnet.temperature"] = "80 degC";
    }

    Problems look(double current) {
        auto& texts = m_design.texts;
        texts["machine.stack_length"] = metres(m_length);
        texts["rating.current"] = number_text(current, 4) + " A";
        texts["rating.max_current"] = number_text(2 * current, 4) + " A";
        texts["winding.turns"] = std::to_string(m_turns);
        const auto machine = build_machine(m_design, {});
        if (!machine) return machine.problems();
        const auto model = prepare_field(*machine, quick_mesh());
        if (!model) return model.problems();
        auto figures = quick_figures(*model, 0, m_watch);
        if (!figures) return figures.problems();
        m_figures = std::move(*figures);
        m_machine = *machine;
        return {};
    }

    double figure(const char* name) const { return m_figures[name].value_or(std::nan("")); }

    /// By secants: torque goes nearly as the current.
    Problems find_current(double& current) {
        for (int round = 0; round < current_rounds; ++round) {
            if (auto problems = look(current); !problems.empty()) return problems;
            const double torque = figure("torque_mean");
            if (!(torque > 0))
                return {{"rating.torque", "This shape gives no torque at the advance angle it begins with."}};
            if (std::abs(torque / s.torque - 1) < torque_within) return {};
            current *= std::clamp(s.torque / torque, 0.3, 3.0);
        }
        return look(current);
    }

    /// As many as the link bears, and strands thin enough for them.
    Problems choose_turns(double& current) {
        const double share = figure("voltage_share");
        if (std::isfinite(share) && share > 0 && std::abs(share / wanted_voltage - 1) > 0.1) {
            const int turns = std::max(1, int(std::floor(m_turns * wanted_voltage / share)));
            current *= double(m_turns) / turns;
            m_turns = turns;
        }
        if (auto problems = look(current); !problems.empty()) return problems;
        const ConductorSize size = size_conductor(m_machine.winding.conductor);
        const double thick = size.diameter * std::sqrt(double(size.strands)); // as one wire
        if (size.shape == ConductorShape::Round)
            m_strands = std::max(1, int(std::ceil(std::pow(thick / thickest_strand, 2))));
        m_design.texts["winding.conductor.strands"] = std::to_string(m_strands);
        return find_current(current);
    }

    /// Larger where the winding is too hot, smaller where it stays cool: alike in all lengths, or along the
    /// axis alone where the outside may not grow. Whether it changed.
    bool choose_size_by_heat() {
        add_slow_figures(m_figures, {});
        const double hot = figure("temperature_winding_highest"), around = s.ambient - zero_celsius,
                     limit = insulation_limit(m_machine.values).value_or(428.15) - zero_celsius - below_class;
        if (limit <= around) return false;
        const double ratio = std::isfinite(hot) ? (hot - around) / (limit - around) : 3; // it runs away
        if (std::abs(ratio - 1) < heat_within) return false;
        const double before_length = m_length, before_factor = m_factor;
        const double alike = std::clamp(std::pow(ratio, 0.13), 0.85, 1.2);
        const double widest = s.outer_diameter ? *s.outer_diameter / 2 / m_outer : 1e9;
        m_factor = std::min(m_factor * alike, widest);
        const bool held = m_factor < before_factor * alike * 0.999;
        m_length = std::min(m_length * (held ? std::clamp(std::pow(ratio, 0.4), 0.65, 1.6) : alike),
                            s.length.value_or(1e9));
        grow();
        return std::abs(m_length / before_length - 1) + std::abs(m_factor / before_factor - 1) > 1e-3;
    }

    SizedDesign told(double current) {
        add_slow_figures(m_figures, {});
        SizedDesign out{
            m_design, m_figures, 2 * m_machine.section.outer_radius(), m_machine.stack_length, current,
            false,    {}};
        const double torque = figure("torque_mean"), share = figure("voltage_share"),
                     hot = figure("temperature_winding_highest"),
                     limit = insulation_limit(m_machine.values).value_or(428.15) - zero_celsius;
        std::string short_of;
        const auto add = [&](const std::string& words) { short_of += (short_of.empty() ? "" : ", ") + words; };
        if (!(torque > (1 - 3 * torque_within) * s.torque))
            add(fmt::format("it gives only {:.4g} N·m before its steel is full", torque));
        if (share > 1) add(fmt::format("it needs {:.0f} % of the link's voltage", 100 * share));
        if (std::isnan(hot))
            add("its winding would run away or its losses are not known");
        else if (hot > limit)
            add(fmt::format("its winding reaches {:.0f} °C", hot));
        const Substance* magnet = m_machine.magnet();
        if (const double bears = magnet ? magnet->material.highest_temperature - zero_celsius : 0;
            bears > 0 && figure("temperature_magnets") > bears)
            add(fmt::format("its magnets reach {:.0f} °C and bear {:.0f}", figure("temperature_magnets"),
                            bears));
        out.fits = short_of.empty();
        out.words = out.fits
                        ? fmt::format("Rotor volume from {:.0f} kPa of tangential stress, then current, turns "
                                      "and size by quick fields.",
                                      usual_stress(s.cooling) / 1e3)
                        : "In this envelope it is not enough: " + short_of + ".";
        return out;
    }

    const Specification& s;
    const Design& m_shape;
    const Watch& m_watch;
    Design m_design;
    Machine m_machine;
    QuickFigures m_figures;
    double m_factor = 1, m_length = 0, m_outer = 0; ///< m_outer: of the shape as it comes, m
    int m_turns = 1, m_strands = 1;
    bool m_magnets = false;
};

} // namespace

Problems check(const Specification& s) {
    Problems problems;
    const auto wants = [&](bool good, const char* path, const char* sentence) {
        if (!good) problems.push_back({path, sentence});
    };
    wants(s.torque > 1e-4 && s.torque < 1e6, "torque", "Give a torque between 0.1 mN·m and 1 MN·m.");
    wants(s.speed > 0 && s.speed < 2e5 * rpm, "speed", "Give a speed above 0 and below 200 000 rpm.");
    wants(s.dc_voltage > 1 && s.dc_voltage < 1e5, "dc_voltage", "Give a link voltage between 1 V and 100 kV.");
    wants(!s.outer_diameter || *s.outer_diameter > 5e-3, "outer_diameter", "The outer diameter is below 5 mm.");
    wants(!s.length || *s.length > 1e-3, "length", "The stack is shorter than 1 mm.");
    wants(s.ambient > 173 && s.ambient < 423, "ambient", "Give an ambient between -100 and 150 °C.");
    return problems;
}

Result<SizedDesign> size_design(const Specification& specification, const Design& shape, const Watch& watch) {
    if (auto problems = check(specification); !problems.empty()) return problems;
    if (!is_radial(shape))
        return Problem{"machine.topology", "Machines are sized with a round gap so far; take another shape."};
    return Growing(specification, shape, watch).run();
}

std::vector<std::string> shapes_for(const Specification& s) {
    const double speed = s.speed / rpm;
    if (speed < 400) return {"surface-fine-pitch", "vee", "surface"};
    if (speed > 5000) return {"surface-distributed", "bar", "surface"};
    return {"vee", "surface", "bar"};
}

} // namespace mavlo
