#pragma once
// Questions: what can be asked of a machine. A new question is one file in question/kinds/ that registers
// itself.

#include "map/flux_map.h"
#include "material/material.h"
#include "question/answer.h"
#include "question/inputs.h"
#include "question/point_store.h"
#include "question/sweep.h"

#include <map>
#include <memory>
#include <string>
#include <vector>

namespace mavlo {

/// How a question is to be asked.
struct Ask {
    Design design;
    MaterialLibrary materials;
    std::string variant = "base";
    std::map<std::string, std::string> with; ///< inputs as texts with units; missing ones take their standard
    Quality quality = Quality::Normal;
    int threads = 0; ///< 0: all cores
    Watch watch{};
    bool library_solver = false;          ///< factorise with CHOLMOD instead of Mavlo's own code, as a check
    PointStore points{};                  ///< finished parts of large answers, to go on from
    std::shared_ptr<const FluxMap> map{}; ///< taken instead of solving one, where a question needs a flux map
    bool with_error = false; ///< estimate every figure's discretisation error, see discretisation.h
};

/// What a question finds ready when it runs.
struct QuestionContext {
    const Machine& machine;
    const Inputs& inputs;
    ModelOptions mesh;
    int threads;
    const Watch& watch;
    std::shared_ptr<const FluxMap> map; ///< one brought along; may be empty
    PointStore points;                  ///< of this very design and mesh
    Answer& answer;                     ///< to be filled
    double input(const std::string& key) const { return inputs.at(key); }
};

/// Writes the mesh's size and quality into the answer's effort.
void count_mesh(Effort& effort, const FieldModel& model);

struct QuestionKind {
    std::string name;
    std::string group; ///< "No current", "With current" …
    std::string title;
    std::string tells; ///< one sentence: what the answer says
    std::vector<QuestionInput> inputs;
    int (*solves)(const Machine&, const Inputs& inputs) = nullptr; ///< fields it will solve
    Problems (*run)(QuestionContext&) = nullptr;
    int order = 0; ///< place in the list
    bool needs_winding = true;
};

struct RegisterQuestion {
    explicit RegisterQuestion(QuestionKind kind);
};

const std::vector<QuestionKind>& question_kinds();
const QuestionKind* find_question(const std::string& name);

/// The inputs in SI, or what is wrong with them ("--with points: …").
Result<Inputs> question_inputs(const QuestionKind& kind, const Ask& ask);
/// How many fields would be solved.
Result<int> question_price(const QuestionKind& kind, const Ask& ask);
/// The same with the machine built already.
Result<int> question_price(const QuestionKind& kind, const Ask& ask, const Machine& machine);
/// Builds the machine, runs the question and names the answer's design.
Result<Answer> ask_question(const std::string& name, const Ask& ask);

/// SHA-256 (hex) of the design's figures: parameters in use, materials, version of the engine.
std::string design_hash(const Design& design, const MaterialLibrary& own);
/// The same of what the fields depend on alone: not the rating, the winding's resistance or friction.
std::string field_hash(const Design& design, const MaterialLibrary& own);
/// Name of the file that keeps the answer: SHA-256 of design, question, inputs and quality.
std::string answer_key(const std::string& question, const Ask& ask);

} // namespace mavlo
