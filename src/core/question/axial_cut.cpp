#include "question/axial_cut.h"

#include <algorithm>

namespace mavlo {
namespace {

struct Place {
    const char *figure, *name;
    double x, y, width, height;
    bool mirrored;
};
constexpr Place places[] = {
    {"temperature_housing", "housing", 0.10, 0.14, 0.80, 0.09, false},
    {"temperature_end_shields", "shields", 0.10, 0.23, 0.035, 0.60, true},
    {"temperature_stator_yoke", "yoke", 0.32, 0.25, 0.36, 0.13, false},
    {"temperature_stator_teeth", "teeth", 0.32, 0.38, 0.18, 0.15, false},
    {"temperature_winding_slots", "winding", 0.50, 0.38, 0.18, 0.15, false},
    {"temperature_end_windings", "ends", 0.21, 0.36, 0.11, 0.17, true},
    {"temperature_magnets", "magnets", 0.32, 0.57, 0.36, 0.09, false},
    {"temperature_cage", "cage", 0.30, 0.57, 0.40, 0.09, false},
    {"temperature_rotor", "rotor", 0.32, 0.66, 0.36, 0.17, false},
    {"temperature_bearings", "bearings", 0.135, 0.66, 0.09, 0.17, true},
    {"temperature_shaft", "shaft", 0.02, 0.83, 0.96, 0.11, false},
};

struct Way {
    const char* name;
    double from_x, from_y, to_x, to_y;
};
constexpr Way ways[] = {{"housing to ambient", 0.26, 0.14, 0.26, 0.01},
                        {"stack to ambient", 0.46, 0.25, 0.46, 0.12},
                        {"housing to coolant", 0.74, 0.14, 0.74, 0.01},
                        {"housing to the wall", 0.86, 0.14, 0.86, 0.01},
                        {"stack to housing", 0.48, 0.29, 0.48, 0.17},
                        {"winding to stack", 0.60, 0.395, 0.60, 0.30},
                        {"end windings to inner air", 0.73, 0.36, 0.73, 0.25},
                        {"end shields to ambient", 0.90, 0.50, 0.945, 0.50},
                        {"rotor to gap", 0.60, 0.60, 0.60, 0.51},
                        {"bearings to end shields", 0.80, 0.65, 0.80, 0.55},
                        {"rotor to shaft", 0.60, 0.79, 0.60, 0.87}};

/// Parts with a thermometer, and the figure of what is left to their limit.
struct Limited {
    const char *figure, *name, *margin;
};
constexpr Limited limited[] = {{"temperature_winding_highest", "winding", "margin_winding"},
                            {"temperature_magnets_highest", "magnets", "margin_magnets"},
                            {"temperature_cage", "cage", ""},
                            {"temperature_stator_teeth", "teeth", ""},
                            {"temperature_housing", "housing", ""},
                            {"temperature_bearings", "bearings", ""}};

} // namespace

bool is_in_axial_cut(const std::string& figure) {
    return std::any_of(std::begin(places), std::end(places),
                       [&](const Place& p) { return figure == p.figure; });
}

std::optional<AxialCut> axial_cut(const Answer& answer) {
    const Curve* flows = answer.curve("heat_flow");
    if (!flows) return std::nullopt;
    AxialCut out;
    out.coldest = 1e9;
    out.hottest = -1e9;
    for (const Place& p : places) {
        const auto value = answer.figure(p.figure);
        if (!value) continue;
        out.bodies.push_back({p.name, *value, p.x, p.y, p.width, p.height, p.mirrored});
        out.coldest = std::min(out.coldest, *value);
        out.hottest = std::max(out.hottest, *value);
    }
    for (const Way& way : ways)
        for (std::size_t k = 0; k < flows->labels.size(); ++k)
            if (flows->labels[k] == way.name) {
                out.flows.push_back({way.from_x, way.from_y, way.to_x, way.to_y, flows->y[k]});
                out.most_watts = std::max(out.most_watts, flows->y[k]);
            }
    for (const Limited& g : limited) {
        const auto value = answer.figure(g.figure);
        if (!value) continue;
        const auto margin = answer.figure(g.margin);
        out.thermometers.push_back({g.name, *value, margin ? std::optional(*value + *margin) : std::nullopt});
    }
    return out;
}

} // namespace mavlo
