#include "report/plot_svg.h"

#include "figure/palette.h"
#include "quantity/round_values.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double left = 60, right = 12, head = 22, bottom = 40, legend_row = 16;
// Printers of HTML read attributes of an SVG, not the page's style.
constexpr const char *small =
                         "font-family=\"Inter, DejaVu Sans, sans-serif\" font-size=\"10.5\" fill=\"#66727c\"",
                     *plain =
                         "font-family=\"Inter, DejaVu Sans, sans-serif\" font-size=\"11\" fill=\"#1f2a33\"";
/// As the desktop's: the phases' first, then others that are told apart with any kind of sight (M. Okabe, K.
/// Ito, Color Universal Design, 2008).
constexpr const char* colours[] = {"#e69f00", "#56b4e9", "#009e73", "#d55e00",
                                   "#cc79a7", "#0072b2", "#999933", "#66727c"};
constexpr const char* lone = "#b5532a"; ///< of a curve without others

const char* colour_of(std::size_t k, std::size_t count) {
    return count == 1 ? lone : colours[k % std::size(colours)];
}

std::string words(double x, double y, const char* anchor, const std::string& text, const char* look) {
    return fmt::format(R"(<text {} x="{:.1f}" y="{:.1f}" text-anchor="{}">{}</text>)", look, x, y, anchor,
                       escaped(text));
}

struct Axis {
    double low = 0, high = 1;
    bool logarithmic = false;
    void take(double v) {
        if (!std::isfinite(v) || (logarithmic && v <= 0)) return;
        low = m_any ? std::min(low, v) : v;
        high = m_any ? std::max(high, v) : v;
        m_any = true;
    }
    void widen(double share) {
        if (high <= low) {
            const double size = std::max(std::abs(low), 1e-12);
            low -= 0.5 * size;
            high += 0.5 * size;
        }
        const double pad = logarithmic ? 0 : share * (high - low);
        low -= pad;
        high += pad;
    }
    double share(double v) const {
        return logarithmic ? std::log(v / low) / std::log(high / low) : (v - low) / (high - low);
    }
    std::vector<double> marks() const {
        if (!logarithmic) return round_values(low, high);
        std::vector<double> list;
        for (double p = std::ceil(std::log10(low) - 1e-9); p <= std::log10(high) + 1e-9; ++p)
            list.push_back(std::pow(10, p));
        return list;
    }

  private:
    bool m_any = false;
};

/// Whole multiples of a tick read without the dust of the floating point.
std::string tick_text(double v, double range) {
    return fmt::format("{:.4g}", std::abs(v) < 1e-9 * range ? 0.0 : v);
}

/// Rows of names over the plot, as many as they need.
class Legend {
  public:
    Legend(const std::vector<std::string>& names, double width) {
        if (names.size() < 2) return;
        double x = left, y = head + 8;
        for (std::size_t k = 0; k < names.size(); ++k) {
            const double wide = 6.0 * double(names[k].size()) + 30;
            if (x > left && x + wide > width - right) x = left, y += legend_row;
            m_svg += fmt::format(
                R"(<line x1="{0:.1f}" x2="{1:.1f}" y1="{2:.1f}" y2="{2:.1f}" stroke="{3}" stroke-width="2.5"/>)",
                x, x + 13, y - 4, colour_of(k, names.size()));
            m_svg += words(x + 17, y, "start", names[k], small);
            x += wide;
        }
        m_height = y + 2 - head;
    }
    double height() const { return m_height; }
    const std::string& svg() const { return m_svg; }

  private:
    double m_height = 0;
    std::string m_svg;
};

class Frame {
  public:
    Frame(Axis x, Axis y, PlotSize size, const std::vector<std::string>& names = {})
        : m_x(std::move(x))
        , m_y(std::move(y))
        , m_size(size)
        , m_legend(names, size.width)
        , m_top(head + m_legend.height() + 4) {}
    double x(double v) const { return left + m_x.share(v) * room(); }
    double y(double v) const {
        return m_size.height - bottom - m_y.share(v) * (m_size.height - m_top - bottom);
    }
    double room() const { return m_size.width - left - right; }

