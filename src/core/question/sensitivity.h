#pragma once
// How the key figures of a design change with its dimensions.

#include "mesh/mesh_mover.h"
#include "question/accuracy.h"
#include "question/quick.h"

#include <functional>
#include <set>

namespace mavlo {

/// Builds the machine of a design.
using MachineMaker = std::function<Result<Machine>(const Design&)>;

/// Dimensions of a design: lengths, angles and ratios in use that are not zero and whose change by `step` (a
/// share of the value) changes the section. One that a formula gives is changed alone; what hangs on it
/// follows.
struct DimensionStep {
    const Parameter* parameter = nullptr;
    double value = 0, step = 0;  ///< SI
    bool up = true, down = true; ///< can be built so
};
/// `wanted`: paths, all where empty; one that cannot be varied is told in a sentence.
Result<std::vector<DimensionStep>> dimension_steps(const Design& design, const Machine& machine,
                                                   const MachineMaker& make, double step,
                                                   const std::vector<std::string>& wanted);

using Figures = std::map<std::string, double, std::less<>>;
/// Figures of a machine on the mesh that the options bring along.
using Gauge = std::function<Result<Figures>(const Machine&, const ModelOptions& mesh)>;

struct Slope {
    double value = 0; ///< of the figure over the dimension, both SI
    double error = 0; ///< what mesh and step leave of it
};
/// Of one dimension: every figure's slope by its name.
struct DimensionSlopes {
    DimensionStep dimension;
    std::map<std::string, Slope, std::less<>> slopes;
    bool one_sided = false;
    bool remeshed = false; ///< the mesh could not follow: errors are those of meshes made anew
    Problems problems;     ///< why there are none
};

struct Sensitivity {
    Figures base; ///< of the design
    std::vector<DimensionSlopes> dimensions;
    int fields = 0;                            ///< of the key figures
    std::shared_ptr<const MachineModel> model; ///< of the design itself
};

/// Sizes that were found for a quality, and by what they are multiplied.
struct MeshSizes {
    Sizing sizing;
    double factor = 1;
};

/// Differences of the quick figures over meshes that move with the dimension (mesh/mesh_mover.h), central ones,
/// one-sided ones of second order where the other side cannot be built (M. Abramowitz, I. Stegun, Handbook of
/// Mathematical Functions, 25.3). The same on a coarser mesh tells what the mesh leaves of a slope: elements of
/// second order err as h^4 in a figure, so the finer mesh's error is about the difference over (ratio^4 - 1);
/// the whole difference is told, since a coarse mesh is not yet in that range. Dimensions of which one of a
/// figure's ten largest slopes is left in doubt are asked once more on the `finer` mesh. `gauge`: other figures
/// than the key figures; called from several threads.
Result<Sensitivity> sensitivity_of(const Design& design, const MachineMaker& make,
                                   const std::vector<DimensionStep>& steps, const MeshSizes& sizes,
                                   const std::function<Result<MeshSizes>()>& finer, int threads,
                                   const Watch& watch, const Gauge& gauge = {});

/// The design with a dimension at another value.
Design at_value(Design design, const Parameter& parameter, double value);

/// A mesh that follows a design's dimensions, with the fields of its own shape to begin from.
class MovingModel {
  public:
    /// `machine` with the sizes its mesh shall have.
    static Result<MovingModel> of(const Machine& machine, const ModelOptions& options, int threads,
                                  const Watch& watch);
    const QuickFigures& base() const { return m_base; }
    const std::shared_ptr<const MachineModel>& model() const { return m_model; } ///< of the design itself
    const ModelOptions& mesh() const { return m_own; }                           ///< its own
    /// Options with the mesh of a machine whose dimensions differ a little; without one where it could not
    /// follow.
    ModelOptions mesh_of(const Machine& machine) const;
    /// Key figures of such a machine; `remeshed` becomes true when the mesh could not follow.
    Result<QuickFigures> figures(const Machine& machine, const Watch& watch, bool& remeshed) const;

  private:
    ModelOptions m_options, m_own;
    std::shared_ptr<const std::vector<MeshMover>> m_movers;
    std::vector<FieldSolution> m_fields;
    QuickFigures m_base;
    std::shared_ptr<const MachineModel> m_model;
};

} // namespace mavlo
