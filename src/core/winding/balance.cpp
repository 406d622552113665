#include "winding/balance.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

Complex emf_of(const Coil& coil, const WindingLayout& layout) {
    return coil_phasor(coil, layout.input.slots, layout.main_order()) / 2.0;
}

/// Coils of a phase in groups of one phasor.
std::vector<std::vector<int>> alike_coils(const WindingLayout& layout, int phase) {
    std::vector<std::vector<int>> groups;
    std::vector<Complex> phasors;
    for (std::size_t i = 0; i < layout.coils.size(); ++i) {
        if (layout.coils[i].phase != phase) continue;
        const Complex emf = emf_of(layout.coils[i], layout);
        std::size_t k = 0;
        while (k < phasors.size() && std::abs(phasors[k] - emf) > 1e-9 * std::max(1.0, std::abs(emf))) ++k;
        if (k == phasors.size()) {
            phasors.push_back(emf);
            groups.emplace_back();
        }
        groups[k].push_back(int(i));
    }
    return groups;
}

} // namespace

WindingBalance judge_balance(const WindingLayout& layout) {
    WindingBalance out;
    const int m = layout.input.phases;
    Complex mean = 0, sum = 0;
    double lengths = 0;
    for (int k = 0; k < m; ++k) {
        Complex emf = 0;
        for (const Coil& coil : layout.coils)
            if (coil.phase == k) emf += emf_of(coil, layout);
        out.turns.push_back(layout.turns_of_phase(k));
        sum += emf;
        lengths += std::abs(emf);
        // The factor's angle falls with the phase's lag: turned forward by it all are alike. Phases that are
        // switched by themselves have no common wave to stand in.
        out.phases.push_back(layout.switched() ? std::abs(emf)
                                               : emf * std::polar(1.0, layout.lags[std::size_t(k)]));
        mean += out.phases.back() / double(m);
    }
    for (int k = 0; k < m; ++k) {
        const double off = std::abs(out.phases[std::size_t(k)] - mean) / std::max(1e-300, std::abs(mean));
        out.unbalance = std::max(out.unbalance, off);
        if (off < 1e-9) continue;
        const Complex ratio = out.phases[std::size_t(k)] / mean;
        out.sentences.push_back(fmt::format(
            "Phase {} has {:.1f} % of the mean flux linkage and stands {:+.1f}° electrical from its place.",
            phase_name(k, m), 100 * std::abs(ratio), std::arg(ratio) * 180 / pi));
    }
    for (int k = 1; k < m; ++k)
        if (std::abs(out.turns[std::size_t(k)] - out.turns[0]) > 1e-9)
            out.sentences.push_back(fmt::format("Phase {} has {:.6g} turns, phase {} {:.6g}.", phase_name(k, m),
                                                out.turns[std::size_t(k)], phase_name(0, m), out.turns[0]));
    out.zero_sequence = lengths > 0 ? std::abs(sum) / lengths : 0;
    return out;
}

ParallelPaths parallel_paths(const WindingLayout& layout, int phase, int count) {
    ParallelPaths out;
    out.coils.resize(std::size_t(std::max(1, count)));
    const auto groups = alike_coils(layout, phase);
    out.alike = std::all_of(groups.begin(), groups.end(),
                            [&](const auto& g) { return g.size() % out.coils.size() == 0; });
    std::vector<int> all;
    for (std::size_t i = 0; i < layout.coils.size(); ++i)
        if (layout.coils[i].phase == phase) all.push_back(int(i));
    if (out.alike) {
        for (const auto& group : groups) {
            const std::size_t each = group.size() / out.coils.size();
            for (std::size_t i = 0; i < group.size(); ++i) out.coils[i / each].push_back(group[i]);
        }
    } else {
        for (std::size_t i = 0; i < all.size(); ++i)
            out.coils[i * out.coils.size() / all.size()].push_back(all[i]);
    }
    Complex mean = 0;
    for (const auto& path : out.coils) {
        Complex sum = 0;
        for (int i : path) sum += emf_of(layout.coils[std::size_t(i)], layout);
        out.emf.push_back(sum);
        mean += sum / double(out.coils.size());
    }
    if (std::abs(mean) > 1e-300)
        for (Complex& emf : out.emf) emf /= mean;
    for (const Complex& a : out.emf)
        for (const Complex& b : out.emf) out.difference = std::max(out.difference, std::abs(a - b));
    return out;
}

std::vector<int> possible_paths(const WindingLayout& layout) {
    // Every group of alike coils is dealt evenly.
    std::size_t common = 0;
    for (int k = 0; k < layout.input.phases; ++k)
        for (const auto& group : alike_coils(layout, k)) common = std::gcd(common, group.size());
    std::vector<int> possible;
    for (std::size_t a = 1; a <= common; ++a)
        if (common % a == 0) possible.push_back(int(a));
    return possible;
}

} // namespace mavlo
