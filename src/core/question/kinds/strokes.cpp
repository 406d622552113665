// A switched machine on its half-bridges: currents, torque, loops and losses of the steady stroke.

#include "map/strokes.h"

#include "figure/balance.h"
#include "quantity/constants.h"
#include "question/linkage_grid.h"
#include "question/period.h"
#include "question/spectrum_curve.h"
#include "question/stroke_fields.h"
#include "question/stroke_inputs.h"
#include "question/supply_inputs.h"
#include "question/unknown_losses.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_strokes {
namespace {

constexpr int curve_points = 1440;
constexpr const char* automatic = "auto";
constexpr std::size_t most_force_orders = 60; ///< beyond them the fields are too few

bool on_fields(const Inputs& inputs) {
    return inputs.word("method") == "field";
}

int iron_points(const Inputs& inputs) {
    return int(inputs.at("iron_points"));
}

int solves(const Machine& machine, const Inputs& inputs) {
    const int iron = iron_points(inputs);
    const int full = on_fields(inputs) ? full_stroke_solves(machine, int(inputs.at("field_steps"))) : 0;
    if (full > 0) return full + linkage_map_solves(machine, inputs);
    return linkage_map_solves(machine, inputs) +
           (iron > 0 ? period_solves(machine, iron) * int(machine.skew.slices().size()) : 0);
}

Problems checked(const QuestionContext& c, const StrokeDrive& drive) {
    const double width = drive.stroke.turn_off - drive.stroke.turn_on, period = 2 * pi / drive.periods;
    if (width <= 0 || width >= period)
        return {
            {"--with turn_off", fmt::format("The phase is on for {:.4g} deg; between 0 and {:.4g} deg, a rotor "
                                            "pole's pitch, are possible.",
                                            width * 180 / pi, period * 180 / pi)}};
    if (drive.speed <= 0) return {{"--with speed", "Strokes follow the rotor: give a speed above zero."}};
    if (drive.bridge.dc <= 0) return {{"--with dc_voltage", "The link needs a voltage above zero."}};
    if (drive.stroke.chopping == Chopping::Single) return {};
    if (c.input("chop_current") <= 0) return {{"--with chop_current", "Chopping needs a current above zero."}};
    if (drive.stroke.high <= drive.stroke.low || drive.stroke.low <= 0)
        return {{"--with band", "The band must be above zero and narrower than twice the current."}};
    return {};
}

StrokeDrive drive_of(const QuestionContext& c) {
    StrokeDrive drive;
    drive.bridge = supply_settings(c.inputs, 0).bridge;
    const std::string& mode = c.inputs.word("mode");
    drive.stroke.turn_on = c.input("turn_on");
    drive.stroke.turn_off = c.input("turn_off");
    drive.stroke.chopping = mode == "soft"   ? Chopping::Soft
                            : mode == "hard" ? Chopping::Hard
                                             : Chopping::Single;
    const double current = c.input("chop_current"), given = c.input("band"),
                 band = std::isnan(given) ? 0.08 * current : given;
    drive.stroke.low = current - band / 2;
    drive.stroke.high = current + band / 2;
    drive.phases = c.machine.winding.phases;
    drive.periods = c.machine.pole_pairs();
    drive.resistance = given_resistance(c);
    drive.inductance = given_end_inductance(c);
    drive.speed = c.input("speed");
    drive.stop = stop_of(c);
    return drive;
}

/// What is told of one answer.
struct Told {
    QuestionContext& c;
    const StrokeDrive& drive;
    const StrokePeriod& period;
    StrokeFigures f;
    StrokeCurves waves;
    std::optional<FieldLosses> losses{};      ///< of the quick way's fields
    std::optional<IronInTime::Losses> iron{}; ///< of the full way's
    std::optional<StrokeWave> tooth_force{};  ///< N
    std::optional<StrokeFigures> quick{};     ///< by the map, where f is that of the fields

    Balance balance() const {
        Balance b;
        const Machine& m = c.machine;
        if (losses) {
            b = balance_of(m, *losses, {}, drive.speed, f.torque_mean, f.input_power);
        } else {
            b.set(mechanical_loss(m, drive.speed));
            b.air_gap = f.torque_mean * drive.speed;
            b.electrical = f.input_power;
            b.unknown = unknown_losses(m);
            if (iron)
                b[LossPart::IronStator] = iron->stator, b[LossPart::IronRotor] = iron->rotor;
            else
                b.unknown.add({LossPart::IronStator, LossPart::IronRotor});
        }
        const CopperLoss alternating = copper();
        b.copper_dc = f.copper;
        b[LossPart::Copper] = alternating.alternating;
        b[LossPart::WindingStray] = alternating.stray;
        return b;
    }

    /// With every harmonic's own resistance, at the resistance that is asked for.
    CopperLoss copper() const {
        constexpr int samples = 512;
        std::vector<std::vector<double>> currents;
        for (std::size_t k = 0; k < std::size_t(drive.phases); ++k) {
            currents.emplace_back();
            for (int i = 0; i < samples; ++i) currents.back().push_back(waves.current(k, 2 * pi * i / samples));
        }
        const CopperLoss own = copper_loss(c.machine, currents, electrical_frequency(c.machine, drive.speed),
                                           losses ? *losses : FieldLosses{});
        const double rest = own.alternating - own.direct;
        return {f.copper, f.copper + rest, own.stray};
    }

