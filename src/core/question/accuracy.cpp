#include "question/accuracy.h"

#include "mesh/refinement.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace mavlo {
namespace {

/// A promise is taken as kept when the estimate is within this share of it. Between the trial's few positions a
/// waveform may be worse; means and flux linkages are not, and their errors add up without cancelling.
constexpr double safe_waveform = 0.6, safe_mean = 0.9;
/// Of what triangles add without their signs, the part that their estimates may be wrong by: where errors of
/// opposite signs nearly cancel, their sum alone says too little.
constexpr double doubt = 0.2;

/// How far the estimated errors of all promised figures are from being small enough.
struct Judgement {
    double share = 0; ///< the worst figure's error over what is promised
    double need = 0;  ///< the same over what is taken as safe
    TileErrors where; ///< of each triangle what it has in that need
    Leftover left;
};

void add(TileErrors& to, const TileErrors& from, double scale) {
    to.resize(from.size());
    for (std::size_t body = 0; body < to.size(); ++body) {
        to[body].resize(from[body].size(), 0.0);
        for (std::size_t t = 0; t < to[body].size(); ++t) to[body][t] += scale * from[body][t];
    }
}

class Judge {
  public:
    Judge(const TrialFields& fields, const Promise& promise)
        : m_fields(fields)
        , m_promise(promise) {}

    Judgement run() {
        const double n = double(m_fields.loaded.size());
        double mean = 0, cogging = 0, ripple = 0, linkage = 0;
        TileErrors mean_error;
        for (const Found& f : m_fields.loaded) {
            mean += f.torque / n;
            add(mean_error, f.torque_error, 1 / n);
        }
        for (const Found& f : m_fields.loaded) {
            ripple = std::max(ripple, std::abs(f.torque - mean));
            linkage = std::max(linkage, std::abs(f.linkage));
        }
        for (const Found& f : m_fields.idle) {
            cogging = std::max(cogging, std::abs(f.torque));
            linkage = std::max(linkage, std::abs(f.linkage));
        }
        // Of a waveform too small to be promised as much is asked as serves to see that it is small.
        const double least = least_waveform * std::abs(mean);
        const auto allowed = [&](double peak) {
            return peak >= least ? m_promise.waveform * peak
                                 : std::max(m_promise.waveform, small_enough) * least;
        };
        for (const Found& f : m_fields.idle) {
            judge(f.torque_error, allowed(cogging), safe_waveform, m_out.left.cogging);
            judge(f.linkage_error, m_promise.mean * linkage, safe_mean, m_out.left.linkage);
        }
        for (const Found& f : m_fields.loaded) {
            TileErrors about = f.torque_error;
            add(about, mean_error, -1);
            judge(about, allowed(ripple), safe_waveform, m_out.left.ripple);
            judge(f.linkage_error, m_promise.mean * linkage, safe_mean, m_out.left.linkage);
        }
        judge(mean_error, m_promise.mean * std::abs(mean), safe_mean, m_out.left.mean_torque);
        return std::move(m_out);
    }

  private:
    static constexpr double least_waveform = 1e-3; ///< of the mean torque: smaller ones are not promised
    static constexpr double small_enough = 0.03;   ///< of that

    void judge(const TileErrors& errors, double allowed, double safe, double& left) {
        if (!(allowed > 0)) return;
        double sum = 0, absolute = 0;
        for (const auto& body : errors)
            for (double e : body) {
                sum += e / allowed;
                absolute += std::abs(e) / allowed;
            }
        if (absolute == 0) return;
        const double estimate = std::abs(sum) + doubt * absolute, need = estimate / safe;
        m_out.share = std::max(m_out.share, estimate);
        left = std::max(left, estimate * allowed);
        m_out.need = std::max(m_out.need, need);
        m_out.where.resize(errors.size());
        for (std::size_t body = 0; body < errors.size(); ++body) {
            auto& where = m_out.where[body];
            where.resize(errors[body].size(), 0.0);
            for (std::size_t t = 0; t < where.size(); ++t)
                where[t] = std::max(where[t], need * std::abs(errors[body][t]) / (allowed * absolute));
        }
    }

