#include "question/induction_inputs.h"

#include "quantity/constants.h"
#include "question/named_values.h"
#include "question/supply_inputs.h"

#include <cmath>
#include <fmt/format.h>
#include <map>

namespace mavlo {
namespace {

/// The named elements of a list with commas between.
Result<std::map<std::string, double>> named_elements(const std::string& text) {
    const auto values = named_values(text, "--with elements", "R1=0.5 Ohm, X1=… and so on");
    if (!values) return values.problems();
    std::map<std::string, double> found;
    for (const auto& [name, value] : *values) {
        if (!value.dimension.plain() && value.dimension != find_unit("Ohm")->dimension)
            return Problem{"--with elements", fmt::format("{} is a resistance or reactance in Ohm.", name)};
        if (!found.try_emplace(name, value.si).second)
            return Problem{"--with elements", fmt::format("{} stands twice.", name)};
    }
    return found;
}

} // namespace

Result<InductionElements> read_elements(const std::string& text, double frequency) {
    const auto named = named_elements(text);
    if (!named) return named.problems();
    InductionElements e;
    e.frequency = frequency;
    const std::pair<const char*, double*> places[] = {{"R1", &e.r1}, {"X1", &e.x1}, {"Rfe", &e.rfe},
                                                      {"Xm", &e.xm}, {"R2", &e.r2}, {"X2", &e.x2}};
    std::size_t known = 0;
    for (const auto& [name, place] : places) {
        const auto given = named->find(name);
        if (given == named->end()) {
            if (place == &e.rfe) continue;
            return Problem{"--with elements", fmt::format("{} is missing.", name)};
        }
        ++known;
        *place = given->second;
        const bool may_be_zero = place == &e.r1 || place == &e.x1 || place == &e.x2;
        if (!std::isfinite(*place) || *place < 0 || (*place == 0 && !may_be_zero))
            return Problem{"--with elements", fmt::format("{} must be above zero.", name)};
    }
    if (known < named->size())
        return Problem{"--with elements", "The elements are R1, X1, Rfe, Xm, R2 and X2; no others."};
    return e;
}

std::vector<QuestionInput> with_circuit_inputs(std::vector<QuestionInput> own) {
    QuestionInput elements{
        "elements", "Elements of the circuit", "", "auto",
        "R1=…, X1=…, Rfe=…, Xm=…, R2=…, X2=… in Ω, of a phase in star, referred to the stator; auto: "
        "from the drawing."};
    elements.kind = InputKind::Word;
    QuestionInput base{
        "base_frequency",
        "Frequency of the reactances",
        "Hz",
        "auto",
        "At which the elements hold, and below which volts per hertz lower the voltage; auto: that "
        "of the rated speed.",
        0.01,
        1e5};
    base.auto_allowed = true;
    own.insert(own.begin(), std::move(elements));
    for (QuestionInput& input : winding_inputs()) own.push_back(std::move(input));
    QuestionInput friction{
        "friction",
        "Friction",
        "W",
        "auto",
        "Of bearings and air, at every speed; auto: the design's friction torque at synchronous speed.",
        0,
        1e9};
    friction.auto_allowed = true;
    own.push_back(std::move(friction));
    own.push_back(std::move(base));
    return own;
}

namespace {

bool elements_given(const Inputs& inputs) {
    const std::string text(trim(inputs.word("elements")));
    return !text.empty() && text != "auto";
}

Result<CageSource> given_source(const QuestionContext& c) {
    const auto elements = read_elements(c.inputs.word("elements"), base_frequency(c));
    if (!elements) return elements.problems();
    CageSource source;
    source.machine = std::make_unique<GivenCircuit>(*elements, c.machine.poles / 2, given_friction(c));
    source.told = "By the circuit with constant elements: saturation, skin effect in the bars and the field's "
                  "harmonics are in them as far as they were given.";
    return source;
}

constexpr const char* left_out = "The rotor's iron loses nothing.";

} // namespace

int fields_of_source(const Inputs& inputs, bool by_fields) {
    if (elements_given(inputs)) return 0;
    return harmonic_price * (by_fields ? 24 : table_fields);
}

Result<CageSource> cage_source(QuestionContext& c, double voltage, double frequency, bool by_fields) {
    if (elements_given(c.inputs)) {
        if (!by_fields) return given_source(c);
        return Problem{"--with way", "Fields take their circuit from the drawing; leave the elements at auto."};
    }
    auto fields = cage_fields(c, given_friction(c));
    if (!fields) return fields.problems();
    CageSource source;
    if (by_fields) {
        source.machine = std::move(*fields);
        source.told =
            fmt::format("By harmonic fields of the drawing, each wave round the gap with its own slip; "
                        "what the rotor's slots make of it at other frequencies is left out. {}",
                        left_out);
        return source;
    }
    auto table = circuit_table(**fields, voltage / std::sqrt(3.0), frequency);
    if (!table) return table.problems();
    source.machine =
        std::make_unique<SaturatedCircuit>(std::move(*table), c.machine.pole_pairs(), given_friction(c));
    source.told =
        fmt::format("By the circuit that harmonic fields of the drawing make on {:.4g} V and {:.4g} Hz, "
                    "over slip and saturation; of the waves round the gap it holds the working one "
                    "alone. {}",
                    voltage, frequency, left_out);
    return source;
}

Result<std::unique_ptr<FieldSlips>> cage_fields(QuestionContext& c, double friction) {
    if (auto problems = terminal_problems(c.machine); !problems.empty()) return problems;
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    return std::make_unique<FieldSlips>(
        *model, FieldSlips::Circuit{given_resistance(c), given_end_inductance(c), friction}, c);
}

double given_friction(const QuestionContext& c) {
    const double given = c.input("friction");
    return std::isnan(given) ? c.machine.friction_torque * 2 * pi * base_frequency(c) / c.machine.pole_pairs()
                             : given;
}

double base_frequency(const QuestionContext& c) {
    const double given = c.input("base_frequency");
    return std::isnan(given) ? electrical_frequency(c.machine, c.machine.rating.speed) : given;
}

} // namespace mavlo
