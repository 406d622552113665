#include "heat/network.h"

#include "quantity/dense.h"

#include <algorithm>
#include <boost/numeric/odeint.hpp>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int most_newton_steps = 50;
constexpr double exact = 1e-11; ///< of a temperature, K/K

/// Whether more loss anywhere makes all warmer: the inverse of an M-matrix has no negative entry, and beyond a
/// fold it has (A. Berman, R.J. Plemmons, Nonnegative Matrices in the Mathematical Sciences, 1979, ch. 6).
bool is_stable(const Eigen::MatrixXd& tangent) {
    const Eigen::VectorXd warmer = solved(tangent, Eigen::VectorXd(Eigen::VectorXd::Ones(tangent.rows())));
    return warmer.allFinite() && warmer.minCoeff() > 0;
}

/// Newton's method for a share of the losses; empty where it leaves the branch that begins at no loss.
bool newton(const HeatNetwork& n, const LossLawOfHeat& law, double share, Eigen::VectorXd& t) {
    Eigen::MatrixXd slope;
    for (int k = 0; k < most_newton_steps; ++k) {
        const Eigen::VectorXd p = law(t, &slope);
        const Eigen::MatrixXd tangent = n.conductance - share * slope;
        const Eigen::VectorXd left = share * p - n.conductance * (t - n.at_rest);
        if (!left.allFinite() || !is_stable(tangent)) return false;
        const Eigen::VectorXd step = solved(tangent, left);
        t += step;
        if (step.cwiseAbs().maxCoeff() <= exact * t.cwiseAbs().maxCoeff()) return true;
    }
    return false;
}

} // namespace

Result<HeatNetwork> HeatNetwork::of(std::vector<std::string> names, const std::vector<Joint>& joints,
                                    double ambient, std::vector<double> capacity) {
    HeatNetwork n;
    const auto count = Eigen::Index(names.size());
    n.names = std::move(names);
    n.conductance = Eigen::MatrixXd::Zero(count, count);
    n.at_rest = Eigen::VectorXd::Constant(count, ambient);
    n.capacity = Eigen::Map<const Eigen::VectorXd>(capacity.data(), Eigen::Index(capacity.size()));
    const auto find = [&](const std::string& name) {
        const auto at = std::find(n.names.begin(), n.names.end(), name);
        return at == n.names.end() ? Eigen::Index(-1) : Eigen::Index(at - n.names.begin());
    };
    for (const Joint& j : joints) {
        const Eigen::Index a = find(j.a), b = find(j.b);
        if (!(j.resistance > 0) || (a < 0 && b < 0))
            return Problem{"thermal",
                           fmt::format("Between {} and {} a resistance above 0 K/W is wanted.", j.a, j.b)};
        const double g = 1 / j.resistance;
        if (a >= 0) n.conductance(a, a) += g;
        if (b >= 0) n.conductance(b, b) += g;
        if (a >= 0 && b >= 0) n.conductance(a, b) -= g, n.conductance(b, a) -= g;
    }
    if (!is_stable(n.conductance))
        return Problem{"thermal", "Some body has no way to give its heat to ambient."};
    return n;
}

SteadyHeat steady_heat(const HeatNetwork& network, const LossLawOfHeat& law) {
    SteadyHeat out{network.at_rest};
    Eigen::VectorXd t = network.at_rest;
    if (newton(network, law, 1, t)) { // convex losses: Newton's steps from below stay on the branch
        bool branch = (t.array() >= network.at_rest.array() - 1e-6).all();
        if (branch) {
            out.temperature = t;
            return out;
        }
    }
    // In shares that grow while they can, and halve where they cannot.
    double share = 0, step = 0.25;
    while (share < 1 && step > 1e-9) {
        const double wanted = std::min(1.0, share + step);
        t = out.temperature;
        if (newton(network, law, wanted, t)) {
            share = wanted;
            out.temperature = t;
            step *= 1.5;
        } else {
            step /= 2;
        }
    }
    out.share = share;
    out.runs_away = share < 1;
    return out;
}

