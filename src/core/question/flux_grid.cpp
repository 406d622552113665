#include "question/flux_grid.h"

#include "figure/magnet_field.h"
#include "question/period.h"
#include "question/skewed_maps.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <mutex>

namespace mavlo {
namespace {

/// To the nanoampere, so that the same current of two ranges is the same key.
double rounded(double current) {
    return std::round(current * 1e9) / 1e9 + 0.0;
}

/// Points as they are kept: the numbers of their means, and then those of their waves without the currents.
std::string store_kind(int points) {
    return fmt::format("flux-{}", points);
}
std::size_t columns_of(int points) {
    return FluxPoint::columns + PositionWaves::columns(orders_of(points)) - 2;
}

std::vector<double> row_of(const FluxPoint& point, const PositionWaves& waves) {
    std::vector<double> row = point.row();
    const std::vector<double> more = waves.row();
    row.insert(row.end(), more.begin() + 2, more.end());
    return row;
}

PositionWaves waves_of(const std::vector<double>& row) {
    std::vector<double> numbers{row[0], row[1]};
    numbers.insert(numbers.end(), row.begin() + FluxPoint::columns, row.end());
    return PositionWaves::from_row(numbers);
}

PositionWaves position_waves(const Machine& machine, Dq current, const std::vector<PositionResult>& period) {
    std::vector<double> d, q, zero, torque;
    for (const PositionResult& r : period) {
        const Dq psi =
            to_dq(r.flux_linkage, electrical_angle(machine, r.position.angle), machine.winding.layout.lags);
        d.push_back(psi.d);
        q.push_back(psi.q);
        zero.push_back(mean(r.flux_linkage));
        torque.push_back(r.torque);
    }
    const double start = electrical_angle(machine, period.front().position.angle);
    const auto harmonics = [&, orders = orders_of(int(period.size()))](const std::vector<double>& values) {
        return harmonics_over_position(values, start, orders);
    };
    return {current, harmonics(d), harmonics(q), harmonics(zero), harmonics(torque)};
}

/// Points that are not in the store, along the rows to and fro.
std::vector<Dq> missing(const FluxGrid& grid, const PointStore::Rows& known) {
    std::vector<Dq> tasks;
    const std::size_t nx = grid.id.size();
    for (std::size_t j = 0; j < grid.iq.size(); ++j)
        for (std::size_t k = 0; k < nx; ++k) {
            const std::size_t i = j % 2 ? nx - 1 - k : k;
            const Dq current{rounded(grid.id[i]), rounded(grid.iq[j])};
            if (!known.contains({current.d, current.q})) tasks.push_back(current);
        }
    return tasks;
}

/// Gathers the fields of each point while they are solved, and makes the point once it has them all.
class Gathering {
  public:
    Gathering(const MachineModel& model, const std::vector<Dq>& tasks, int points, const PointStore& store)
        : m_model(model)
        , m_tasks(tasks)
        , m_points(points)
        , m_needed(std::size_t(period_solves(model.machine, points)))
        , m_part(m_needed < std::size_t(points) ? model.machine.symmetry.part : std::nullopt)
        , m_store(store)
        , m_open(tasks.size())
        , m_done(tasks.size()) {
        const std::size_t most = side_by_side(m_needed * std::size_t(model.unknowns()));
        for (std::size_t from = 0; from < tasks.size(); from += most)
            add_block(from, std::min(from + most, tasks.size()));
    }

    const std::vector<Position>& positions() const { return m_positions; }

    void add(std::size_t place, const FieldSolution& field) {
        const auto [task, at] = m_places[place];
        Open complete;
        {
            const std::lock_guard lock(m_mutex);
            Open& open = m_open[task];
            open.potentials.resize(m_needed);
            open.results.resize(m_needed);
            open.potentials[at] = field.potential;
            open.results[at] = {m_positions[place], field.torque, field.flux_linkage, 0, 0};
            if (++open.count < m_needed) return;
            complete = std::move(open);
            open = {};
        }
        finish(task, complete);
    }

    const std::vector<double>& row(std::size_t task) const { return m_done[task]; }

  private:
    /// Points that are open at a time, of so many potentials each: the more, the nearer fields begin to their
    /// neighbours; a stop loses them, some ten seconds of two cores.
    static std::size_t side_by_side(std::size_t potentials) {
        constexpr std::size_t most_open = 13'000'000; // 100 MB
        return std::clamp<std::size_t>(most_open / potentials, 11, 128);
    }

    struct Open {
        std::vector<std::vector<double>> potentials;
        std::vector<PositionResult> results;
        std::size_t count = 0;
    };

    std::vector<Position> period(std::size_t task) const {
        return electrical_period(m_model.machine, m_points, m_tasks[task]);
    }
    /// Currents side by side at one position of the rotor, then the next, to and fro: at one angle the fields
    /// of neighbouring currents lie close to a curve, and the gap's front need not be taken anew.
    void add_block(std::size_t from, std::size_t to) {
        std::vector<std::vector<Position>> periods;
        for (std::size_t t = from; t < to; ++t) periods.push_back(period(t));
        for (std::size_t k = 0; k < m_needed; ++k)
            for (std::size_t i = 0; i < to - from; ++i) {
                const std::size_t t = k % 2 ? to - 1 - i : from + i;
                m_positions.push_back(periods[t - from][k]);
                m_places.emplace_back(t, k);
            }
    }

    void finish(std::size_t task, const Open& open) {
        const auto results = m_part ? unfolded(open.results, period(task), *m_part) : open.results;
        const Dq current = m_tasks[task];
        m_done[task] =
            row_of(flux_point(m_model, current, results, make_loci(m_model, open.potentials, m_part)),
                   position_waves(m_model.machine, current, results)); // each task's own place
        m_store.append(store_kind(m_points), m_done[task]);
    }

