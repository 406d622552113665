#include "question/words.h"

#include "quantity/quantity.h"
#include "quantity/text.h"
#include "question/figure_names.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

std::string without_end(const std::string& text, std::size_t length) {
    return text.substr(0, text.size() - length);
}

/// Name without the phase at its end, so that U, V and W share a plot: "voltage_u" -> "voltage".
std::string family_of(const std::string& name) {
    if (name.starts_with("plane_")) return "plane_of_currents";
    if (name.starts_with("loss_")) return "losses";
    if (name.starts_with("temperature_")) return "temperatures";
    if (name.ends_with("_um_mouth") || name.ends_with("_um_place")) return "influence_of_one_slot";
    if (name.starts_with("influence_of_")) return "influence_of_one_magnet";
    if (name.starts_with("flux_density_")) return "flux_density_along_the_remanence";
    for (const char* family : {"torque_at_", "best_torque", "torque_magnet", "torque_scattered",
                               "torque_centred", "torque_winding", "torque_drive", "torque_for_"})
        if (name.starts_with(family)) return "torque";
    for (const char* family : {"linkage_at_", "linkage_aligned", "linkage_unaligned"})
        if (name.starts_with(family)) return "flux_linkage";
    if (name.starts_with("inductance_at_")) return "inductance";
    if (name.starts_with("current_of_")) return "currents_of_elements";
    if (name.starts_with("potential_of_")) return "potentials_of_nodes";
    for (const std::string suffix : {"_dq", "_d", "_q"})
        if (name.find("inductance") != std::string::npos && name.ends_with(suffix))
            return without_end(name, suffix.size());
    for (const char* suffix : {"_uv", "_vw", "_wu"})
        if (name.ends_with(suffix)) return without_end(name, 3) + "_line";
    for (const char* suffix : {"_u", "_v", "_w"})
        if (name.ends_with(suffix)) return without_end(name, 2);
    for (const std::string suffix : {"_radial", "_tangential"})
        if (name.ends_with(suffix)) return without_end(name, suffix.size());
    return name;
}

std::string axis_words(const std::string& name, const std::string& unit) {
    const std::string text = figure_words(name);
    if (name == "rotor_angle" || name == "gap_angle") return text + ", ° mechanical";
    return unit == "1" ? text : text + ", " + shown_unit(unit);
}

constexpr const char* share_suffix = "_share";

std::string ranking_title(const std::string& name) {
    if (name == "heat_influence") return "winding warmer, K, by a tenth more resistance";
    if (name == "heat_flow") return "heat that flows, W";
    if (name == "misfit_of_each") return "computed less measured, K";
    if (name == "fitted_factor") return "fitted over the design's";
    if (name == "fitted_spread") return "what 1 K of each temperature leaves open";
    if (name.ends_with("_causes")) return figure_name(without_end(name, 7)).label + ": share of its variance";
    if (!name.ends_with(share_suffix)) return figure_words(name);
    return figure_name(without_end(name, 6)).label + ": % for 1 % more of a dimension";
}

CurveGroup group_of(const Curve& c, const std::string& family) {
    CurveGroup group;
    group.title = figure_words(family);
    group.names = {c.name};
    group.ranked = !c.labels.empty();
    if (group.ranked) group.title = ranking_title(c.name);
    group.bars = c.x_name.ends_with("_order");
    group.x_name = c.x_name;
    group.x_label = axis_words(c.x_name, c.x_unit);
    group.y_label = family == "plane_of_currents" ? "iq, A" : c.unit == "1" ? group.title : shown_unit(c.unit);
    if (const std::string end = "_distribution"; c.name.ends_with(end)) {
        group.title = figure_name(without_end(c.name, end.size())).label + ", distribution";
        group.y_label = "share of the machines";
    }
    if (group.bars && c.name == "winding_factor") group.title += " over " + figure_words(c.x_name);
    return group;
}

/// "torque_for_300_s" -> "torque for 5 min"; empty: no such name.
std::string words_of_a_while(const std::string& name) {
    const std::string before = "torque_for_";
    if (!name.starts_with(before)) return "";
    std::string_view rest;
    const auto seconds = read_number(std::string_view(name).substr(before.size()), rest);
    if (!seconds || rest != "_s") return "";
    return *seconds < 60 ? fmt::format("torque for {:.4g} s", *seconds)
                         : fmt::format("torque for {:.4g} min", *seconds / 60);
}

} // namespace

std::string figure_words(const std::string& name) {
    if (std::string words = words_of_a_while(name); !words.empty()) return words;
    std::string text = name;
    replace_all(text, "back_emf", "back-EMF");
    replace_all(text, "mmf", "MMF");
    std::replace(text.begin(), text.end(), '_', ' ');
    for (const std::string suffix : {" u", " v", " w", " uv", " vw", " wu", " thd"})
        if (text.ends_with(suffix))
            for (std::size_t k = text.size() - suffix.size(); k < text.size(); ++k)
                text[k] = char(std::toupper(static_cast<unsigned char>(text[k])));
    replace_all(text, " u spectrum", " U spectrum");
    return text;
}