    std::string svg(const std::string& inside, const std::string& x_label, const std::string& y_label) const {
        std::string out =
            fmt::format(R"(<svg class="plot" viewBox="0 0 {} {}" role="img">)", m_size.width, m_size.height);
        const double x0 = left, x1 = m_size.width - right, y0 = m_size.height - bottom, y1 = m_top;
        for (double v : m_x.marks())
            out += grid_line(x(v), y0, x(v), y1) +
                   words(x(v), y0 + 14, "middle", tick_text(v, m_x.high - m_x.low), small);
        for (double v : m_y.marks())
            out += grid_line(x0, y(v), x1, y(v)) +
                   words(x0 - 5, y(v) + 4, "end", tick_text(v, m_y.high - m_y.low), small);
        out += inside;
        out += fmt::format(R"(<rect fill="none" stroke="#9aa5ad" x="{}" y="{}" width="{}" height="{}"/>)", x0,
                           y1, x1 - x0, y0 - y1);
        out += words((x0 + x1) / 2, m_size.height - 8, "middle", x_label, plain);
        return out + words(4, 15, "start", y_label, plain) + m_legend.svg() + "</svg>";
    }

  private:
    static std::string grid_line(double x1, double y1, double x2, double y2) {
        return fmt::format(R"(<line stroke="#e4e8ea" x1="{:.1f}" y1="{:.1f}" x2="{:.1f}" y2="{:.1f}"/>)", x1,
                           y1, x2, y2);
    }

    Axis m_x, m_y;
    PlotSize m_size;
    Legend m_legend;
    double m_top;
};

std::string path_of(const Frame& frame, const std::vector<double>& x, const std::vector<double>& y,
                    bool log_x) {
    std::string d;
    bool down = false;
    for (std::size_t k = 0; k < x.size(); ++k) {
        if (!std::isfinite(y[k]) || (log_x && x[k] <= 0)) {
            down = false;
            continue;
        }
        d += fmt::format("{}{:.1f} {:.1f}", down ? "L" : "M", frame.x(x[k]), frame.y(y[k]));
        down = true;
    }
    return d;
}

/// A bar for each label, the longest first, with how sure it is.
std::string ranking_svg(const Answer& answer, const Curve& curve) {
    constexpr double row = 20, wide = 680, names = 270, values = 150;
    constexpr std::size_t most_ranks = 12;
    std::size_t count = 0;
    while (count < curve.y.size() && count < most_ranks && curve.y[count] != 0) ++count;
    const Curve* doubt = answer.curve(curve.name + "_error");
    double longest = 1e-300;
    for (std::size_t k = 0; k < count; ++k) longest = std::max(longest, std::abs(curve.y[k]));
    std::string out =
        fmt::format(R"(<svg class="plot wide" viewBox="0 0 {} {}" role="img">)", wide, row * double(count) + 8);
    for (std::size_t k = 0; k < count; ++k) {
        const double y = 4 + row * double(k), bar = (wide - names - values) * std::abs(curve.y[k]) / longest;
        out += words(names - 8, y + 14, "end", curve.labels[k], plain);
        out += fmt::format(R"(<rect x="{}" y="{:.1f}" width="{:.1f}" height="13" fill="{}"/>)", names, y + 3,
                           bar, curve.y[k] < 0 ? colours[3] : colours[0]);
        std::string value = std::abs(curve.y[k]) >= 1000 ? fmt::format("{:+.0f}", curve.y[k])
                                                         : fmt::format("{:+.3g}", curve.y[k]);
        if (doubt && doubt->y.size() > k) value += fmt::format(" ± {:.2g}", doubt->y[k]);
        out += words(names + bar + 6, y + 14, "start", value, small);
    }
    return out + "</svg>";
}

std::string spectrum_svg(const std::vector<const Curve*>& curves, const CurveGroup& group, PlotSize size) {
    Axis x, y;
    y.take(0);
    for (const Curve* c : curves) {
        for (double v : c->x) x.take(v);
        for (double v : c->y) y.take(v);
    }
    x.widen(0.03);
    y.widen(0);
    std::vector<std::string> names;
    for (const Curve* curve : curves) names.push_back(figure_words(curve->name));
    const Frame frame(x, y, size, names);
    std::string inside;
    const double bar = std::max(1.5, 0.5 * frame.room() / double(curves.front()->x.size() * curves.size() + 1));
    for (std::size_t k = 0; k < curves.size(); ++k) {
        for (std::size_t i = 0; i < curves[k]->x.size(); ++i)
            inside +=
                fmt::format("<rect x=\"{:.1f}\" y=\"{:.1f}\" width=\"{:.1f}\" height=\"{:.1f}\" fill=\"{}\"/>",
                            frame.x(curves[k]->x[i]) + (double(k) - double(curves.size()) / 2) * bar,
                            std::min(frame.y(curves[k]->y[i]), frame.y(0)), bar,
                            std::abs(frame.y(curves[k]->y[i]) - frame.y(0)), colour_of(k, curves.size()));
    }
    return frame.svg(inside, group.x_label, group.y_label);
}

} // namespace

