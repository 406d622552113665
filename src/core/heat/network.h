#pragma once
// A few bodies that exchange heat: temperatures with losses that follow them, over time too, and where they run
// away.

#include "quantity/problem.h"

#include <Eigen/Core>
#include <functional>
#include <string>
#include <vector>

namespace mavlo {

/// C dT/dt = P - G (T - T_0): G (W/K) symmetric and positive definite, T_0 (K) what all would be at without
/// losses.
struct HeatNetwork {
    std::vector<std::string> names;
    Eigen::MatrixXd conductance;
    Eigen::VectorXd at_rest;  ///< T_0
    Eigen::VectorXd capacity; ///< J/K

    int size() const { return int(names.size()); }
    /// Joined pairs (K/W) and an ambient that all reach; "ambient" names it.
    struct Joint {
        std::string a, b;
        double resistance;
    };
    static Result<HeatNetwork> of(std::vector<std::string> names, const std::vector<Joint>& joints,
                                  double ambient, std::vector<double> capacity);
};

/// Losses (W) of the bodies at their temperatures, and their slope dP_i/dT_j where it is asked for.
using LossLawOfHeat = std::function<Eigen::VectorXd(const Eigen::VectorXd& kelvin, Eigen::MatrixXd* slope)>;

/// G (T - T_0) = P(T) by Newton's method along the path from no loss to all of it: the solution that is reached
/// from cold. Without one the losses run away: on the way G - P' loses its positive inverse (the fold of two
/// solutions, M. Kubicek, ACM Trans. Math. Softw. 2(1), 1976; a fixed current's linear equations have a
/// "solution" beyond it that means nothing).
struct SteadyHeat {
    Eigen::VectorXd temperature; ///< K
    bool runs_away = false;
    double share = 1; ///< of the losses up to which there is a solution; the temperatures are those there
};
SteadyHeat steady_heat(const HeatNetwork& network, const LossLawOfHeat& law);
/// The largest factor (a current's, a torque's) whose law has a steady solution, from `low` up to `high`, to
/// 1e-6 of itself; `high` where all have one.
double runaway_factor(const HeatNetwork& network, const std::function<LossLawOfHeat(double factor)>& law,
                      double low, double high);

/// From these temperatures over a time with one law, right to some 1e-6 of the rise (J.R. Dormand, P.J. Prince,
/// J. Comput. Appl. Math. 6, 1980). `seen` is called at every given time, rising, and says whether to go on.
Eigen::VectorXd heat_over_time(const HeatNetwork& network, const LossLawOfHeat& law,
                               Eigen::VectorXd temperature, double from, double to,
                               const std::vector<double>& times = {},
                               const std::function<bool(double t, const Eigen::VectorXd&)>& seen = {});

/// s, falling: of the modes of G and C.
std::vector<double> time_constants(const HeatNetwork& network);

/// Losses that come and go: shares of the law over stretches of time, again and again.
struct DutySegment {
    double seconds = 0, share = 1;
};
/// The temperatures at the beginning of a cycle that ends as it began.
Eigen::VectorXd periodic_heat(const HeatNetwork& network,
                              const std::function<LossLawOfHeat(const DutySegment&)>& law,
                              const std::vector<DutySegment>& cycle);

} // namespace mavlo