    const TrialFields& m_fields;
    Promise m_promise;
    Judgement m_out;
};

/// What a round aims at, and the least it shall gain.
constexpr double aim = 1.3, least_gain = 0.8;
constexpr double smallest_factor = 0.3;
constexpr int most_rounds = 6;
constexpr std::size_t most_elements = 40000; ///< of a sector: beyond these the estimate says what is left
/// Of the mesh to begin with: what needs no finer triangles then has none. Draft's are coarse enough; the
/// trial's fields see neither how deep a shell's or a bar's currents go nor the small currents of a switched
/// phase.
double first_coarseness(const Machine& machine, Quality quality) {
    const Facts facts = machine.facts();
    return quality == Quality::Draft || facts.induced || facts.switched ? 1 : 1.3;
}

/// What all triangles together should have, so that the need is met.
double wanted_sum(const Judgement& judgement) {
    double sum = 0;
    for (const auto& body : judgement.where)
        for (double share : body) sum += share;
    return sum * std::min(least_gain, aim / judgement.need);
}

/// Hints of one section's tile on another's, whose lines are the same but for where they stand along the gap:
/// places between two corners stay between them, in proportion.
std::vector<SizeHint> moved_hints(const Tile& from, const Tile& to) {
    std::map<double, double> along; // of every corner, before and after
    const auto &before = from.outline.points, &after = to.outline.points;
    if (before.size() == after.size())
        for (std::size_t k = 0; k < before.size(); ++k) along[before[k].y] = after[k].y;
    along[from.chart.flat * from.first_angle()] = to.chart.flat * to.first_angle();
    along[from.chart.flat * from.half_pitch()] = to.chart.flat * to.half_pitch();
    std::vector<SizeHint> out;
    for (SizeHint hint : from.hints) {
        auto high = along.lower_bound(hint.at.y);
        if (high == along.begin()) ++high;
        if (high == along.end()) --high;
        const auto low = std::prev(high);
        hint.at.x += to.chart.flat - from.chart.flat;
        hint.at.y =
            low->second + (hint.at.y - low->first) * (high->second - low->second) / (high->first - low->first);
        out.push_back(hint);
    }
    return out;
}

} // namespace

Promise promise_of(Quality quality) {
    return quality == Quality::Draft    ? Promise{0.05, 0.005}
           : quality == Quality::Normal ? Promise{0.01, 0.001}
                                        : Promise{0.002, 0.0002};
}

Result<Sizing> find_sizing(Machine machine, Quality quality, const Promise& promise, int threads,
                           const Watch& watch) {
    Sizing out;
    machine.slices.clear(); // sections of one machine are meshed alike
    const Trial trial = trial_of(machine, promise.whole_range());
    if (!trial.empty()) out.coarseness = first_coarseness(machine, quality);
    for (Body& body : machine.section.bodies) body.tile.coarseness = out.coarseness;
    for (int round = 0; !trial.empty() && round < most_rounds; ++round) {
        const auto model = prepare_field(machine, {quality});
        if (!model) return model.problems();
        const auto fields = try_mesh(*model, trial, threads, watch);
        if (!fields) return fields.problems();
        out.solves += int(trial.idle.size() + trial.loaded.size());
        const Judgement judgement = Judge(*fields, promise).run();
        out.share = judgement.share;
        out.left = judgement.left;
        if (judgement.need <= 1) break;
        if ((*model)->elements.size() > most_elements || round + 1 == most_rounds) break;
        const auto factors = size_factors(judgement.where, wanted_sum(judgement), smallest_factor);
        for (std::size_t b = 0; b < factors.size(); ++b) {
            Body& body = machine.section.bodies[b];
            body.tile =
                refined(body.tile, tile_triangles(body, (*model)->meshes[b]), factors[b], size_factor(quality));
        }
    }
    for (const Body& body : machine.section.bodies) out.hints.push_back(body.tile.hints);
    return out;
}

Machine sized(Machine machine, const Sizing& sizing) {
    for (std::size_t b = 0; b < sizing.hints.size(); ++b)
        machine.section.bodies[b].tile.hints = sizing.hints[b];
    for (Body& body : machine.section.bodies) body.tile.coarseness = sizing.coarseness;
    for (Section& slice : machine.slices)
        for (std::size_t b = 0; b < slice.bodies.size(); ++b) {
            Tile& tile = slice.bodies[b].tile;
            tile.coarseness = sizing.coarseness;
            if (b < sizing.hints.size()) tile.hints = moved_hints(machine.section.bodies[b].tile, tile);
        }
    return machine;
}

} // namespace mavlo
