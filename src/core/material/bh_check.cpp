#include "material/bh_check.h"

#include "material/bh_table.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

using Grade = Finding::Grade;
constexpr int wanted_points = 20, wanted_at_knee = 4;
constexpr double flatter_than_vacuum = 0.98; ///< rounding of a table makes that of the slope
constexpr double doubtful_slope = 2, likeliest_mu_r = 200e3;
constexpr std::size_t rows_in_full = 5;

class Judge {
  public:
    Judge(const std::vector<BhPoint>& points, bool polarisation)
        : m_points(points)
        , m_polarisation(polarisation) {}

    std::vector<Finding> run() {
        if (m_points.size() < 3) {
            say(Grade::Fault, 0, "At least three points are needed.");
            return m_out;
        }
        if (!finite()) return m_out;
        start();
        rising();
        if (has_fault(m_out)) return m_out;
        flatter();
        count();
        tail();
        outliers();
        units();
        if (m_out.empty()) say(Grade::Good, 0, "Nothing is wrong with this curve.");
        return m_out;
    }

  private:
    void say(Grade grade, int row, std::string sentence) { m_out.push_back({grade, row, std::move(sentence)}); }

    bool finite() {
        for (std::size_t i = 0; i < m_points.size(); ++i)
            if (!std::isfinite(m_points[i].h + m_points[i].b)) {
                say(Grade::Fault, int(i) + 1, fmt::format("Row {} is not a finite number.", i + 1));
                return false;
            }
        return true;
    }

    void start() {
        const BhPoint& first = m_points.front();
        if (first.h < 0 || first.b < 0)
            say(Grade::Fault, 1,
                "The curve begins below zero: only the branch from the origin upwards is wanted, not a loop.");
        else if (first.h == 0 && first.b > 0)
            say(Grade::Fault, 1,
                fmt::format(
                    "At H = 0 the flux density is {:.4g} T: a magnetisation curve starts at the origin.",
                    first.b));
        else if (first.h > 0 && first.b <= 0)
            say(Grade::Fault, 1, "The first row has a field and no flux density.");
        else if (first.h > 0)
            say(Grade::Good, 0, "The origin is not in the table; it is added.");
    }

    /// Says the first rows with a fault in full, the others by their number.
    void say_rows(Grade grade, const std::vector<std::size_t>& rows, const auto& sentence, const char* others) {
        for (std::size_t k = 0; k < rows.size() && k < rows_in_full; ++k)
            say(grade, int(rows[k]) + 1, sentence(rows[k]));
        if (rows.size() > rows_in_full)
            say(grade, int(rows[rows_in_full]) + 1,
                fmt::format("{} further rows {}.", rows.size() - rows_in_full, others));
    }

    void rising() {
        std::vector<std::size_t> h, b;
        for (std::size_t i = 1; i < m_points.size(); ++i) {
            if (m_points[i].h <= m_points[i - 1].h)
                h.push_back(i);
            else if (m_points[i].b <= m_points[i - 1].b)
                b.push_back(i);
        }
        say_rows(
            Grade::Fault, h,
            [&](std::size_t i) {
                return fmt::format("Row {}: H does not rise ({:.6g} A/m after {:.6g} A/m).", i + 1,
                                   m_points[i].h, m_points[i - 1].h);
            },
            "do not rise in H either");
        say_rows(
            Grade::Fault, b,
            [&](std::size_t i) {
                return fmt::format("Row {}: B does not rise ({:.5g} T after {:.5g} T).", i + 1, m_points[i].b,
                                   m_points[i - 1].b);
            },
            "do not rise in B either");
    }

    void flatter() {
        std::vector<std::size_t> rows;
        for (std::size_t i = 1; i < m_points.size(); ++i)
            if (slope_between(m_points[i - 1], m_points[i]) < flatter_than_vacuum) rows.push_back(i);
        say_rows(
            Grade::Fault, rows,
            [&](std::size_t i) {
                return fmt::format(
                    "Row {}: the curve is flatter than vacuum ({:.2f} of its slope), which no steel is.", i + 1,
                    slope_between(m_points[i - 1], m_points[i]));
            },
            "are flatter than vacuum too");
        const std::size_t last = m_points.size() - 1;
        const double end = last_slope(m_points);
        if (!m_polarisation && rows.size() >= 2 && rows.back() == last && std::abs(end) < 0.6)
            say(Grade::Caution, 0,
                "The end is nearly level: these are likely values of the polarisation J, not of B; choose J.");
    }

