#include "study/proposal_search.h"

#include "study/surrogate.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>
#include <pagmo/algorithm.hpp>
#include <pagmo/algorithms/nsga2.hpp>
#include <pagmo/algorithms/sade.hpp>
#include <pagmo/population.hpp>
#include <pagmo/problem.hpp>
#include <pagmo/utils/hypervolume.hpp>
#include <random>

namespace mavlo {
namespace {

constexpr int population_size = 64, generations = 60, explore_every = 8, random_places = 256;
constexpr double too_near = 1e-4; ///< of a place that was tried, in shares

double squared(const std::vector<double>& a, const std::vector<double>& b) {
    double sum = 0;
    for (std::size_t k = 0; k < a.size(); ++k) sum += (a[k] - b[k]) * (a[k] - b[k]);
    return sum;
}

double nearest(const std::vector<std::vector<double>>& all, const std::vector<double>& p) {
    double least = std::numeric_limits<double>::max();
    for (const auto& other : all) least = std::min(least, squared(other, p));
    return std::sqrt(least);
}

/// What the surrogates say of a place, values scaled to the range of those tried.
class Guess {
  public:
    explicit Guess(const std::vector<Tried>& tried) {
        std::vector<std::vector<double>> places, sound_places;
        std::vector<double> soundness;
        std::vector<const Tried*> sound;
        for (const Tried& t : tried) {
            places.push_back(t.at);
            soundness.push_back(t.sound ? 0 : 1);
            if (!t.sound) continue;
            sound.push_back(&t);
            sound_places.push_back(t.at);
        }
        const auto model = [&](auto value) {
            std::vector<double> values;
            for (const Tried* t : sound) values.push_back(value(*t));
            return values;
        };
        for (std::size_t g = 0; g < sound.front()->values.size(); ++g) {
            auto values = model([&](const Tried& t) { return t.values[g]; });
            const auto [low, high] = std::minmax_element(values.begin(), values.end());
            m_low.push_back(*low);
            m_range.push_back(std::max(*high - *low, 1e-300));
            for (double& v : values) v = (v - m_low.back()) / m_range.back();
            m_values.emplace_back(sound_places, values);
        }
        for (std::size_t l = 0; l < sound.front()->excess.size(); ++l)
            m_excess.emplace_back(sound_places, model([&](const Tried& t) { return t.excess[l]; }));
        if (sound.size() < tried.size()) m_soundness.emplace_back(places, soundness);
    }

    std::size_t goals() const { return m_values.size(); }

    /// A value that misses limits is worse than any that keeps them, the more the more it misses.
    std::vector<double> operator()(const std::vector<double>& p) const {
        double beyond = 0;
        for (const Surrogate& s : m_excess) beyond += std::max(0.0, s(p));
        for (const Surrogate& s : m_soundness) beyond += std::max(0.0, s(p) - 0.5);
        std::vector<double> out;
        for (const Surrogate& s : m_values) out.push_back(s(p) + (beyond > 0 ? 2 + 10 * beyond : 0));
        return out;
    }

    std::vector<double> scaled(const std::vector<double>& values) const {
        std::vector<double> out;
        for (std::size_t g = 0; g < values.size(); ++g) out.push_back((values[g] - m_low[g]) / m_range[g]);
        return out;
    }

