// A switched phase without its drive: flux linkage, torque and coenergy over current and position.

#include "quantity/constants.h"
#include "question/linkage_grid.h"
#include "question/period.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo::question_linkage_curves {
namespace {

constexpr int standard_currents = 20;

std::vector<double> currents_of(const Machine& machine, const Inputs& inputs) {
    const auto& given = inputs.list("currents");
    return given.empty() ? linkage_currents(machine.rating.max_current, standard_currents) : given;
}

int solves(const Machine& machine, const Inputs& inputs) {
    return int(currents_of(machine, inputs).size() * linkage_angles(machine, int(inputs.at("points"))).size());
}

/// From one unaligned position to the next, both there.
struct WholePeriod {
    std::vector<double> degrees;
    std::vector<std::size_t> column;
    std::vector<double> sign; ///< of what is odd about the aligned position

    explicit WholePeriod(const LinkageGrid& grid) {
        for (std::size_t j = 0; j < grid.angle.size(); ++j) add(grid.angle[j], j, 1);
        if (grid.even)
            for (std::size_t j = grid.angle.size() - 1; j-- > 0;) add(-grid.angle[j], j, -1);
        else
            add(grid.angle[0] + grid.period, 0, 1);
    }

    std::vector<double> along(const Eigen::MatrixXd& table, Eigen::Index current, bool odd = false) const {
        std::vector<double> values;
        for (std::size_t j = 0; j < column.size(); ++j)
            values.push_back((odd ? sign[j] : 1) * table(current, Eigen::Index(column[j])));
        return values;
    }

