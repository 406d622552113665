#pragma once
// Machines made to tolerances: dimensions and remanence drawn by lot, and what their figures' spread comes
// from.

#include "quantity/bound.h"
#include "question/sensitivity.h"

namespace mavlo {

/// A dimension's tolerance: three standard deviations of a normal distribution about its value, as a process
/// that fills its zone is taken (ISO 22514-2: C_p = 1).
struct Spread {
    std::string name;                     ///< path, or "remanence"
    const Parameter* parameter = nullptr; ///< null: the magnets' remanence, a share of it
    double half_width = 0;                ///< SI
};
/// "PATH=HALF-WIDTH, remanence=2 %". "auto": lengths of the section by ISO 2768-1 class f, angles by 0.1
/// degrees, remanence by 2 %.
Result<std::vector<Spread>> read_spreads(const std::string& text, const Design& design, const Machine& machine,
                                         const MachineMaker& make);

/// A Latin hypercube of normal draws, in standard deviations, one row a machine; the same for the same seed.
std::vector<std::vector<double>> normal_draws(std::size_t dimensions, int count, unsigned seed);

struct FigureLimit {
    const KeyFigure* figure;
    Bound bound; ///< in SI
    bool keeps(double v) const { return bound.excess(v) <= 0; }
};
Result<std::vector<FigureLimit>> read_limits(const std::string& text, const Machine& machine);

struct MadeMachine {
    std::vector<double> draws;                          ///< of each spread, in standard deviations
    std::map<std::string, double, std::less<>> figures; ///< empty: it cannot be built
};
struct MadeMachines {
    std::map<std::string, double, std::less<>> nominal;
    std::vector<MadeMachine> machines;
    int fields = 0;
    std::shared_ptr<const MachineModel> model; ///< of the design itself
};
/// A Latin hypercube of normal draws, the same for the same seed, on
/// meshes that move with the dimensions.
Result<MadeMachines> make_machines(const Design& design, const MachineMaker& make,
                                   const std::vector<Spread>& spreads, int count, unsigned seed,
                                   const ModelOptions& mesh, int threads, const Watch& watch);

/// Share of the values' variance that each draw causes: squares of the standardised regression coefficients (A.
/// Saltelli et al., Global Sensitivity Analysis, 2008, sec. 1.2.5). They add up to about 1 where the figure is
/// nearly linear over the tolerances.
std::vector<double> causes_of(const std::vector<std::vector<double>>& draws, const std::vector<double>& values);

} // namespace mavlo
