#include "question/linkage_grid.h"

#include "figure/skew.h"
#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

constexpr double growth = 1.15; ///< of currents beyond the largest of the rating
constexpr const char* store_kind = "linkages";

bool is_even(const Machine& machine) {
    return machine.symmetry.mirrored;
}

/// Angle, current, coenergy, torque, and each phase's linkage.
std::vector<double> row_of(double angle, double current, const FieldSolution& field) {
    std::vector<double> row{angle, current, field.coenergy, field.torque};
    row.insert(row.end(), field.flux_linkage.begin(), field.flux_linkage.end());
    return row;
}

double rounded(double value) {
    return std::round(value * 1e9) / 1e9 + 0.0;
}

} // namespace

std::vector<double> linkage_angles(const Machine& machine, int points) {
    const double half = pi / machine.pole_pairs();
    std::vector<double> angles;
    const int count = is_even(machine) ? points : 2 * (points - 1);
    angles.reserve(std::size_t(std::max(0, count)));
    for (int k = 0; k < count; ++k) angles.push_back(-half + half * k / (points - 1));
    if (is_even(machine)) angles.back() = 0;
    return angles;
}

std::vector<double> linkage_currents(double most, int count) {
    std::vector<double> currents;
    for (int k = 1; k <= count; ++k) currents.push_back(rounded(most * k / count));
    return currents;
}

namespace {

/// Rows over the angle, as the half that was solved shows the other: the torque with the other sign.
Eigen::MatrixXd with_mirror(const Eigen::MatrixXd& half, const Eigen::MatrixXd& seen_there, double sign) {
    const Eigen::Index n = half.cols();
    Eigen::MatrixXd whole(half.rows(), 2 * (n - 1));
    whole.leftCols(n) = half;
    for (Eigen::Index j = 1; j + 1 < n; ++j) whole.col(2 * (n - 1) - j) = sign * seen_there.col(j);
    return whole;
}

LinkageGrid over_whole_period(const LinkageGrid& half) {
    LinkageGrid grid = half;
    grid.even = false;
    const double step = half.angle[1] - half.angle[0];
    for (std::size_t j = 1; j + 1 < half.angle.size(); ++j)
        grid.angle.push_back(half.angle.back() + step * double(j));
    grid.coenergy = with_mirror(half.coenergy, half.coenergy, 1);
    grid.linkage = with_mirror(half.linkage, half.linkage, 1);
    grid.torque = with_mirror(half.torque, half.torque, -1);
    // Seen in the mirror the phases that follow are those that go before.
    for (std::size_t p = 0; p < half.others.size(); ++p)
        grid.others[p] = with_mirror(half.others[p], half.others[half.others.size() - 1 - p], 1);
    return grid;
}

} // namespace

LinkageGrid skewed_grid(const LinkageGrid& straight, const SkewedStack& stack) {
    if (stack.none()) return straight;
    LinkageGrid grid = straight.even ? over_whole_period(straight) : straight;
    const auto skew = [&](Eigen::MatrixXd& rows) {
        for (Eigen::Index k = 0; k < rows.rows(); ++k) {
            const Eigen::VectorXd row = rows.row(k);
            const auto seen = skewed({row.begin(), row.end()}, grid.period, stack);
            for (Eigen::Index j = 0; j < rows.cols(); ++j) rows(k, j) = seen[std::size_t(j)];
        }
    };
    skew(grid.coenergy);
    skew(grid.linkage);
    skew(grid.torque);
    for (Eigen::MatrixXd& other : grid.others) skew(other);
    return grid;
}

Result<LinkageGrid> solve_linkage_grid(const std::shared_ptr<const MachineModel>& model,
                                       const std::vector<double>& angles, const std::vector<double>& currents,
                                       const PointStore& store, int threads, const Watch& watch,
                                       Effort& effort) {
    const Machine& m = model->machine;
    const std::size_t phases = std::size_t(m.winding.phases), columns = 4 + phases;
    const double aligned = phase_axis(m.winding.layout);
    const auto known = store.read(store_kind, 2, columns);
    std::vector<Position> positions;
    std::vector<std::pair<double, double>> keys;
    for (std::size_t j = 0; j < angles.size(); ++j)
        for (std::size_t n = 0; n < currents.size(); ++n) {
            // To and fro, so that neighbours in the sweep are neighbours here.
            const double current = currents[j % 2 ? currents.size() - 1 - n : n];
            if (known.contains({rounded(angles[j]), rounded(current)})) continue;
            PortValues one(phases, 0.0);
            one[0] = current;
            positions.push_back({aligned + angles[j], std::move(one)});
            keys.emplace_back(rounded(angles[j]), rounded(current));
        }
    std::vector<std::vector<double>> fresh(positions.size());
    const auto results =
        sweep(model, positions, threads, watch, [&](std::size_t at, const FieldSolution& field) {
            fresh[at] = row_of(keys[at].first, keys[at].second, field);
            store.append(store_kind, fresh[at]);
        });
    if (!results) return results.problems();
    effort.solves += int(positions.size());
    for (const PositionResult& result : *results) effort.newton_steps += result.newton_steps;
    PointStore::Rows rows = known;
    for (auto& row : fresh) rows[{row[0], row[1]}] = std::move(row);

    LinkageGrid grid{angles, currents, 2 * pi / m.pole_pairs(), is_even(m), {}, {}, {}, {}};
    const auto empty = Eigen::MatrixXd::Zero(Eigen::Index(currents.size()), Eigen::Index(angles.size()));
    grid.coenergy = grid.linkage = grid.torque = empty;
    grid.others.assign(phases - 1, empty);
    for (std::size_t j = 0; j < angles.size(); ++j)
        for (std::size_t n = 0; n < currents.size(); ++n) {
            const auto& row = rows.at({rounded(angles[j]), rounded(currents[n])});
            const auto k = Eigen::Index(n), i = Eigen::Index(j);
            grid.coenergy(k, i) = row[2];
            grid.torque(k, i) = row[3];
            grid.linkage(k, i) = row[4];
            for (std::size_t p = 1; p < phases; ++p) grid.others[p - 1](k, i) = row[4 + p];
        }
    return skewed_grid(grid, m.skew);
}

std::vector<QuestionInput> linkage_map_inputs() {
    return {{"map_currents", "Currents of the map", "", "20", "Of switched phases, up to the largest current.",
             4, 200, true},
            {"map_positions", "Positions of the map", "", "31",
             "Of switched phases, from unaligned to aligned.", 5, 721, true}};
}

int linkage_map_solves(const Machine& machine, const Inputs& inputs) {
    return int(inputs.at("map_currents")) *
           int(linkage_angles(machine, int(inputs.at("map_positions"))).size());
}

Result<LinkageMap> linkage_map(QuestionContext& c, const std::shared_ptr<const MachineModel>& model,
                               double most) {
    const double rated = std::max(c.machine.rating.max_current, c.machine.rating.current);
    auto currents = linkage_currents(rated > 0 ? std::min(rated, most) : most, int(c.input("map_currents")));
    // Beyond, where the steel is saturated, the steps may grow.
    const double top = rounded(most);
    while (currents.back() < top) currents.push_back(rounded(std::min(top, growth * currents.back())));
    auto grid = solve_linkage_grid(model, linkage_angles(c.machine, int(c.input("map_positions"))), currents,
                                   c.points, c.threads, c.watch, c.answer.effort);
    if (!grid) return grid.problems();
    return LinkageMap(std::move(*grid));
}

} // namespace mavlo