  private:
    std::vector<Surrogate> m_values, m_excess, m_soundness;
    std::vector<double> m_low, m_range;
};

/// The problem as the optimiser wants it.
struct SurrogateProblem {
    const Guess* guess = nullptr;
    std::size_t dimensions = 0;
    pagmo::vector_double fitness(const pagmo::vector_double& p) const { return (*guess)(p); }
    std::pair<pagmo::vector_double, pagmo::vector_double> get_bounds() const {
        return {pagmo::vector_double(dimensions, 0.0), pagmo::vector_double(dimensions, 1.0)};
    }
    pagmo::vector_double::size_type get_nobj() const { return guess->goals(); }
    template <typename Archive>
    void serialize(Archive&, unsigned) {}
};

std::vector<std::vector<double>> searched(const Guess& guess, std::size_t dimensions, unsigned seed) {
    const pagmo::problem problem{SurrogateProblem{&guess, dimensions}};
    pagmo::population population(problem, population_size, seed);
    const pagmo::algorithm algorithm =
        guess.goals() > 1
            ? pagmo::algorithm{pagmo::nsga2(generations, 0.95, 10., 1. / double(dimensions), 20., seed)}
            : pagmo::algorithm{pagmo::sade(4 * generations, 2, 1, 1e-6, 1e-6, false, seed)};
    population = algorithm.evolve(population);
    auto places = population.get_x();
    // A lone goal's best place first.
    if (guess.goals() == 1) {
        const auto values = population.get_f();
        std::vector<std::size_t> order(places.size());
        std::iota(order.begin(), order.end(), 0);
        std::sort(order.begin(), order.end(), [&](auto a, auto b) { return values[a][0] < values[b][0]; });
        std::vector<std::vector<double>> sorted;
        for (std::size_t i : order) sorted.push_back(places[i]);
        places = sorted;
    }
    return places;
}

/// The one of random places that is farthest from all known ones.
std::vector<double> unexplored(const std::vector<std::vector<double>>& known, std::size_t dimensions,
                               std::mt19937& random) {
    std::vector<double> best;
    double farthest = -1;
    for (int k = 0; k < random_places; ++k) {
        std::vector<double> p(dimensions);
        for (double& x : p) x = double(random()) / 4294967296.0;
        if (const double d = nearest(known, p); d > farthest) farthest = d, best = p;
    }
    return best;
}

} // namespace

Compromise compromise_of(const Tried& tried) {
    Compromise out{tried.values, 0};
    for (double e : tried.excess) out.beyond += std::max(0.0, e);
    return out;
}

std::vector<std::vector<double>> places_to_try(const std::vector<Tried>& tried, int count, unsigned seed) {
    std::mt19937 random(seed);
    const std::size_t dimensions = tried.front().at.size();
    std::vector<std::vector<double>> known, chosen;
    for (const Tried& t : tried) known.push_back(t.at);
    const auto take = [&](const std::vector<double>& p) {
        chosen.push_back(p);
        known.push_back(p);
    };
    const bool any = std::any_of(tried.begin(), tried.end(), [](const Tried& t) { return t.sound; });
    if (any) {
        const Guess guess(tried);
        auto places = searched(guess, dimensions, seed);
        std::vector<std::vector<double>> values, seen;
        std::vector<Compromise> found;
        for (const auto& p : places) values.push_back(guess(p)), found.push_back({values.back(), 0});
        for (const Tried& t : tried)
            if (t.sound) seen.push_back(guess.scaled(t.values));
        const auto front = front_of(found);
        while (int(chosen.size()) < count - count / explore_every) {
            // Farthest from all that is known among what the surrogates' front holds.
            std::size_t best = places.size();
            double farthest = -1;
            for (std::size_t i : front)
                if (const double d = nearest(seen, values[i]);
                    d > farthest && nearest(known, places[i]) > too_near)
                    farthest = d, best = i;
            if (best == places.size()) break;
            take(places[best]);
            seen.push_back(values[best]);
        }
    }
    while (int(chosen.size()) < count) take(unexplored(known, dimensions, random));
    return chosen;
}

double dominated_share(const std::vector<std::vector<double>>& front, const std::vector<double>& best,
                       const std::vector<double>& worst) {
    std::vector<std::vector<double>> inside;
    double whole = 1;
    for (std::size_t k = 0; k < worst.size(); ++k) whole *= worst[k] - best[k];
    for (const auto& p : front) {
        bool within = true;
        for (std::size_t k = 0; k < p.size(); ++k) within = within && p[k] < worst[k];
        if (within) inside.push_back(p);
    }
    return inside.empty() ? 0 : pagmo::hypervolume(inside).compute(worst) / whole;
}

} // namespace mavlo
