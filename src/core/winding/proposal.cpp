#include "winding/proposal.h"

#include "quantity/constants.h"
#include "winding/balance.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <numeric>

namespace mavlo {
namespace {

struct Belt {
    int phase, sign;
};

/// The phase whose axis lies `share` shares of half a turn ahead, and in which sense.
Belt belt_at(int share, const std::vector<double>& lags) {
    const int phases = int(lags.size());
    for (int k = 0; k < phases; ++k) {
        const double shares = lags[std::size_t(k)] * phases / pi;
        for (int sign : {1, -1})
            if (std::abs(std::remainder(shares + (sign < 0 ? phases : 0) - share, 2.0 * phases)) < 1e-6)
                return {k, sign};
    }
    return {0, 1};
}

/// Phase and sign of each phasor of a star in which item j of `count` stands at the electrical angle
/// 360 p j/count. Phasors are folded on half a turn (an opposite one is taken with reversed sign) and dealt to
/// as many belts as there are phases (three: U, -W, V of 60 degrees each). Empty when they cannot be dealt
/// evenly.
std::vector<Belt> deal(int count, int pole_pairs, const std::vector<double>& lags) {
    const int phases = int(lags.size());
    const int spokes = count / std::gcd(count, pole_pairs); // distinct phasors
    const int axes = spokes % 2 ? spokes : spokes / 2;
    if (axes % phases != 0) return {};
    const int turns = pole_pairs / std::gcd(count, pole_pairs);
    std::vector<Belt> belts;
    for (int j = 0; j < count; ++j) {
        // angle in units of half a turn / spokes, so that everything stays whole
        const int angle = int((2LL * j * turns) % (2LL * spokes));
        const int sign = angle < spokes ? 1 : -1;
        const int folded = angle % spokes; // 0 … spokes-1 means 0 … 180 deg
        const int axis = spokes % 2 ? folded : folded / 2;
        const Belt belt = belt_at(axis / (axes / phases), lags);
        belts.push_back({belt.phase, sign * belt.sign});
    }
    return belts;
}

bool is_possible(int phases) {
    return phases >= 1 && phases <= 9 && phases != 8;
}

/// What a pole coil round every tooth asks of slots and poles: all coils of a phase aligned at once, the phases
/// one after the other by equal steps (T.J.E. Miller, Switched Reluctance Motors and Their Control, 1993).
Problems check_pole_coils(const WindingInput& in) {
    Problems problems;
    if (in.layers != 2)
        problems.push_back(
            {"winding.layers", "Coils round every pole lie in two layers, two sides in a slot."});
    if (in.span > 1) problems.push_back({"winding.span", "Coils round every pole have a span of 1."});
    if (in.phases < 2) problems.push_back({"winding.phases", "Phases that are switched are two at least."});
    if (!problems.empty()) return problems;
    const int m = in.phases;
    if (in.slots % (2 * m)) {
        const int below = in.slots / (2 * m) * 2 * m;
        return {
            {"stator.slots",
             fmt::format("{} stator poles cannot give each of {} phases pairs of poles; take {}.", in.slots, m,
                         below > 0 ? fmt::format("{} or {}", below, below + 2 * m) : std::to_string(2 * m))}};
    }
    const int step = in.poles * m / in.slots; // electrical turns between coils of one phase
    if (in.poles * m % in.slots == 0 && std::gcd(step, m) == 1) return {};
    std::vector<int> fit;
    for (int poles = 2; poles <= 2 * in.slots; poles += 2)
        if (poles * m % in.slots == 0 && std::gcd(poles * m / in.slots, m) == 1) fit.push_back(poles);
    std::sort(fit.begin(), fit.end(), [&](int a, int b) {
        return std::pair(std::abs(a - in.poles), a) < std::pair(std::abs(b - in.poles), b);
    });
    fit.resize(std::min<std::size_t>(fit.size(), 3));
    std::sort(fit.begin(), fit.end());
    return {{"rotor.poles",
             fmt::format("{} rotor poles do not step evenly past {} stator poles of {} phases; {} do.",
                         in.poles, in.slots, m, fmt::join(fit, " or "))}};
}

Problems check(const WindingInput& in) {
    Problems problems;
    if (!is_possible(in.phases))
        problems.push_back(
            {"winding.phases",
             fmt::format("{} phases are wanted; 1, 2, 3, 4, 5, 6, 7 and 9 are possible.", in.phases)});
    if (in.slots < in.phases)
        problems.push_back(
            {"stator.slots", fmt::format("At least {} slots are needed for {} phases.", in.phases, in.phases)});
    if (in.poles < 2 || in.poles % 2)
        problems.push_back({"rotor.poles", "The number of poles must be even and at least 2."});
    if (in.layers != 1 && (in.layers < 1 || in.layers % 2 || in.layers > 8))
        problems.push_back({"winding.layers", "A winding has one layer, or two, four, six or eight."});
    if (in.span < 0 || (in.span >= in.slots && in.slots > 0))
        problems.push_back(
            {"winding.span", fmt::format("The coil span must lie between 1 and {} slots.", in.slots - 1)});
    if (in.form == WindingForm::Concentric && in.layers != 1)
        problems.push_back(
            {"winding.form", "Concentric coils lie in one layer; take one layer, or lap coils."});
    if (in.form == WindingForm::Pole && problems.empty()) return check_pole_coils(in);
    if (in.layer_shift != 0 && in.layers < 4)
        problems.push_back({"winding.layer_shift", "Pairs of layers are turned against each other from four "
                                                   "layers on."});
    return problems;
}

/// Neighbouring coils of a phase are wound in opposite senses, so that their poles are north and south in turn.
WindingLayout pole_coils(WindingInput in) {
    in.span = 1;
    WindingLayout layout;
    layout.input = in;
    for (int j = 0; j < in.slots; ++j) {
        const int phase = j % in.phases, round = j / in.phases;
        const bool reversed = (round + (in.alternate ? phase : 0)) % 2 == 1;
        layout.coils.push_back({phase, reversed ? -1 : 1, {j, 1}, {(j + 1) % in.slots, 0}, 1});
    }
    layout.lags = switched_lags(layout);
    return layout;
}

/// One try of a layout: what it needs, found step by step.
class Proposal {
  public:
    explicit Proposal(const WindingInput& wanted)
        : m_in(wanted) {}