    const MachineModel& m_model;
    const std::vector<Dq>& m_tasks;
    int m_points;
    std::size_t m_needed;
    std::optional<PeriodPart> m_part; ///< empty: whole periods are solved
    const PointStore& m_store;
    std::vector<Position> m_positions;
    std::vector<std::pair<std::size_t, std::size_t>> m_places; ///< of each position: its task, and which it is
    std::mutex m_mutex;                                        // guards what is open
    std::vector<Open> m_open;
    std::vector<std::vector<double>> m_done;
};

GridMaps from_rows(const FluxGrid& grid, const PointStore::Rows& rows) {
    std::vector<FluxPoint> points;
    std::vector<PositionWaves> waves;
    for (double iq : grid.iq)
        for (double id : grid.id) {
            const std::vector<double>& row = rows.at({rounded(id), rounded(iq)});
            points.push_back(FluxPoint::from_row(row));
            waves.push_back(waves_of(row));
        }
    return {FluxMap(grid.id, grid.iq, std::move(points)), PositionMap(grid.id, grid.iq, waves)};
}

/// The maps of a stack from those of one of its slices.
GridMaps of_stack(const Machine& machine, const FluxGrid& grid, GridMaps slice) {
    if (machine.skew.none()) return slice;
    return skewed_maps(slice, grid.id, grid.iq, grid.points, machine.skew, machine.pole_pairs());
}

} // namespace

FluxGrid standard_grid(double most, int steps, CurrentPlane plane) {
    FluxGrid grid;
    for (int i = -steps; i <= (plane.positive_d ? steps : 0); ++i) grid.id.push_back(most * i / steps);
    for (int i = plane.mirrored ? 0 : -steps; i <= steps; ++i) grid.iq.push_back(most * i / steps);
    return grid;
}

FluxPoint flux_point(const MachineModel& model, Dq current, const std::vector<PositionResult>& period,
                     const Loci& loci) {
    FluxPoint point;
    point.current = current;
    const PeriodSeries series = period_series(period);
    point.flux_linkage = mean_flux_linkage(model.machine, series);
    point.torque = mean(series.torque);
    point.ripple = peak_to_peak(series.torque);
    const FieldLosses losses = field_losses(model, loci);
    point.iron_stator = losses.stator;
    point.iron_rotor = losses.rotor;
    point.magnets = losses.magnets + losses.shaft;
    point.magnet_field = exceeded_by_all_but(magnet_elements(model, loci.rotor), 0.01);
    point.strands = losses.strands.value_or(0);
    const double rated = electrical_frequency(model.machine, model.machine.rating.speed),
                 iron = losses.iron(rated);
    if (iron > 0) point.extrapolated = losses.beyond.at(rated) / iron;
    const auto common = common_waves(series);
    if (common.size() > 3) point.third = std::abs(common[3]);
    if (common.size() > 9) point.ninth = std::abs(common[9]);
    return point;
}

FluxGrid solved_grid(const Machine& machine, const FluxGrid& grid) {
    if (machine.skew.none()) return grid;
    double most = 0;
    for (const auto* list : {&grid.id, &grid.iq})
        for (double i : *list) most = std::max(most, std::abs(i));
    const auto above = std::count_if(grid.iq.begin(), grid.iq.end(), [](double i) { return i > 0; });
    FluxGrid slice = standard_grid(most, std::max(4, int(above)), {true, machine.symmetry.mirrored});
    slice.points = grid.points;
    return slice;
}

int grid_solves(const Machine& machine, const FluxGrid& grid) {
    const FluxGrid solved = solved_grid(machine, grid);
    return int(solved.id.size() * solved.iq.size()) * period_solves(machine, solved.points);
}

std::optional<GridMaps> kept_grid_maps(const Machine& machine, const FluxGrid& grid, const PointStore& store) {
    const FluxGrid solved = solved_grid(machine, grid);
    const auto known = store.read(store_kind(grid.points), 2, columns_of(grid.points));
    if (!missing(solved, known).empty()) return std::nullopt;
    return of_stack(machine, grid, from_rows(solved, known));
}

Result<GridMaps> solve_grid_maps(const std::shared_ptr<const MachineModel>& model, const FluxGrid& wanted,
                                 const PointStore& store, int threads, const Watch& watch, Effort& effort) {
    const FluxGrid grid = solved_grid(model->machine, wanted);
    const auto known = store.read(store_kind(grid.points), 2, columns_of(grid.points));
    const std::vector<Dq> tasks = missing(grid, known);
    Gathering gathering(*model, tasks, grid.points, store);
    const auto solved =
        sweep(model, gathering.positions(), threads, watch,
              [&](std::size_t place, const FieldSolution& field) { gathering.add(place, field); });
    if (!solved) return solved.problems();
    for (const auto& r : *solved) effort.newton_steps += r.newton_steps;
    effort.solves += int(solved->size());
    PointStore::Rows rows = known;
    for (std::size_t t = 0; t < tasks.size(); ++t) rows[{tasks[t].d, tasks[t].q}] = gathering.row(t);
    return of_stack(model->machine, wanted, from_rows(grid, rows));
}

Result<FluxMap> solve_flux_map(const std::shared_ptr<const MachineModel>& model, const FluxGrid& grid,
                               const PointStore& store, int threads, const Watch& watch, Effort& effort) {
    auto maps = solve_grid_maps(model, grid, store, threads, watch, effort);
    if (!maps) return maps.problems();
    return std::move(maps->mean);
}

} // namespace mavlo