double runaway_factor(const HeatNetwork& network, const std::function<LossLawOfHeat(double)>& law, double low,
                      double high) {
    if (!steady_heat(network, law(high)).runs_away) return high;
    while (high - low > 1e-6 * high) {
        const double middle = (low + high) / 2;
        (steady_heat(network, law(middle)).runs_away ? high : low) = middle;
    }
    return low;
}

Eigen::VectorXd heat_over_time(const HeatNetwork& network, const LossLawOfHeat& law,
                               Eigen::VectorXd temperature, double from, double to,
                               const std::vector<double>& times,
                               const std::function<bool(double, const Eigen::VectorXd&)>& seen) {
    using State = std::vector<double>;
    namespace odeint = boost::numeric::odeint;
    const auto n = Eigen::Index(network.size());
    const auto rate = [&](const State& x, State& dx, double) {
        const Eigen::VectorXd t = Eigen::Map<const Eigen::VectorXd>(x.data(), n);
        const Eigen::VectorXd out =
            (law(t, nullptr) - network.conductance * (t - network.at_rest)).cwiseQuotient(network.capacity);
        std::copy(out.begin(), out.end(), dx.begin());
    };
    State x(temperature.begin(), temperature.end());
    auto stepper = odeint::make_dense_output(1e-6, 1e-9, odeint::runge_kutta_dopri5<State>());
    std::vector<double> stops;
    for (double t : times)
        if (t >= from && t <= to) stops.push_back(t);
    if (to <= from) return temperature;
    stepper.initialize(x, from, std::min(1.0, (to - from) / 10));
    std::size_t next = 0;
    const auto tell = [&](double t, const State& at) {
        return !seen || seen(t, Eigen::Map<const Eigen::VectorXd>(at.data(), n));
    };
    while (next < stops.size() && stops[next] <= from)
        if (!tell(stops[next++], x)) return temperature;
    State between(x);
    while (stepper.current_time() < to) {
        stepper.do_step(rate);
        for (; next < stops.size() && stops[next] <= stepper.current_time(); ++next) {
            stepper.calc_state(stops[next], between);
            if (!tell(stops[next], between)) return Eigen::Map<const Eigen::VectorXd>(between.data(), n);
        }
    }
    stepper.calc_state(to, between);
    return Eigen::Map<const Eigen::VectorXd>(between.data(), n);
}

std::vector<double> time_constants(const HeatNetwork& network) {
    const Eigen::VectorXd root = network.capacity.cwiseSqrt().cwiseInverse();
    const auto modes = modes_of(root.asDiagonal() * network.conductance * root.asDiagonal());
    std::vector<double> constants;
    for (double rate : modes.values) constants.push_back(1 / rate);
    std::sort(constants.rbegin(), constants.rend());
    return constants;
}

Eigen::VectorXd periodic_heat(const HeatNetwork& network,
                              const std::function<LossLawOfHeat(const DutySegment&)>& law,
                              const std::vector<DutySegment>& cycle) {
    const auto after = [&](Eigen::VectorXd t) {
        for (const DutySegment& segment : cycle)
            t = heat_over_time(network, law(segment), t, 0, segment.seconds);
        return t;
    };
    // Newton's method on T - after(T), whose slope is nearly constant: by differences, once.
    const auto n = Eigen::Index(network.size());
    Eigen::VectorXd t = network.at_rest;
    Eigen::MatrixXd slope(n, n);
    const auto first = after(t);
    for (Eigen::Index k = 0; k < n; ++k) {
        Eigen::VectorXd moved = t;
        moved[k] += 1;
        slope.col(k) = after(moved) - first;
    }
    const Eigen::MatrixXd matrix = Eigen::MatrixXd::Identity(n, n) - slope;
    for (int round = 0; round < 30; ++round) {
        const Eigen::VectorXd left = after(t) - t, step = solved(matrix, left);
        t += step;
        if (step.cwiseAbs().maxCoeff() < 1e-7) break;
    }
    return t;
}

} // namespace mavlo