    Result<WindingLayout> run() {
        if (auto problems = check(m_in); !problems.empty()) return problems;
        if (m_in.set_shift && m_in.phases != 6 && m_in.phases != 9)
            return Problem{"winding.phases",
                           "Sets that are shifted have three phases each: six phases or nine."};
        if (m_in.form == WindingForm::Pole) return pole_coils(m_in);
        m_layout.lags = phase_lags(m_in.phases, m_in.set_shift);
        if (const auto problem = choose_star()) return *problem;
        choose_span();
        make_coils();
        if (m_layout.coils.empty() || !even()) return uneven();
        if (m_sets > 1 && !split_sets()) return no_sets();
        m_layout.input = m_in;
        if (const int p = m_in.poles / 2; std::abs(winding_factor(m_layout, p)) < 1e-6)
            return Problem{
                "winding.span",
                fmt::format("With a span of {} slots the coils link no flux of the {} poles; take {}.",
                            m_in.span, m_in.poles, full_pitch_span(m_in.slots, m_in.poles))};
        return m_layout;
    }

  private:
    /// Sets whose axes coincide are dealt as one set of three phases.
    std::optional<Problem> choose_star() {
        m_star = m_layout.lags;
        std::vector<double> axes;
        for (double lag : m_star) axes.push_back(std::remainder(lag, pi));
        std::sort(axes.begin(), axes.end());
        const double even_step = pi / m_in.phases;
        bool even = true, coincide = true;
        for (std::size_t k = 1; k < axes.size(); ++k)
            even = even && std::abs(axes[k] - axes[k - 1] - even_step) < 1e-6;
        for (double lag : m_star) coincide = coincide && std::abs(std::remainder(3 * lag, pi)) < 1e-6;
        if (even) return std::nullopt;
        if (!coincide) {
            const double usual = 180.0 / m_in.phases;
            return Problem{
                "winding.set_shift",
                fmt::format("Sets {:.4g}° apart have no evenly dealt belts; with {} phases 0°, {:.4g}° "
                            "and 60° do.",
                            *m_in.set_shift * 180 / pi, m_in.phases, usual)};
        }
        m_sets = m_in.phases / 3;
        m_star = phase_lags(3);
        return std::nullopt;
    }

    int phases() const { return int(m_star.size()); }

    void choose_span() {
        if (m_in.form == WindingForm::Ring) {
            m_in.span = 0;
            return;
        }
        if (m_in.span != 0) return;
        m_in.span = full_pitch_span(m_in.slots, m_in.poles);
        if (m_in.layers == 1 && m_in.span % 2 == 0 && m_in.slots % m_in.poles != 0) --m_in.span;
        m_in.span = std::max(1, m_in.span);
    }

    void make_coils() {
        const int p = m_in.poles / 2, slots = m_in.slots;
        if (m_in.form == WindingForm::Ring) return ring_coils(deal(slots, p, m_star));
        if (m_in.layers > 1) return coils_in_every_slot(deal(slots, p, m_star));
        m_layout.sharing = SlotSharing::Whole;
        if (slots % 2 == 0 && m_in.form == WindingForm::Lap) {
            if (m_in.span % 2 == 1)
                coils_in_alternate_slots(deal(slots / 2, p, m_star));
            else
                coils_from_slot_belts(deal(slots, p, m_star));
        }
        if (m_in.form == WindingForm::Concentric) concentric_coils(deal(slots, p, m_star));
        // Where every slot cannot be filled evenly, some stay empty.
        if (m_in.form == WindingForm::Lap && (m_layout.coils.empty() || !even()))
            coils_with_gaps(deal(slots, p, m_star));
    }