  private:
    void add(double angle, std::size_t from, double factor) {
        degrees.push_back(angle * 180 / pi);
        column.push_back(from);
        sign.push_back(factor);
    }
};

void add_maps(Answer& answer, const LinkageGrid& grid, const WholePeriod& period) {
    const auto add = [&](const std::string& name, const char* unit, const Eigen::MatrixXd& table, bool odd) {
        Map map{name, unit, "rotor_angle", "deg", "current", "A", period.degrees, grid.current, {}};
        for (Eigen::Index k = 0; k < table.rows(); ++k) map.z.push_back(period.along(table, k, odd));
        answer.maps.push_back(std::move(map));
    };
    add("flux_linkage", "Wb", grid.linkage, false);
    add("torque", "N.m", grid.torque, true);
    add("coenergy", "J", grid.coenergy, false);
    // Mirrored about the phase's axis the others change places: their linkages are given over the half that was
    // solved, and over the whole period where that was.
    std::vector<double> solved;
    for (double angle : grid.angle) solved.push_back(angle * 180 / pi);
    for (std::size_t p = 0; p < grid.others.size(); ++p) {
        Map map{"flux_linkage_" + phase_suffix(p + 1),
                "Wb",
                "rotor_angle",
                "deg",
                "current",
                "A",
                solved,
                grid.current,
                {}};
        for (Eigen::Index k = 0; k < grid.others[p].rows(); ++k) {
            const Eigen::VectorXd row = grid.others[p].row(k);
            map.z.emplace_back(row.begin(), row.end());
        }
        answer.maps.push_back(std::move(map));
    }
}

/// The magnetisation curves of a few positions, and torque over position for a few currents.
void add_curves(Answer& answer, const LinkageMap& map, const WholePeriod& period) {
    const LinkageGrid& grid = map.grid();
    const double half = grid.period / 2;
    for (int part = 4; part >= 0; --part) {
        const double angle = -half * part / 4;
        Curve curve{part == 0   ? "linkage_aligned"
                    : part == 4 ? "linkage_unaligned"
                                : fmt::format("linkage_at_{:.4g}_deg", angle * 180 / pi),
                    "Wb",
                    "current",
                    "A",
                    {},
                    {}};
        for (int k = 0; k <= 100; ++k) {
            curve.x.push_back(map.largest_current() * k / 100);
            curve.y.push_back(map.at(angle, curve.x.back()).linkage);
        }
        answer.curves.push_back(std::move(curve));
    }
    const auto count = Eigen::Index(grid.current.size()), step = std::max<Eigen::Index>(1, count / 5);
    for (Eigen::Index k = count - 1; k >= 0; k -= step) {
        answer.curves.push_back({fmt::format("torque_at_{:.4g}_A", grid.current[std::size_t(k)]), "N.m",
                                 "rotor_angle", "deg", period.degrees, period.along(grid.torque, k, true)});
        auto inductance = period.along(grid.linkage, k);
        for (double& l : inductance) l /= grid.current[std::size_t(k)];
        answer.curves.push_back({fmt::format("inductance_at_{:.4g}_A", grid.current[std::size_t(k)]), "H",
                                 "rotor_angle", "deg", period.degrees, std::move(inductance)});
    }
}

void add_figures(Answer& answer, const Machine& m, const LinkageMap& map) {
    const double half = map.grid().period / 2, low = map.grid().current.front(), rated = m.rating.current;
    const auto inductance = [&](double angle, double current) {
        return map.at(angle, current).linkage / current;
    };
    double peak = 0;
    for (int k = 0; k <= 400; ++k) peak = std::max(peak, map.at(-half * k / 400, rated).torque);
    double mutual = 0;
    for (const auto& other : map.grid().others)
        mutual = std::max(mutual, other.row(0).cwiseAbs().maxCoeff() / low);
    const double energy = map.at(0, rated).coenergy - map.at(-half, rated).coenergy;
    answer.figures = {
        {"inductance_aligned", inductance(0, low), "H"},
        {"inductance_unaligned", inductance(-half, low), "H"},
        {"inductance_ratio", inductance(0, low) / inductance(-half, low), "1"},
        {"inductance_aligned_rated", rated > 0 ? std::optional(inductance(0, rated)) : std::nullopt, "H"},
        {"inductance_unaligned_rated", rated > 0 ? std::optional(inductance(-half, rated)) : std::nullopt, "H"},
        {"mutual_inductance_largest", mutual, "H"},
        {"static_torque_peak", peak, "N.m"},
        {"energy_between_rated", energy, "J"},
        {"torque_at_most", energy * m.winding.phases * m.pole_pairs() / (2 * pi), "N.m"},
        {"aligned_angle", phase_axis(m.winding.layout) * 180 / pi, "deg"}};
    answer.sentence = fmt::format(
        "Aligned a phase has {:.4g} mH, unaligned {:.4g} mH ({:.3g} to one) at {:.3g} A; at {:.4g} A, alone, "
        "it "
        "pulls with {:.4g} N·m at most, and the area between its two curves allows {:.4g} N·m on average. "
        "The end turns' leakage is left out.",
        1e3 * inductance(0, low), 1e3 * inductance(-half, low), inductance(0, low) / inductance(-half, low),
        low, rated, peak, energy * m.winding.phases * m.pole_pairs() / (2 * pi));
}

Problems run(QuestionContext& c) {
    const auto model = prepare_model(c);
    if (!model) return model.problems();
    const auto currents = currents_of(c.machine, c.inputs);
    if (currents.front() <= 0 || currents.size() < 2)
        return {{"--with currents", "Two currents above zero are needed at least."}};
    auto grid = solve_linkage_grid(*model, linkage_angles(c.machine, int(c.input("points"))), currents,
                                   c.points, c.threads, c.watch, c.answer.effort);
    if (!grid) return grid.problems();
    const LinkageMap map(std::move(*grid));
    const WholePeriod period(map.grid());
    add_figures(c.answer, c.machine, map);
    add_curves(c.answer, map, period);
    add_maps(c.answer, map.grid(), period);
    return {};
}

std::vector<QuestionInput> inputs() {
    QuestionInput currents =
        auto_list_input("currents", "Currents", "A",
                        "from:to:step in A, above zero; auto: 20 up to the largest current.", 0, 1e6);
    currents.percent_of = "rating.max_current";
    return {currents,
            {"points", "Positions", "", "31", "Rotor positions from unaligned to aligned.", 5, 721, true}};
}

const RegisterQuestion registered{
    {"linkage-curves",
     "With current",
     "Linkage curves",
     "Flux linkage, torque and coenergy of one switched phase over current and position from its aligned one.",
     inputs(),
     solves,
     run,
     38,
     {need_winding, need_switched},
     false,
     true}};

} // namespace
} // namespace mavlo::question_linkage_curves