    void figures() {
        const Balance b = balance();
        const auto known = [](bool is, double value) { return is ? std::optional(value) : std::nullopt; };
        const double devices = f.switches + f.diodes;
        std::optional<double> peak, reach;
        if (tooth_force) {
            const auto pull = forces();
            const auto [low, high] = std::minmax_element(pull.begin(), pull.end());
            peak = *high;
            reach = *high - *low;
        }
        c.answer.figures = {
            {"torque_mean", f.torque_mean, "N.m"},
            {"torque_peak_to_peak", f.torque_peak_to_peak, "N.m"},
            {"current_rms", f.current_rms, "A"},
            {"current_peak", f.current_peak, "A"},
            {"current_mean", f.current_mean, "A"},
            {"current_at_turn_off", f.current_at_turn_off, "A"},
            {"energy_a_stroke", f.energy, "J"},
            {"energy_from_link", f.energy_in, "J"},
            {"energy_returned", f.energy_back, "J"},
            {"energy_ratio", known(f.energy_in > 0, f.energy / f.energy_in), "1"},
            {"flux_linkage_peak", f.linkage_peak, "Wb"},
            {"extinction_angle", f.extinction * 180 / pi, "deg"},
            {"dc_current_mean", f.dc_current_mean, "A"},
            {"input_power", f.input_power, "W"},
            {"copper_loss", b.of(LossPart::Copper), "W"},
            {"copper_loss_dc", f.copper, "W"},
            {"iron_loss_stator", b.of(LossPart::IronStator), "W"},
            {"iron_loss_rotor", b.of(LossPart::IronRotor), "W"},
            {"switch_loss", devices, "W"},
            {"mechanical_power", b.air_gap, "W"},
            {"aligned_angle", phase_axis(c.machine.winding.layout) * 180 / pi, "deg"},
            {"efficiency", b.efficiency(), "1"},
            {"switching_frequency", f.switching_frequency, "Hz"},
            {"tooth_force_peak", peak, "N"},
            {"tooth_force_peak_to_peak", reach, "N"},
            {"torque_mean_by_map", quick ? std::optional(quick->torque_mean) : std::nullopt, "N.m"},
            {"periods_to_steady", known(period.periodic, period.periods), "1"},
            {"power_unaccounted", known(period.periodic, b.unaccounted(devices)), "1"}};
    }

    void curves() {
        std::vector<double> angles, degrees;
        for (int k = 0; k <= curve_points; ++k) {
            angles.push_back(-pi + 2 * pi * k / curve_points);
            degrees.push_back(angles.back() / drive.periods * 180 / pi);
        }
        const auto add = [&](const std::string& name, const char* unit, auto value) {
            Curve curve{name, unit, "rotor_angle", "deg", degrees, {}};
            for (double angle : angles) curve.y.push_back(value(angle));
            c.answer.curves.push_back(std::move(curve));
        };
        add("torque", "N.m", waves.torque);
        const auto of_each = [&](const char* name, const char* unit, const auto& wave) {
            for (std::size_t k = 0; k < std::size_t(drive.phases); ++k)
                add(name + phase_suffix(k), unit, [&](double angle) { return wave(k, angle); });
        };
        of_each("current_", "A", waves.current);
        of_each("voltage_", "V", waves.voltage);
        of_each("flux_linkage_", "Wb", waves.linkage);
        add("dc_current", "A", waves.link);
        if (tooth_force) {
            add("tooth_force_radial", "N", [&](double angle) { return tooth_force->at(angle); });
            const double frequency = drive.speed * drive.periods / (2 * pi);
            c.answer.curves.push_back(spectrum_curve("tooth_force_radial", "N", forces(),
                                                     {"frequency", "Hz", frequency, 0, most_force_orders}));
        }
        of_each("gate_", "1", waves.gate); // 1: both switches closed, 0: the lower one alone, -1: none
        Curve loop{"flux_linkage", "Wb", "current", "A", {}, {}};
        for (const NetworkSample& s : period.samples) {
            loop.x.push_back(stroke_current(s));
            loop.y.push_back(s.linkage[0]);
        }
        c.answer.curves.push_back(std::move(loop));
    }

    /// Pull on a tooth of the first phase, evenly over a period.
    std::vector<double> forces() const {
        std::vector<double> out;
        out.reserve(curve_points);
        for (int k = 0; k < curve_points; ++k) out.push_back(tooth_force->at(2 * pi * k / curve_points));
        return out;
    }

