#pragma once
// Cogging of many machines that differ by lot.

#include "figure/spectrum.h"
#include "question/answer.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <vector>

namespace mavlo {

/// The torque of a machine with this row of draws, over one period of it, N.m.
using WaveformOf = std::function<std::vector<double>(const std::vector<double>& draws)>;

/// Peak to peak of many machines, each with the row of draws that made it, rising.
class Swings {
  public:
    static constexpr double high = 0.95; ///< share of the machines that the high figure covers

    Swings(const std::vector<std::vector<double>>& draws, const WaveformOf& waveform) {
        for (std::size_t k = 0; k < draws.size(); ++k) m_list.emplace_back(peak_to_peak(waveform(draws[k])), k);
        std::sort(m_list.begin(), m_list.end());
    }
    double at(double share) const { return place(share).first; }
    std::size_t row_at(double share) const { return place(share).second; } ///< of the draws
    /// Share of the machines that do not pass a limit.
    double within(double limit) const {
        const auto kept = std::count_if(m_list.begin(), m_list.end(),
                                        [&](const auto& swing) { return swing.first <= limit; });
        return double(kept) / double(m_list.size());
    }
    Curve distribution() const {
        Curve shares{"cogging_distribution", "1", "cogging_peak_to_peak", "N.m", {}, {}};
        for (std::size_t k = 0; k < m_list.size(); ++k) {
            shares.x.push_back(m_list[k].first);
            shares.y.push_back((double(k) + 0.5) / double(m_list.size()));
        }
        return shares;
    }

  private:
    const std::pair<double, std::size_t>& place(double share) const {
        return m_list[std::size_t(std::llround(share * double(m_list.size() - 1)))];
    }
    std::vector<std::pair<double, std::size_t>> m_list;
};

} // namespace mavlo
