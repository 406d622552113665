#include "ask/answer_view.h"

#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

/// Name without the phase at its end, so that U, V and W share a plot: "voltage_u" -> "voltage".
std::string family_of(const std::string& name) {
    if (name.starts_with("plane_")) return "plane_of_currents";
    if (name.starts_with("loss_")) return "losses";
    if (name.starts_with("flux_density_")) return "flux_density_along_the_remanence";
    for (const char* family : {"torque_at_", "best_torque", "torque_magnets_"})
        if (name.starts_with(family)) return "torque";
    for (const char* family : {"linkage_at_", "linkage_aligned", "linkage_unaligned"})
        if (name.starts_with(family)) return "flux_linkage";
    if (name.starts_with("inductance_at_")) return "inductance";
    if (name.starts_with("current_of_")) return "currents_of_elements";
    if (name.starts_with("potential_of_")) return "potentials_of_nodes";
    for (const char* suffix : {"_dq", "_d", "_q"})
        if (name.find("inductance") != std::string::npos && name.ends_with(suffix))
            return name.substr(0, name.size() - std::string(suffix).size());
    for (const char* suffix : {"_uv", "_vw", "_wu"})
        if (name.ends_with(suffix)) return name.substr(0, name.size() - 3) + "_line";
    for (const char* suffix : {"_u", "_v", "_w"})
        if (name.ends_with(suffix)) return name.substr(0, name.size() - 2);
    for (const char* suffix : {"_radial", "_tangential"})
        if (name.ends_with(suffix)) return name.substr(0, name.size() - std::string(suffix).size());
    return name;
}

QString axis_words(const std::string& name, const std::string& unit) {
    QString text = name_words(name);
    if (name == "rotor_angle" || name == "gap_angle")
        text += QStringLiteral(", ° mechanical");
    else if (unit != "1")
        text += QStringLiteral(", ") + unit_words(unit);
    return text;
}

} // namespace

QString figure_text(const Figure& figure) {
    if (!figure.value) return QStringLiteral("–");
    const double value = *figure.value;
    QString unit = figure.unit == "1" ? QString() : unit_words(figure.unit);
    if (figure.name.find("efficiency") != std::string::npos && figure.unit == "1")
        return QString::number(100 * value, 'g', 4) + QStringLiteral(" %");
    const double size = std::abs(value);
    double scale = 1;
    if (!unit.isEmpty() && unit != QStringLiteral("°") && size > 0 && size < 0.1)
        scale = 1e3, unit.prepend('m');
    else if (!unit.isEmpty() && unit != QStringLiteral("°") && size >= 1e4)
        scale = 1e-3, unit.prepend('k');
    QString text = QString::number(value * scale, 'g', 4);
    if (const double error = figure.error.value_or(0) * scale; error > 0) {
        // Both to the error's second digit.
        const int decimals = std::clamp(1 - int(std::floor(std::log10(error))), 0, 9);
        text = QString::number(value * scale, 'f', decimals) + QStringLiteral(" ± ") +
               QString::number(error, 'f', decimals);
    }
    return text + (unit.isEmpty() ? QString() : QStringLiteral(" ") + unit);
}

std::vector<PlotGroup> plot_groups(const Answer& answer) {
    std::vector<PlotGroup> groups;
    std::vector<std::pair<std::string, std::string>> keys; // family, x name
    for (const Curve& c : answer.curves) {
        const std::pair key{family_of(c.name), c.x_name};
        const auto found = std::find(keys.begin(), keys.end(), key);
        if (found != keys.end()) {
            groups[std::size_t(found - keys.begin())].names.push_back(c.name);
            continue;
        }
        keys.push_back(key);
        const bool spectrum = c.x_name.ends_with("_order");
        const QString unit = unit_words(c.unit);
        PlotGroup group{name_words(key.first),
                        {c.name},
                        axis_words(c.x_name, c.x_unit),
                        key.first == "plane_of_currents" ? QStringLiteral("iq, A")
                        : c.unit == "1"                  ? name_words(key.first)
                                                         : unit,
                        spectrum};
        if (spectrum && c.name == "winding_factor")
            group.title += QStringLiteral(" over ") + name_words(c.x_name);
        groups.push_back(group);
    }
    // Curves over an angle come before spectra: they are what is looked at first.
    std::stable_partition(groups.begin(), groups.end(), [](const PlotGroup& g) { return !g.bars; });
    return groups;
}

} // namespace mavlo::app