    void sentence() {
        const auto efficiency = c.answer.figure("efficiency");
        std::string& out = c.answer.sentence;
        out =
            fmt::format("At {:.4g} rpm from {:.4g} V the torque is {:.4g} N·m on average and wavers by {:.3g} "
                        "N·m; a phase carries {:.4g} A rms, {:.4g} A at most",
                        drive.speed * 30 / pi, drive.bridge.dc, f.torque_mean, f.torque_peak_to_peak,
                        f.current_rms, f.current_peak);
        if (efficiency) out += fmt::format(", efficiency {:.1f} %", 100 * *efficiency);
        out += period.periodic
                   ? "."
                   : ". The current never ends between strokes and found no steady state; turn off earlier.";
        out +=
            quick
                ? fmt::format(" With all that the phases link of each other; by the map of one phase alone the "
                              "torque would be {:.4g} N·m ({:+.2f} %).",
                              quick->torque_mean, 100 * (quick->torque_mean / f.torque_mean - 1))
                : " By the map of one phase: what phases link of each other is left out.";
        if (!losses && !iron) out += " So is the iron's loss, and with it the efficiency.";
        const double ends = machine_conductor(c.machine).end_inductance;
        if (given_end_inductance(c) == 0 && ends > 0)
            out += fmt::format(
                " The end windings' inductance, {:.3g} mH a phase, is left out; end_inductance=auto "
                "takes it in.",
                ends * 1e3);
        tell_unknown_losses(c);
    }
};

Problems run(QuestionContext& c) {
    StrokeDrive drive = drive_of(c);
    std::optional<StrokeSettings> otherwise;
    if (c.inputs.word("mode") == automatic) {
        otherwise = drive.stroke;
        otherwise->chopping = Chopping::Soft;
    }
    if (auto problems = checked(c, drive); !problems.empty()) return problems;
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const auto solved = solve_strokes(c, *model, drive, otherwise);
    if (!solved) return solved.problems();
    const StrokePeriod& quick = solved->period;
    std::optional<FullStrokes> full;
    if (on_fields(c.inputs)) {
        auto found = full_strokes(c, *model, drive, quick, int(c.input("field_steps")));
        if (!found) return found.problems();
        full = std::move(*found);
    }
    const StrokePeriod& period = full ? full->period : quick;
    Told told{c, drive, period, full ? full->figures : stroke_figures(quick, drive),
              full ? curves_of(*full, std::size_t(drive.phases))
                   : curves_of(quick, c.machine.winding.layout.lags)};
    if (full) told.quick = stroke_figures(quick, drive);
    if (full) {
        told.iron = full->iron;
        told.tooth_force.emplace(full->torque_angle, full->tooth_force);
    } else if (const int points = iron_points(c.inputs); points > 0) {
        auto fields = stroke_fields(c, *model, period, points);
        if (!fields) return fields.problems();
        told.losses = std::move(fields->losses);
        told.tooth_force.emplace(std::move(fields->angle), std::move(fields->tooth_force));
    }
    told.figures();
    told.curves();
    told.sentence();
    if (solved->avoided)
        c.answer.sentence +=
            fmt::format(" A single pulse would reach {:.3g} A: the upper switch chops at {:.4g} A.",
                        *solved->avoided, c.input("chop_current"));
    return {};
}

std::vector<QuestionInput> inputs() {
    std::vector<QuestionInput> list{
        {"speed", "Speed", "rpm", "= rating.speed", "Speed of the shaft.", 0, 500000},
        {"dc_voltage", "DC voltage", "V", "= rating.dc_voltage", "Of the half-bridges' link.", 0, 1e6},
        turn_on_input(),
        turn_off_input(),
        choice_input(
            "mode", "Current", {automatic, "single", "soft", "hard"},
            "A single pulse, or held in the band by the upper switch (soft) or by both (hard). Auto: a "
            "single pulse where it stays within the largest current, else soft."),
        {"chop_current", "Chopped at", "A", "= rating.current", "Middle of the band.", 0, 1e6}};
    QuestionInput band{"band", "Band", "A", "auto", "Whole width; auto: 8 % of the current.", 0, 1e6};
    band.auto_allowed = true;
    list.push_back(band);
    list.push_back(
        choice_input("method", "Method", {"map", "field"},
                     "By the map of one phase: quick. On the fields themselves: all that phases link of each "
                     "other."));
    for (const QuestionInput& input : valve_inputs()) list.push_back(input);
    // Strokes are compared with measured linkages of the section: the ends come in where they are asked for.
    for (const QuestionInput& input : winding_inputs("0")) list.push_back(input);
    for (const QuestionInput& input : linkage_map_inputs()) list.push_back(input);
    list.push_back({"field_steps", "Steps on the fields", "", "96",
                    "Of an electrical period; the circuit's own are "
                    "shorter.",
                    24, 2000, true});
    list.push_back({"iron_points", "Fields for the iron", "", "48",
                    "By the map: positions over a period at which the field is solved for the iron's loss "
                    "and the pull on a tooth; 0: left out.",
                    0, 2000, true});
    return list;
}

const RegisterQuestion registered{{"strokes",
                                   "Drive",
                                   "Strokes",
                                   "Currents, torque, energy loops and losses of switched phases on "
                                   "half-bridges, turned on and off by position.",
                                   inputs(),
                                   solves,
                                   run,
                                   88,
                                   {need_winding, need_switched},
                                   false,
                                   true}};

} // namespace
} // namespace mavlo::question_strokes