std::string shown_unit(const std::string& unit) {
    std::string text = unit == "um" ? "µm" : unit;
    replace_all(text, ".", "·");
    for (const char* power : {"2", "3"})
        for (const char* base : {"m", "s", "A"})
            replace_all(text, std::string(base) + power, std::string(base) + (*power == '2' ? "²" : "³"));
    replace_all(text, "Ohm", "Ω");
    replace_all(text, "degC", "°C");
    replace_all(text, "deg", "°");
    return text;
}

namespace {

/// A unit in which a value of this size reads well, and what the value is multiplied by.
std::pair<double, std::string> scaled_unit(const std::string& unit, double size) {
    const std::string text = unit == "1" ? std::string() : shown_unit(unit);
    if (unit == "m3")
        return size < 0.1 ? std::pair(1e6, std::string("cm³")) : std::pair(1.0, std::string("m³"));
    if (unit == "N/m") return {1e-3, "N/mm"};
    if (unit == "s" && size >= 5 * 3600) return {1.0 / 3600, "h"};
    if (unit == "s" && size >= 300) return {1.0 / 60, "min"};
    if (unit == "kg" && size > 0 && size < 0.1) return {1e3, "g"};
    const bool takes_prefix =
        !text.empty() && unit != "deg" && unit != "degC" && unit != "K" && unit != "kg" && unit != "rpm";
    if (takes_prefix && size > 0 && size < 0.1) return {1e3, "m" + text};
    if (takes_prefix && size >= 1e4) return {1e-3, "k" + text};
    return {1, text};
}

} // namespace

std::string shown_figure(const Figure& figure) {
    if (!figure.value) return "–";
    const double value = *figure.value, size = std::abs(value);
    const auto named = [&](const char* part) { return figure.name.find(part) != std::string::npos; };
    if (figure.unit == "1" &&
        (named("efficiency") || named("_thd") || named("share_") || named("iron_loss_") || named("_left")))
        return fmt::format("{:.4g} %", 100 * value);
    if (figure.unit == "1" && size < 1e-9) return "0"; // what is left of sums
    const auto [scale, unit] = scaled_unit(figure.unit, size);
    std::string text = scale == 1 && size >= 1e4 && size < 1e7 ? fmt::format("{:.0f}", value)
                                                               : fmt::format("{:.4g}", value * scale);
    if (const double error = figure.error.value_or(0) * scale; error > 0) {
        // Both to the error's second digit.
        const int decimals = std::clamp(1 - int(std::floor(std::log10(error))), 0, 9);
        text = fmt::format("{:.{}f} ± {:.{}f}", value * scale, decimals, error, decimals);
    }
    return unit.empty() ? text : text + " " + unit;
}

std::vector<CurveGroup> curve_groups(const Answer& answer) {
    std::vector<CurveGroup> groups;
    std::vector<std::pair<std::string, std::string>> keys; // family, x name
    for (const Curve& c : answer.curves) {
        // What tells how sure a ranking is stands in the ranking's own picture; slopes over dimensions of
        // several kinds have no common axis, and their shares stand for them.
        if (!c.labels.empty() && (c.name.ends_with("_error") || answer.curve(c.name + share_suffix))) continue;
        if (c.x_name == "magnet_element") continue; // places, for a picture of the section
        const std::pair key{c.labels.empty() ? family_of(c.name) : c.name, c.x_name};
        const auto found = std::find(keys.begin(), keys.end(), key);
        if (found != keys.end()) {
            groups[std::size_t(found - keys.begin())].names.push_back(c.name);
            continue;
        }
        keys.push_back(key);
        groups.push_back(group_of(c, key.first));
    }
    // Curves over an angle come before spectra: they are what is looked at first.
    std::stable_partition(groups.begin(), groups.end(), [](const CurveGroup& g) { return !g.bars; });
    return groups;
}

std::vector<CurveGroup> fold_lines(const std::vector<CurveGroup>& groups) {
    const auto are_lines = [](const CurveGroup& lines, const CurveGroup& phases) {
        const std::string family = family_of(lines.names.front()), of = family_of(phases.names.front());
        return lines.x_name == phases.x_name && !lines.ranked &&
               (family == of + "_line" || family == "line_" + of);
    };
    std::vector<CurveGroup> out;
    for (const CurveGroup& group : groups) {
        const auto has_lines = [&](const CurveGroup& other) { return are_lines(group, other); };
        if (std::any_of(groups.begin(), groups.end(), has_lines)) continue;
        out.push_back(group);
        const auto lines = std::find_if(groups.begin(), groups.end(),
                                        [&](const CurveGroup& other) { return are_lines(other, group); });
        if (lines != groups.end()) out.back().line_names = lines->names;
    }
    return out;
}

} // namespace mavlo