    void add(Belt belt, CoilSide go, CoilSide back) {
        m_layout.coils.push_back({belt.phase, belt.sign, go, back, 1});
    }

    /// Single layer with an odd span: the coils begin in every other slot, and the star is that of the coils.
    void coils_in_alternate_slots(const std::vector<Belt>& belts) {
        if (belts.empty()) return;
        for (int j = 0; j < m_in.slots; j += 2)
            add(belts[std::size_t(j / 2)], {j, 0}, {(j + m_in.span) % m_in.slots, 0});
    }

    /// Single layer with an even span: slots are dealt to belts, and each positive side is joined to the next
    /// negative side of its phase.
    void coils_from_slot_belts(const std::vector<Belt>& belts) {
        if (belts.empty()) return;
        for (int phase = 0; phase < phases(); ++phase) {
            const auto [go, back] = sides_of(belts, phase);
            if (go.size() != back.size() || go.empty()) return m_layout.coils.clear();
            const auto first = std::upper_bound(back.begin(), back.end(), go.front()) - back.begin();
            for (std::size_t i = 0; i < go.size(); ++i)
                add({phase, 1}, {go[i], 0}, {back[(std::size_t(first) + i) % back.size()], 0});
        }
    }

    std::pair<std::vector<int>, std::vector<int>> sides_of(const std::vector<Belt>& belts, int phase) const {
        std::vector<int> go, back;
        for (int j = 0; j < m_in.slots; ++j)
            if (belts[std::size_t(j)].phase == phase) (belts[std::size_t(j)].sign > 0 ? go : back).push_back(j);
        return {go, back};
    }

    /// Runs of neighbouring positive sides are joined to the run of negative ones that follows, the last with
    /// the first.
    void concentric_coils(const std::vector<Belt>& belts) {
        if (belts.empty()) return;
        const int slots = m_in.slots;
        for (int phase = 0; phase < phases(); ++phase) {
            const auto side = [&](int j) {
                const Belt& b = belts[std::size_t(((j % slots) + slots) % slots)];
                return b.phase == phase ? b.sign : 0;
            };
            std::vector<int> open; // positive sides that wait
            int start = 0;
            while (start < slots && !(side(start) > 0 && side(start - 1) <= 0)) ++start;
            for (int j = start; j < start + slots; ++j) {
                if (side(j) > 0) open.push_back(j % slots);
                if (side(j) >= 0) continue;
                if (open.empty()) return m_layout.coils.clear();
                add({phase, 1}, {open.back(), 0}, {j % slots, 0});
                open.pop_back();
            }
            if (!open.empty()) return m_layout.coils.clear();
        }
    }

    /// A coil in every slot whose back side finds its slot free, as many of each phasor's class as of the
    /// others.
    void coils_with_gaps(const std::vector<Belt>& belts) {
        m_layout.coils.clear();
        if (belts.empty()) return;
        const int slots = m_in.slots, spokes = slots / std::gcd(slots, m_in.poles / 2),
                  most = slots / (2 * spokes);
        for (int each = most; each >= 1; --each) {
            std::vector<int> taken(std::size_t(slots), 0), count(std::size_t(spokes), 0);
            std::vector<Coil> coils;
            for (int j = 0; j < slots; ++j) {
                const int back = (j + m_in.span) % slots, kind = j % spokes;
                if (count[std::size_t(kind)] >= each || taken[std::size_t(j)] || taken[std::size_t(back)])
                    continue;
                taken[std::size_t(j)] = taken[std::size_t(back)] = 1;
                ++count[std::size_t(kind)];
                const Belt belt = belts[std::size_t(j)];
                coils.push_back({belt.phase, belt.sign, {j, 0}, {back, 0}, 1});
            }
            if (std::any_of(count.begin(), count.end(), [&](int n) { return n != each; })) continue;
            m_layout.coils = coils;
            return;
        }
    }

    /// A coil leaves from the inner layer of every slot; of tooth coils it is the half next to the tooth that
    /// it goes round. Further pairs of layers lie on top.
    void coils_in_every_slot(const std::vector<Belt>& belts) {
        m_layout.sharing = m_in.span == 1 && m_in.layers == 2 ? SlotSharing::SideBySide : SlotSharing::Stacked;
        if (belts.empty()) return;
        for (int pair = 0; pair < m_in.layers / 2; ++pair)
            for (int j = 0; j < m_in.slots; ++j) {
                const int slot = (j + pair * m_in.layer_shift) % m_in.slots;
                add(belts[std::size_t(j)], {slot, 2 * pair + 1}, {(slot + m_in.span) % m_in.slots, 2 * pair});
            }
    }