std::string escaped(const std::string& text) {
    std::string out;
    for (char c : text)
        out += c == '<'   ? "&lt;"
               : c == '>' ? "&gt;"
               : c == '&' ? "&amp;"
               : c == '"' ? "&quot;"
                          : std::string(1, c);
    return out;
}

std::string lines_svg(const std::vector<PlotLine>& lines, const std::string& x_label,
                      const std::string& y_label, bool logarithmic_x, PlotSize size) {
    Axis x, y;
    x.logarithmic = logarithmic_x;
    std::vector<std::string> names;
    for (const PlotLine& line : lines) {
        for (double v : line.x) x.take(v);
        for (double v : line.y) y.take(v);
        names.push_back(line.name);
    }
    x.widen(0);
    y.widen(0.05);
    const Frame frame(x, y, size, names);
    std::string inside;
    for (std::size_t k = 0; k < lines.size(); ++k)
        inside +=
            fmt::format("<path d=\"{}\" fill=\"none\" stroke=\"{}\" stroke-width=\"1.6\"/>",
                        path_of(frame, lines[k].x, lines[k].y, logarithmic_x), colour_of(k, lines.size()));
    return frame.svg(inside, x_label, y_label);
}

std::string plot_svg(const Answer& answer, const CurveGroup& group, PlotSize size) {
    std::vector<const Curve*> curves;
    for (const Curve& c : answer.curves)
        if (!c.x.empty() && c.x_name == group.x_name &&
            std::find(group.names.begin(), group.names.end(), c.name) != group.names.end())
            curves.push_back(&c);
    if (curves.empty()) return {};
    if (group.ranked) return ranking_svg(answer, *curves.front());
    if (group.bars) return spectrum_svg(curves, group, size);
    std::vector<PlotLine> lines;
    for (const Curve* c : curves)
        lines.push_back(
            {figure_words(c->name.starts_with("plane_") ? c->name.substr(6) : c->name), c->x, c->y});
    return lines_svg(lines, group.x_label, group.y_label, false, size);
}

std::string map_svg(const Map& map, PlotSize size) {
    Axis x, y, z;
    for (double v : map.x) x.take(v);
    for (double v : map.y) y.take(v);
    for (const auto& row : map.z)
        for (double v : row) z.take(v);
    z.widen(0);
    if (map.x.size() < 2 || map.y.size() < 2) return {};
    const double dx = map.x[1] - map.x[0], dy = map.y[1] - map.y[0];
    x.take(map.x.front() - dx / 2);
    x.take(map.x.back() + dx / 2);
    y.take(map.y.front() - dy / 2);
    y.take(map.y.back() + dy / 2);
    const Frame frame(x, y, size);
    const auto edge = [](const std::vector<double>& v, std::size_t k) {
        return k == 0          ? v[0] - (v[1] - v[0]) / 2
               : k == v.size() ? v[k - 1] + (v[k - 1] - v[k - 2]) / 2
                               : (v[k - 1] + v[k]) / 2;
    };
    std::string inside;
    for (std::size_t j = 0; j < map.y.size(); ++j)
        for (std::size_t i = 0; i < map.x.size(); ++i) {
            const double v = map.z[j][i];
            if (!std::isfinite(v)) continue;
            const Rgb c = field_colour(z.share(v));
            const double x0 = frame.x(edge(map.x, i)), x1 = frame.x(edge(map.x, i + 1)),
                         y0 = frame.y(edge(map.y, j)), y1 = frame.y(edge(map.y, j + 1));
            inside += fmt::format("<rect x=\"{:.2f}\" y=\"{:.2f}\" width=\"{:.2f}\" height=\"{:.2f}\" "
                                  "fill=\"#{:02x}{:02x}{:02x}\"/>",
                                  x0, std::min(y0, y1), x1 - x0 + 0.3, std::abs(y0 - y1) + 0.3, c.r, c.g, c.b);
        }
    const auto axis = [](const std::string& name, const std::string& unit) {
        return unit == "1" ? figure_words(name) : figure_words(name) + ", " + shown_unit(unit);
    };
    const bool share = map.name.find("efficiency") != std::string::npos;
    const double factor = share ? 100 : 1;
    return frame.svg(inside, axis(map.x_name, map.x_unit),
                     fmt::format("{} over {}, {:.4g} (pale) to {:.4g} {}", figure_words(map.name),
                                 axis(map.y_name, map.y_unit), z.low * factor, z.high * factor,
                                 share             ? "%"
                                 : map.unit == "1" ? ""
                                                   : shown_unit(map.unit)));
}

} // namespace mavlo
