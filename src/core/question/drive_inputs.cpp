#include "question/drive_inputs.h"

#include "question/better_side.h"
#include "question/period.h"
#include "question/supply_inputs.h"
#include "question/time_map.h"

namespace mavlo {
namespace {

constexpr int map_points = 60;

FluxGrid grid_of(const Inputs& inputs, CurrentPlane plane) {
    FluxGrid grid = standard_grid(inputs.at("max_current"), int(inputs.at("map_steps")), plane);
    grid.points = map_points;
    return grid;
}

/// What is certain before a field is solved: without magnets a half of the plane gives the whole where poles
/// are mirror images, and the other half is needed where they are not.
CurrentPlane least_plane(const Machine& machine) {
    const Facts facts = machine.facts();
    return {!facts.mirrored && !facts.magnets, facts.mirrored};
}

/// Reversed currents reverse the field, and the poles' mirror image reverses i_q: without magnets the map at
/// (-i_d, i_q) is that at (i_d, i_q) with torque and psi_d reversed. So a half of the plane gives the whole,
/// and currents on the side with L_d > L_q are found too.
FluxMap both_signs(const FluxMap& half) {
    std::vector<double> id = half.id();
    for (std::size_t i = half.id().size() - 1; i-- > 0;) id.push_back(-half.id()[i]);
    std::vector<FluxPoint> points;
    const std::size_t n = half.id().size();
    for (std::size_t j = 0; j < half.iq().size(); ++j) {
        const auto row = half.points().begin() + std::ptrdiff_t(j * n);
        points.insert(points.end(), row, row + std::ptrdiff_t(n));
        for (std::size_t i = n - 1; i-- > 0;) {
            FluxPoint image = row[std::ptrdiff_t(i)];
            image.current.d = -image.current.d;
            image.flux_linkage.d = -image.flux_linkage.d;
            image.torque = -image.torque;
            points.push_back(image);
        }
    }
    FluxMap whole(std::move(id), half.iq(), std::move(points));
    whole.leave_open(half.unknown());
    return whole;
}

FluxMap whole_plane(const Machine& machine, FluxMap map) {
    const Facts facts = machine.facts();
    const bool half = !map.id().empty() && map.id().back() == 0;
    return half && !facts.magnets && facts.mirrored && !facts.induced ? both_signs(map) : std::move(map);
}

} // namespace

std::vector<QuestionInput> drive_inputs() {
    QuestionInput rule{
        "voltage_rule", "Inverter voltage", "", "space-vector",
        "Largest fundamental of three phases in star: sine U/2, space-vector U/√3, six-step 2U/π."};
    rule.kind = InputKind::Choice;
    rule.words = {"sine", "space-vector", "six-step"};
    return {{"max_current", "Largest current (peak)", "A", "= rating.max_current", "Of a phase, peak value.",
             1e-3, 1e6},
            {"dc_voltage", "DC voltage", "V", "= rating.dc_voltage", "Of the inverter's link.", 1e-3, 1e6},
            rule,
            {"voltage_share", "Usable share", "", "0.95",
             "Of the inverter's voltage; the rest is kept for control.", 0.1, 1},
            {"map_steps", "Steps of the map", "", "10", "Of the currents along d and along q.", 4, 60, true},
            end_inductance_input()};
}

QuestionInput aim_input() {
    QuestionInput aim{"aim", "Currents chosen for", "", "least-loss",
                      "Least total loss, least current, or of switched phases least ripple."};
    aim.kind = InputKind::Choice;
    aim.words = {"least-loss", "least-current", "least-ripple"};
    return aim;
}

QuestionInput speeds_input() {
    QuestionInput speeds{
        "speeds", "Speeds", "rpm", "2:100:2 %", "from:to:step in rpm, or % of the largest speed.", 0, 500000};
    speeds.kind = InputKind::List;
    speeds.percent_of = "rating.max_speed";
    return speeds;
}

DriveLimits drive_limits(const Machine& machine, const Inputs& inputs) {
    const VoltageRule rule = *voltage_rule(inputs.word("voltage_rule"));
    return {inputs.at("max_current"), voltage_limit(rule, inputs.at("dc_voltage"), inputs.at("voltage_share"),
                                                    machine.winding.connection, machine.winding.phases)};
}

Aim aim_of(const Inputs& inputs) {
    const std::string& word = inputs.word("aim");
    return word == "least-loss"      ? Aim::LeastLoss
           : word == "least-current" ? Aim::LeastCurrent
                                     : Aim::LeastRipple;
}

int drive_solves(const Machine& machine, const Inputs& inputs) {
    return grid_solves(machine, grid_of(inputs, least_plane(machine)));
}

namespace {

Result<Drive> drive_of(QuestionContext& c, const Machine& machine, FluxMap map, const DriveLimits& limits,
                       Aim aim) {
    const FluxMap whole = whole_plane(machine, std::move(map));
    const double ends = given_end_inductance(c);
    double round = 0; // a map that is brought along tells nothing of what phases have in common
    if (is_delta(machine) && !c.map) {
        const auto section = zero_sequence_inductance(c);
        if (!section) return section.problems();
        round = *section + ends;
    }
    return Drive(machine, whole.with_series_inductance(ends), limits, aim, round);
}

} // namespace

Result<Drive> make_drive(QuestionContext& c, const Machine& machine, const PointStore& store,
                         const DriveLimits& limits, Aim aim) {
    CurrentPlane plane = least_plane(machine);
    // A map that is there whole needs no mesh; the wider one was made where it was needed.
    for (const CurrentPlane p : {CurrentPlane{true, plane.mirrored}, plane})
        if (auto kept = kept_grid_maps(machine, grid_of(c.inputs, p), store))
            return drive_of(c, machine, std::move(kept->mean), limits, aim);
    const auto model = prepare_model(c, machine, c.mesh);
    if (!model) return model.problems();
    if (machine.facts().magnets) {
        // Magnets on poles that stand out may want current along +d.
        const auto side = better_side(c, *model, c.inputs.at("max_current"));
        if (!side) return side.problems();
        plane.positive_d = *side < 0;
    }
    auto map = solve_flux_map(*model, grid_of(c.inputs, plane), store, c.threads, c.watch, c.answer.effort);
    if (!map) return map.problems();
    return drive_of(c, machine, std::move(*map), limits, aim);
}

Result<Drive> make_drive(QuestionContext& c, const DriveLimits& limits, Aim aim) {
    if (c.map) return drive_of(c, c.machine, *c.map, limits, aim);
    return make_drive(c, c.machine, c.points, limits, aim);
}

double base_speed(const Drive& drive, double standstill, double fastest) {
    const auto full = [&](double speed) {
        const auto point = drive.strongest(speed);
        return point && point->torque > 0.998 * standstill;
    };
    if (full(fastest)) return fastest;
    double low = 0, high = fastest;
    while (high - low > 1e-3 * fastest) (full((low + high) / 2) ? low : high) = (low + high) / 2;
    return low;
}

} // namespace mavlo