    void ring_coils(const std::vector<Belt>& belts) {
        m_layout.sharing = m_in.layers == 1 ? SlotSharing::Whole : SlotSharing::Stacked;
        if (belts.empty()) return;
        for (int layer = 0; layer < m_in.layers; ++layer)
            for (int j = 0; j < m_in.slots; ++j) add(belts[std::size_t(j)], {j, layer}, {outside_core, 0});
    }

    bool even() const {
        std::vector<int> count(m_star.size(), 0);
        for (const Coil& coil : m_layout.coils) ++count[std::size_t(coil.phase)];
        return std::all_of(count.begin(), count.end(), [&](int n) { return n == count[0] && n > 0; });
    }

    /// Coils that see the same voltage are dealt to the sets, so many after each other to each.
    bool split_sets() {
        WindingLayout three = m_layout;
        three.input = m_in;
        three.input.phases = 3;
        three.lags = m_star;
        for (int star_phase = 0; star_phase < 3; ++star_phase) {
            const ParallelPaths parts = parallel_paths(three, star_phase, m_sets);
            if (!parts.alike) return false;
            for (int set = 0; set < m_sets; ++set)
                for (int coil : parts.coils[std::size_t(set)])
                    give_to_set(m_layout.coils[std::size_t(coil)], set);
        }
        return true;
    }

    /// The phase of this set whose axis is the coil's, in its sense.
    void give_to_set(Coil& coil, int set) const {
        for (int k = 3 * set; k < 3 * set + 3; ++k) {
            const double apart = m_layout.lags[std::size_t(k)] - m_star[std::size_t(coil.phase)];
            if (std::abs(std::remainder(apart, pi)) > 1e-6) continue;
            if (std::abs(std::remainder(apart, 2 * pi)) > 1e-6) coil.sign = -coil.sign;
            coil.phase = k;
            return;
        }
    }

    Problem no_sets() const {
        return {"winding.set_shift",
                fmt::format("{} sets {:.4g}° apart need a multiple of {} alike coils; {} slots with {} poles "
                            "have none. A shift of {:.4g}° does without.",
                            m_sets, *m_in.set_shift * 180 / pi, m_sets, m_in.slots, m_in.poles,
                            180.0 / m_in.phases)};
    }

    Problem uneven() const {
        const char* what = m_in.layers > 1                        ? "in two layers"
                           : m_in.form == WindingForm::Concentric ? "of concentric coils in one layer"
                           : m_in.span % 2 == 0 && m_in.span > 0  ? "in one layer with an even span"
                                                                  : "in one layer";
        std::vector<std::string> near;
        for (int step = 1; step <= 12 && near.size() < 3; ++step)
            for (int slots : {m_in.slots - step, m_in.slots + step}) {
                WindingInput other = m_in;
                other.slots = slots;
                other.span = 0;
                if (slots < m_in.phases || near.size() >= 3 || !feasible(other)) continue;
                near.push_back(fmt::format("{}", slots));
            }
        const int group = m_in.phases * std::gcd(m_in.slots, m_in.poles / 2);
        std::string sentence = fmt::format(
            "{} slots with {} poles cannot carry a balanced winding of {} phases {}: {} / ({} x {}) "
            "must be a whole number.",
            m_in.slots, m_in.poles, m_in.phases, what, m_in.slots, m_in.phases, group / m_in.phases);
        if (!near.empty())
            sentence += fmt::format(" With {} poles, {} slots can.", m_in.poles, fmt::join(near, " or "));
        else
            sentence += " Change the slots, the poles or the layers.";
        return {"stator.slots", sentence};
    }

    static bool feasible(const WindingInput& in) {
        Proposal other(in);
        if (!check(in).empty()) return false;
        other.m_layout.lags = phase_lags(in.phases, in.set_shift);
        if (other.choose_star()) return false;
        other.choose_span();
        other.make_coils();
        other.m_layout.input = other.m_in;
        return !other.m_layout.coils.empty() && other.even() &&
               std::abs(winding_factor(other.m_layout, in.poles / 2)) > 1e-6;
    }

    WindingInput m_in;
    WindingLayout m_layout;
    std::vector<double> m_star; ///< lags of the phases that are dealt
    int m_sets = 1;             ///< sets that share each of them
};

} // namespace

int full_pitch_span(int slots, int poles) {
    return std::max(1, (2 * slots + poles - 1) / (2 * poles));
}

Result<WindingLayout> propose_winding(const WindingInput& wanted) {
    return Proposal(wanted).run();
}

} // namespace mavlo
