#include "material/bh_repair.h"

#include "material/bh_check.h"
#include "material/bh_table.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double end_slope = 1.02, good_end_slope = 2; ///< over vacuum's
constexpr double saturating = 60;                      ///< differential mu_r below which the law is fitted
constexpr std::size_t least_points = 5, fitted_at_least = 4;
constexpr double highest_field = 1e8, highest_density = 200; // A/m, T: beyond are slips
constexpr double step_beyond = 1.5, farthest_field = 2e6;    // A/m

std::string rows(std::size_t n) {
    return n == 1 ? "one row" : fmt::format("{} rows", n);
}

class Repair {
  public:
    explicit Repair(std::vector<BhPoint> points)
        : m_points(std::move(points)) {}

    Result<BhRepair> run() {
        order();
        drop_outliers();
        cut_end();
        smooth();
        if (m_points.size() < least_points)
            return Problem{"bh",
                           fmt::format("Of this table {} usable points are left; five or more can be mended.",
                                       m_points.size())};
        prolong();
        return BhRepair{std::move(m_points), std::move(m_done)};
    }

  private:
    void order() {
        const std::size_t before = m_points.size();
        std::erase_if(m_points, [](const BhPoint& p) {
            return !std::isfinite(p.h) || !std::isfinite(p.b) || p.h < 0 || p.b < 0 || p.h > highest_field ||
                   p.b > highest_density || (p.h == 0) != (p.b == 0);
        });
        if (const auto gone = before - m_points.size())
            m_done.push_back(fmt::format("Left out {} that no curve from the origin upwards has.", rows(gone)));
        if (!std::is_sorted(m_points.begin(), m_points.end(), by_field)) {
            std::stable_sort(m_points.begin(), m_points.end(), by_field);
            m_done.emplace_back("Put the rows in the order of H.");
        }
        merge_doubled();
    }

    static bool by_field(const BhPoint& a, const BhPoint& b) { return a.h < b.h; }

    /// Rows of one field become their mean.
    void merge_doubled() {
        std::vector<BhPoint> out;
        std::size_t merged = 0;
        for (std::size_t i = 0; i < m_points.size();) {
            double sum = 0;
            std::size_t n = 0;
            for (; i + n < m_points.size() && m_points[i + n].h <= m_points[i].h * (1 + 1e-4); ++n)
                sum += m_points[i + n].b;
            out.push_back({m_points[i].h, sum / double(n)});
            merged += n - 1;
            i += n;
        }
        m_points = std::move(out);
        if (merged) m_done.push_back(fmt::format("Merged {} of a field that was given already.", rows(merged)));
    }

    void drop_outliers() {
        auto off = bh_outliers(m_points);
        for (auto i = off.rbegin(); i != off.rend(); ++i) m_points.erase(m_points.begin() + std::ptrdiff_t(*i));
        if (!off.empty())
            m_done.push_back(fmt::format("Left out {} off the neighbours' line.", rows(off.size())));
    }

    /// The end from the first step on that stays flatter than vacuum.
    void cut_end() {
        std::size_t keep = m_points.size();
        while (keep >= 2 && slope(keep - 1) < 0.98) --keep;
        if (keep == m_points.size() || keep < least_points) return;
        m_done.push_back(
            fmt::format("Left out the last {}: flatter than vacuum.", rows(m_points.size() - keep)));
        m_points.resize(keep);
    }

    /// Differential permeability of the step that ends in this point.
    double slope(std::size_t i) const { return slope_between(m_points[i - 1], m_points[i]); }

    void smooth() {
        struct Block {
            double mean;
            std::size_t size;
        };
        std::vector<Block> blocks;
        for (const BhPoint& p : m_points) {
            blocks.push_back({polarisation(p), 1});
            while (blocks.size() > 1 && blocks[blocks.size() - 2].mean > blocks.back().mean) {
                const Block last = blocks.back();
                blocks.pop_back();
                Block& into = blocks.back();
                into.mean = (into.mean * double(into.size) + last.mean * double(last.size)) /
                            double(into.size + last.size);
                into.size += last.size;
            }
        }
        std::size_t i = 0, moved = 0;
        for (const Block& block : blocks)
            for (std::size_t k = 0; k < block.size; ++k, ++i) {
                const double b = std::max(0.0, block.mean) + mu0 * m_points[i].h;
                moved += std::abs(b - m_points[i].b) > 1e-9;
                if (block.size > 1 || block.mean < 0) m_points[i].b = b;
            }
        if (moved)
            m_done.push_back(
                fmt::format("Smoothed {}: polarisation must not fall as the field rises.", rows(moved)));
    }

    void prolong() {
        if (last_slope(m_points) <= good_end_slope) return;
        std::size_t first = m_points.size() - 1;
        while (first > 1 && slope(first) < saturating) --first;
        first = std::max<std::size_t>(1, std::min(first, m_points.size() - fitted_at_least));
        const ApproachLaw law = fit_approach({m_points.begin() + std::ptrdiff_t(first), m_points.end()});
        const double last_h = m_points.back().h, last_b = m_points.back().b;
        // The law meets its first point exactly; prolonged from the last, it must not step there.
        const double step = last_b - law.flux_density(last_h);
        std::size_t added = 0;
        while (m_points.back().h * step_beyond < farthest_field && last_slope(m_points) > end_slope) {
            const double h = m_points.back().h * step_beyond;
            m_points.push_back({h, law.flux_density(h) + step});
            ++added;
        }
        m_done.push_back(fmt::format("Prolonged beyond {:.4g} A/m by the law of approach to saturation, to a "
                                     "polarisation of {:.3f} T ({} points).",
                                     last_h, law.saturation() + step, added));
    }

    std::vector<BhPoint> m_points;
    std::vector<std::string> m_done;
};

} // namespace

double ApproachLaw::saturation() const {
    return polarisation(from) + a / from.h + b / (from.h * from.h);
}

double ApproachLaw::flux_density(double h) const {
    return saturation() - a / h - b / (h * h) + mu0 * h;
}

ApproachLaw fit_approach(const std::vector<BhPoint>& points) {
    ApproachLaw law{points.front()};
    // Normal equations of J - J_0 = a (1/H_0 - 1/H) + b (1/H_0^2 - 1/H^2), in units of H_0.
    double aa = 0, ab = 0, bb = 0, ja = 0, jb = 0;
    const double h0 = law.from.h, j0 = polarisation(law.from);
    for (const BhPoint& p : points) {
        const double u = 1 - h0 / p.h, v = 1 - h0 * h0 / (p.h * p.h), j = polarisation(p) - j0;
        aa += u * u, ab += u * v, bb += v * v, ja += j * u, jb += j * v;
    }
    const double det = aa * bb - ab * ab;
    double a = det > 1e-12 * aa * bb ? (ja * bb - jb * ab) / det : -1,
           b = det > 1e-12 * aa * bb ? (jb * aa - ja * ab) / det : -1;
    if (a < 0 || b < 0) { // the better of the two laws with one term
        const double only_a = aa > 0 ? std::max(0.0, ja / aa) : 0, only_b = bb > 0 ? std::max(0.0, jb / bb) : 0;
        const bool first = only_a * ja >= only_b * jb; // what each takes off the squares
        a = first ? only_a : 0;
        b = first ? 0 : only_b;
    }
    law.a = a * h0;
    law.b = b * h0 * h0;
    return law;
}

Result<BhRepair> repair_bh(std::vector<BhPoint> points) {
    return Repair(std::move(points)).run();
}

} // namespace mavlo
