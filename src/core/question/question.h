#pragma once
// Questions: what can be asked of a machine. A new question is one file in question/kinds/ that registers
// itself.

#include "machine/hash.h"
#include "map/flux_map.h"
#include "material/material.h"
#include "question/accuracy.h"
#include "question/answer.h"
#include "question/inputs.h"
#include "question/point_store.h"
#include "question/sweep.h"

#include <list>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace mavlo {

/// What is asked, of what, and how exactly: all that an answer depends on.
struct Ask {
    Design design;
    MaterialLibrary materials;
    std::string variant = "base";
    std::map<std::string, std::string> with; ///< inputs as texts with units; missing ones take their standard
    Quality quality = Quality::Normal;
    bool library_solver = false; ///< factorise with CHOLMOD instead of Mavlo's own code, as a check
    double size = 1;             ///< multiplies every element size of the mesh that was found, as a check
    bool with_error = false;     ///< estimate every figure's discretisation error, see discretisation.h
};

/// How it is computed; the answer does not depend on it.
struct Run {
    int threads = 0; ///< 0: all cores
    Watch watch{};
    PointStore points{};                  ///< finished parts of large answers, to go on from
    std::shared_ptr<const FluxMap> map{}; ///< taken instead of solving one, where a question needs a flux map
};

/// What a question finds ready when it runs.
struct QuestionContext {
    const Machine& machine;
    const Inputs& inputs;
    ModelOptions mesh;
    Promise promise;                                  ///< what the figures shall be right to
    std::function<Result<Sizing>()> sizing;           ///< finds the sizes that keep it
    std::function<Result<Sizing>(Quality)> sizing_of; ///< those of another quality
    int threads;
    const Watch& watch;
    std::shared_ptr<const FluxMap> map; ///< one brought along; may be empty
    PointStore points;                  ///< of this very design and mesh
    Answer& answer;                     ///< to be filled
    const Ask& ask;
    /// The machine of another design under the same circumstances.
    std::function<Result<Machine>(const Design&)> other;
    double input(const std::string& key) const { return inputs.at(key); }
};

/// The field of the context's machine, on a mesh that keeps the promise; the answer's effort says so.
Result<std::shared_ptr<const MachineModel>> prepare_model(QuestionContext& context);
/// The same of the machine as it is otherwise (at another temperature, with its magnets weakened).
Result<std::shared_ptr<const MachineModel>> prepare_model(QuestionContext& context, const Machine& machine,
                                                          const ModelOptions& options);

/// What a machine must have for a question to make sense.
struct Need {
    bool (*met)(const Facts&);
    const char *path, *sentence; ///< what is said when it has not
};
inline constexpr Need need_winding{[](const Facts& f) { return f.wound; }, "stator.slot.kind",
                                   "This question needs a winding; a stator without slots has none."};
inline constexpr Need need_magnets{[](const Facts& f) { return f.magnets; }, "rotor.kind",
                                   "This question is about magnets, and this rotor has none."};
inline constexpr Need need_no_shell{
    [](const Facts& f) { return !f.induced; }, "rotor.kind",
    "This rotor carries currents of its own and slips behind the stator's field, "
    "which this question leaves out; ask in-time with method=field, of a cage slip-curves and rating-plate, "
    "too."};

inline constexpr Need need_no_shell_or_cage{[](const Facts& f) { return !f.induced || f.cage; }, "rotor.kind",
                                            "This rotor's shell carries currents of its own and slips behind "
                                            "the stator's field, which this question leaves out; ask "
                                            "in-time with method=field."};

inline constexpr Need need_dq_frame{
    [](const Facts& f) { return !f.switched; }, "winding.form",
    "Phases that are switched by position have no currents along d and q; ask linkage-curves or strokes."};
inline constexpr Need need_round{
    [](const Facts& f) { return !f.axial && !f.linear; }, "machine.topology",
    "This question is about machines with a round gap; of axial and linear ones it is not computed yet."};
inline constexpr Need need_flat_gap{
    [](const Facts& f) { return f.axial || f.linear; }, "machine.topology",
    "This question is about axial and linear machines, whose two sides are pulled together."};

inline constexpr Need need_switched{
    [](const Facts& f) { return f.switched; }, "winding.form",
    "This question is about phases that are switched by position, with a coil round every stator pole "
    "(winding.form = pole)."};

struct QuestionKind {
    std::string name;
    std::string group; ///< "No current", "With current" …
    std::string title;
    std::string tells; ///< one sentence: what the answer says
    std::vector<QuestionInput> inputs;
    int (*solves)(const Machine&, const Inputs& inputs) = nullptr; ///< fields it will solve
    Problems (*run)(QuestionContext&) = nullptr;
    int order = 0; ///< place in the list
    std::vector<Need> needs{need_winding};
    bool waveforms =
        true;          ///< its figures depend on the torque's waveform; otherwise on means and flux linkages
    bool skew = false; ///< it takes the design's skew into account; otherwise its answers say that they do not
};

struct RegisterQuestion {
    explicit RegisterQuestion(QuestionKind kind);
};

const std::list<QuestionKind>& question_kinds();
const QuestionKind* find_question(const std::string& name);

/// Why the question cannot be asked of this machine; empty when it can.
Problems unmet_needs(const QuestionKind& kind, const Machine& machine);
/// The inputs in SI, or what is wrong with them ("--with points: …"), for a design that is resolved.
Result<Inputs> question_inputs(const QuestionKind& kind, const std::map<std::string, std::string>& with,
                               const Values& values);
/// The inputs as they are read and shown: of straight machines along the line.
std::vector<QuestionInput> shown_inputs(const QuestionKind& kind, bool linear);
/// How many fields would be solved.
Result<int> question_price(const QuestionKind& kind, const Ask& ask, const Machine& machine);
/// Builds the machine, runs the question and names the answer's design.
Result<Answer> ask_question(const std::string& name, const Ask& ask, const Run& run = {});
/// Name of the file that keeps the answer: SHA-256 of design, question, inputs and quality.
std::string answer_key(const std::string& question, const Ask& ask);
/// The same of a design that has been built with the ask's materials.
std::string answer_key(const std::string& question, const Ask& ask, const Built& built);
/// Whether an answer says of itself that it is of exactly this question, design, quality and inputs.
bool is_answer_to(const Answer& answer, const std::string& question, const Ask& ask);
bool is_answer_to(const Answer& answer, const std::string& question, const Ask& ask, const Built& built);

} // namespace mavlo
