// The circuit's elements of a cage: from its fields, and as a test bench would find them.

#include "circuit/bench_tests.h"
#include "quantity/constants.h"
#include "question/induction_inputs.h"
#include "question/supply_inputs.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_equivalent_circuit {
namespace {

/// What the question is asked at: of a phase in star.
struct Mains {
    double voltage, frequency;
};

Mains mains_of(const QuestionContext& c) {
    const double f = c.input("frequency");
    return {c.input("voltage") / std::sqrt(3.0),
            std::isnan(f) ? electrical_frequency(c.machine, c.machine.rating.speed) : f};
}

bool wants(const QuestionContext& c, const char* way) {
    const std::string& word = c.inputs.word("way");
    return word == "both" || word == way;
}

void add_elements(Answer& answer, const InductionElements& e, const std::string& suffix) {
    const auto add = [&](const char* name, std::optional<double> value) {
        answer.figures.push_back({name + suffix, value, "Ohm"});
    };
    add("stator_resistance", e.r1);
    add("stator_leakage_reactance", e.x1);
    add("iron_loss_resistance", e.rfe > 0 ? std::optional(e.rfe) : std::nullopt);
    add("magnetising_reactance", e.xm);
    add("rotor_resistance", e.r2);
    add("rotor_leakage_reactance", e.x2);
}

/// The elements at one slip on the mains.
Result<InductionElements> by_fields(QuestionContext& c, FieldSlips& fields, Mains mains) {
    const double slip = c.input("slip");
    const auto point = fields.at(mains.voltage, mains.frequency, slip);
    if (!point) return point.problems();
    const CageElements e = fields.elements(mains.voltage, mains.frequency, slip);
    if (!e.r2 || !e.x2) return Problem{"rotor.bar.material", "The bars carry no current."};
    const double emf = fields.star_emf(mains.voltage, mains.frequency, slip);
    InductionElements out{e.r1, e.x1, 0, e.xm, *e.r2, *e.x2, mains.frequency};
    if (point->iron > 0) out.rfe = 3 * emf * emf / point->iron;
    return out;
}

BenchTest test_of(const SlipPoint& point, double voltage, double frequency) {
    return {voltage, frequency, point.current, point.input};
}

/// On which the locked rotor lets the rated current flow, by secants.
Result<double> locked_voltage(const QuestionContext& c, FieldSlips& fields, Mains mains, double f) {
    const double wanted = c.machine.rating.current / std::sqrt(2.0);
    double voltage = mains.voltage * f / mains.frequency, last_voltage = 0, last_current = 0;
    for (int k = 0; k < 12; ++k) {
        const auto point = fields.at(voltage, f, 1);
        if (!point) return point.problems();
        if (std::abs(point->current / wanted - 1) < 1e-4) break;
        const double slope = (point->current - last_current) / (voltage - last_voltage);
        last_voltage = voltage;
        last_current = point->current;
        voltage += (wanted - point->current) / slope;
    }
    return voltage;
}

/// No load on the mains, and the rotor locked on the voltage that lets the rated current flow.
Result<InductionElements> by_bench(QuestionContext& c, FieldSlips& fields, Mains mains) {
    const auto idle = fields.at(mains.voltage, mains.frequency, 0);
    if (!idle) return idle.problems();
    const double given = c.input("locked_frequency"), f = std::isnan(given) ? mains.frequency : given;
    const auto voltage = locked_voltage(c, fields, mains, f);
    if (!voltage) return voltage.problems();
    const auto locked = fields.at(*voltage, f, 1);
    if (!locked) return locked.problems();
    c.answer.figures.push_back({"no_load_current", idle->current, "A"});
    c.answer.figures.push_back({"no_load_power", idle->input, "W"});
    c.answer.figures.push_back({"locked_voltage", *voltage * std::sqrt(3.0), "V"});
    c.answer.figures.push_back({"locked_current", locked->current, "A"});
    c.answer.figures.push_back({"locked_power", locked->input, "W"});
    const double r1 = fields.elements(mains.voltage, mains.frequency, 0).r1;
    return identified(test_of(*idle, mains.voltage, mains.frequency), test_of(*locked, *voltage, f), r1,
                      c.input("leakage_split"));
}

void add_table(Answer& answer, const CircuitTable& t) {
    const auto curve = [&](const char* name, const char* unit, const char* x, const char* x_unit,
                           std::vector<double> xs, std::vector<double> ys) {
        answer.curves.push_back({name, unit, x, x_unit, std::move(xs), std::move(ys)});
    };
    curve("rotor_resistance", "Ohm", "slip_frequency", "Hz", t.rotor_frequency, t.r2);
    curve("rotor_leakage_reactance", "Ohm", "slip_frequency", "Hz", t.rotor_frequency, t.x2);
    curve("stator_leakage_reactance", "Ohm", "slip_frequency", "Hz", t.rotor_frequency, t.x1);
    std::vector<double> emf = t.emf_per_hertz, current;
    for (double& e : emf) e *= t.frequency;
    for (std::size_t k = 0; k < emf.size(); ++k) current.push_back(emf[k] / t.xm[k]);
    curve("magnetising_reactance", "Ohm", "magnetising_current", "A", current, t.xm);
    curve("working_emf", "V", "magnetising_current", "A", std::move(current), std::move(emf));
}

/// Torque over slip as these machines have it.
Problems add_torque(Answer& answer, SlipMachine& machine, Mains mains, const char* name) {
    Curve curve{name, "N.m", "slip", "1", {}, {}};
    for (int k = 1; k <= 60; ++k) {
        const double slip = std::pow(k / 60.0, 2);
        const auto point = machine.at(mains.voltage, mains.frequency, slip);
        if (!point) return point.problems();
        curve.x.push_back(slip);
        curve.y.push_back(point->torque);
    }
    answer.curves.push_back(std::move(curve));
    return {};
}

std::string in_words(const InductionElements& e) {
    return fmt::format("R1 {:.4g}, X1 {:.4g}, Xm {:.4g}, R2 {:.4g}, X2 {:.4g} Ω", e.r1, e.x1, e.xm, e.r2, e.x2);
}

Problems run_fields(QuestionContext& c, FieldSlips& fields, Mains mains) {
    const auto elements = by_fields(c, fields, mains);
    if (!elements) return elements.problems();
    add_elements(c.answer, *elements, "");
    auto table = circuit_table(fields, mains.voltage, mains.frequency);
    if (!table) return table.problems();
    add_table(c.answer, *table);
    SaturatedCircuit circuit(std::move(*table), c.machine.pole_pairs(), 0);
    if (auto problems = add_torque(c.answer, circuit, mains, "torque"); !problems.empty()) return problems;
    c.answer.sentence =
        fmt::format("By the fields at a slip of {:.3g}: {}. The working wave on the bore parts the stator's "
                    "leakage from the rest; skin effect and saturation move the elements along the curves.",
                    c.input("slip"), in_words(*elements));
    return {};
}

Problems run_bench(QuestionContext& c, FieldSlips& fields, Mains mains, bool alone) {
    const auto elements = by_bench(c, fields, mains);
    if (!elements) return elements.problems();
    add_elements(c.answer, *elements, alone ? "" : "_bench");
    GivenCircuit circuit(*elements, c.machine.pole_pairs(), 0);
    if (auto problems = add_torque(c.answer, circuit, mains, alone ? "torque" : "torque_bench");
        !problems.empty())
        return problems;
    const auto most = circuit.pull_out(mains.voltage, mains.frequency, true);
    c.answer.sentence += fmt::format(
        "{}As a bench finds them without load and with the rotor locked at {:.4g} A, the leakage parted {:.3g} "
        "to 1: {}; constant elements would give {:.4g} N·m at pull-out.",
        alone ? "" : " ", c.machine.rating.current / std::sqrt(2.0), c.input("leakage_split"),
        in_words(*elements), most->torque);
    return {};
}

Problems run(QuestionContext& c) {
    const Mains mains = mains_of(c);
    auto fields = cage_fields(c);
    if (!fields) return fields.problems();
    const bool field = wants(c, "field"), bench = wants(c, "bench");
    if (field)
        if (auto problems = run_fields(c, **fields, mains); !problems.empty()) return problems;
    if (bench)
        if (auto problems = run_bench(c, **fields, mains, !field); !problems.empty()) return problems;
    c.answer.figures.push_back(end_inductance_figure(c));
    return {};
}

std::vector<QuestionInput> inputs() {
    const auto open = [](QuestionInput input) {
        input.auto_allowed = true;
        return input;
    };
    std::vector<QuestionInput> list{
        {"voltage", "Voltage (line, rms)", "V", "400 V", "Of the mains.", 0.001, 1e6},
        open({"frequency", "Frequency", "Hz", "auto", "auto: that of the rated speed.", 0.01, 1e5}),
        choice_input("way", "Way", {"field", "bench", "both"},
                     "From the fields themselves, or as a bench finds them without load and with the rotor "
                     "locked."),
        {"slip", "Slip", "", "0.03", "At which the fields' elements are told.", 1e-5, 2},
        {"leakage_split", "Leakage, X1 over X2", "", "1", "How a bench parts the leakage, X1/X2.", 0.01, 100},
        open({"locked_frequency", "Frequency with the rotor locked", "Hz", "auto",
              "auto: the mains'; a lower one sees less skin effect.", 0.01, 1e5})};
    for (QuestionInput& input : winding_inputs()) list.push_back(std::move(input));
    return list;
}

const RegisterQuestion registered{
    {"equivalent-circuit",
     "Drive",
     "Equivalent circuit",
     "The elements of a cage's circuit over slip frequency and saturation, from its fields and as a bench "
     "finds them.",
     inputs(),
     [](const Machine&, const Inputs& inputs) {
         const std::string& way = inputs.word("way");
         return harmonic_price * (way == "bench" ? 4 : way == "field" ? table_fields + 1 : table_fields + 4);
     },
     run,
     92,
     {need_winding, need_cage},
     false,
     true}};

} // namespace
} // namespace mavlo::question_equivalent_circuit