    void count() {
        if (int(m_points.size()) < wanted_points)
            say(Grade::Caution, 0,
                fmt::format("There are {} points; {} or more draw the knee well.", m_points.size(),
                            wanted_points));
        double steepest = 0;
        for (std::size_t i = 1; i < m_points.size(); ++i)
            steepest = std::max(steepest, slope_between(m_points[i - 1], m_points[i]));
        int knee = 0;
        for (std::size_t i = 1; i < m_points.size(); ++i) {
            const double s = slope_between(m_points[i - 1], m_points[i]);
            knee += s < steepest / 3 && s > std::min(20.0, steepest / 100);
        }
        if (knee < wanted_at_knee)
            say(Grade::Caution, 0,
                fmt::format("Only {} point{} round the knee, where teeth work; add some.", knee,
                            knee == 1 ? " lies" : "s lie"));
    }

    void tail() {
        const double end = last_slope(m_points);
        const BhPoint& last = m_points.back();
        if (end > doubtful_slope)
            say(Grade::Caution, int(m_points.size()),
                fmt::format(
                    "The last slope is {:.3g} times vacuum's: the curve stops at {:.3g} T before saturation, "
                    "and what lies beyond is a guess. The law of approach to saturation can prolong it.",
                    end, last.b));
        // A polarisation that goes on with vacuum's slope is a flux density.
        if (!m_polarisation || m_points.size() < 4) return;
        const BhPoint& before = m_points[m_points.size() - 2];
        const double rise =
            (mavlo::polarisation(last) - mavlo::polarisation(before)) / (last.h - before.h) / mu0;
        if (rise > 0.9 && rise < 1.6 && mavlo::polarisation(last) > 1.5)
            say(Grade::Caution, 0,
                "The polarisation still rises with vacuum's slope: these are likely values of B; choose B.");
    }

    void outliers() {
        say_rows(
            Grade::Caution, bh_outliers(m_points),
            [&](std::size_t i) {
                return fmt::format(
                    "Row {} ({:.5g} A/m, {:.4g} T) lies off its neighbours; look whether it is misread.", i + 1,
                    m_points[i].h, m_points[i].b);
            },
            "lie off their neighbours too");
    }

    void units() {
        double most = 0;
        for (const BhPoint& p : m_points)
            if (p.h > 0) most = std::max(most, p.b / p.h / mu0);
        if (most > likeliest_mu_r)
            say(Grade::Caution, 0,
                fmt::format("The relative permeability reaches {:.3g}: is the field in kA/m or Oe?", most));
        else if (most < 20)
            say(Grade::Caution, 0,
                fmt::format("The relative permeability is at most {:.3g}: are the units those of the table?",
                            most));
        if (m_points.back().b > 4)
            say(Grade::Caution, 0,
                fmt::format("A flux density of {:.3g} T is beyond any steel: is it in mT, G or kG?",
                            m_points.back().b));
    }

    const std::vector<BhPoint>& m_points;
    bool m_polarisation;
    std::vector<Finding> m_out;
};

} // namespace

double slope_between(const BhPoint& a, const BhPoint& b) {
    return (b.b - a.b) / (b.h - a.h) / mu0;
}

double last_slope(const std::vector<BhPoint>& points) {
    return points.size() < 2 ? 0 : slope_between(points[points.size() - 2], points.back());
}

bool has_fault(const std::vector<Finding>& findings) {
    return std::any_of(findings.begin(), findings.end(),
                       [](const Finding& f) { return f.grade == Grade::Fault; });
}

std::vector<std::size_t> bh_outliers(const std::vector<BhPoint>& points) {
    std::vector<std::size_t> rows;
    std::vector<double> off(points.size(), 0);
    for (std::size_t i = 1; i + 1 < points.size(); ++i) {
        const BhPoint &a = points[i - 1], &p = points[i], &b = points[i + 1];
        if (a.h <= 0 || b.h <= a.h) continue;
        const double share = std::log(p.h / a.h) / std::log(b.h / a.h);
        off[i] = p.b - (a.b + share * (b.b - a.b));
    }
    for (std::size_t i = 2; i + 2 < points.size(); ++i) {
        // A row that is off bends the curve one way and both its neighbours the other way.
        const double own = off[i], around = std::max(std::abs(off[i - 2]), std::abs(off[i + 2]));
        const bool against = own * off[i - 1] < 0 && own * off[i + 1] < 0;
        if (against && std::abs(own) > 0.02 + 3 * around) rows.push_back(i);
    }
    return rows;
}

std::vector<Finding> judge_bh(const std::vector<BhPoint>& points, bool polarisation) {
    return Judge(points, polarisation).run();
}

} // namespace mavlo
