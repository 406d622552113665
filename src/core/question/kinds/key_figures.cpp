// The key figures as an answer, for studies of many designs: what the tell-tales show.

#include "figure/mass.h"
#include "machine/axial.h"
#include "question/key_figure_choice.h"
#include "question/mesh_effort.h"
#include "question/question.h"
#include "question/quick.h"

#include <fmt/format.h>
#include <numbers>

namespace mavlo::question_key_figures {
namespace {

constexpr int fields = 13;

int solves(const Machine&, const Inputs&) {
    return fields;
}

/// Of the cylinder round all that is active, m3: stack length and outer radius, of axial machines the length of
/// all discs and the ring's outer radius; of straight ones of the block that repeats.
double active_volume(const Machine& m) {
    double r = m.section.outer_radius(), length = m.stack_length;
    if (m.facts().axial) {
        const AxialForm form = axial_form(m.values);
        r = form.outer;
        length = form.halves * (m.section.stator().tile.far_radius - m.section.rotor().tile.far_radius);
    }
    if (m.facts().linear) // as long as it repeats, as wide as its stack, from back to back
        return 2 * std::numbers::pi * m.section.chart().flat * m.section.depth *
               (m.section.stator().tile.far_radius - m.section.rotor().tile.far_radius);
    return std::numbers::pi * r * r * length;
}

/// What prices and volumes are made from.
void add_amounts(const MachineModel& model, Answer& answer) {
    const ActiveMass mass = active_mass(model);
    answer.figures.push_back({"mass_magnets", mass.magnets, "kg"});
    answer.figures.push_back({"mass_copper", mass.copper, "kg"});
    answer.figures.push_back({"mass_steel", mass.stator_steel + mass.rotor_steel, "kg"});
    answer.figures.push_back({"active_volume", active_volume(model.machine), "m3"});
}

Problems run(QuestionContext& c) {
    ModelOptions mesh = quick_mesh();
    mesh.extra_factor *= c.mesh.extra_factor;
    mesh.library_solver = c.mesh.library_solver;
    const auto model = prepare_field(c.machine, mesh);
    if (!model) return model.problems();
    auto figures = quick_figures(*model, c.threads, c.watch);
    if (!figures) return figures.problems();
    add_slow_figures(*figures, c.ask.materials);
    const Facts facts = c.machine.facts();
    for (const KeyFigure& figure : registry<KeyFigure>().all()) {
        const auto value = (*figures)[figure.name];
        if (value || !figure.applies || figure.applies(facts))
            c.answer.figures.push_back({figure.name, value, si_unit(figure)});
    }
    add_amounts(**model, c.answer);
    c.answer.effort.solves = figures->solves;
    count_mesh(c.answer.effort, **model);
    c.answer.sentence =
        fmt::format("Key figures from {} fields on a coarse mesh; the full questions answer each of them.",
                    figures->solves);
    return {};
}

const RegisterQuestion registered{
    {"key-figures",
     "Choosing",
     "Key figures",
     "What the tell-tales show, from a dozen fields on a coarse mesh: for sweeps over many designs.",
     {},
     solves,
     run,
     890,
     {},
     true,
     true}};

} // namespace
} // namespace mavlo::question_key_figures
