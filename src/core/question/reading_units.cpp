#include "question/reading_units.h"

#include "question/words.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace mavlo {
namespace {

struct Scale {
    double factor = 1;
    std::string unit;
};

Scale of_time(double largest) {
    if (largest >= 5 * 3600) return {1.0 / 3600, "h"};
    if (largest >= 300) return {1.0 / 60, "min"};
    return largest < 0.5 ? Scale{1e3, "ms"} : Scale{1, "s"};
}

/// Of an axis whose largest value is this.
Scale reading_scale(const std::string& unit, double largest) {
    static const std::set<std::string> plain{"1", "", "deg", "degC", "K", "kg", "rpm", "%", "Hz"};
    if (unit == "s" && largest > 0) return of_time(largest);
    if (plain.contains(unit) || !(largest > 0) || std::isdigit(static_cast<unsigned char>(unit.front())))
        return {1, unit};
    if (largest < 0.1) return {1e3, "m" + unit};
    if (largest >= 1e4) return {1e-3, "k" + unit};
    return {1, unit};
}

double largest_of(const std::vector<double>& values) {
    double most = 0;
    for (double v : values)
        if (std::isfinite(v)) most = std::max(most, std::abs(v));
    return most;
}

void scale(std::vector<double>& values, double factor) {
    for (double& v : values) v *= factor;
}

} // namespace

Answer in_reading_units(const Answer& answer) {
    Answer out = answer;
    for (const CurveGroup& group : curve_groups(answer)) {
        std::vector<Curve*> own;
        double x = 0, y = 0;
        for (Curve& c : out.curves) {
            if (c.x_name != group.x_name || !c.labels.empty() ||
                std::find(group.names.begin(), group.names.end(), c.name) == group.names.end())
                continue;
            own.push_back(&c);
            x = std::max(x, largest_of(c.x));
            y = std::max(y, largest_of(c.y));
        }
        for (Curve* c : own) {
            const Scale of_x = reading_scale(c->x_unit == "s" ? "s" : "1", x), of_y = reading_scale(c->unit, y);
            scale(c->y, of_y.factor);
            c->unit = of_y.unit;
            if (c->x_unit != "s") continue;
            scale(c->x, of_x.factor);
            c->x_unit = of_x.unit;
        }
    }
    return out;
}

Curve in_units_of(const Curve& shown, Curve curve) {
    const auto factor = [](const std::string& from, const std::string& to) {
        if (from == "s" && to == "min") return 1.0 / 60;
        if (from == "s" && to == "h") return 1.0 / 3600;
        return to == "m" + from ? 1e3 : to == "k" + from ? 1e-3 : 1.0;
    };
    scale(curve.x, factor(curve.x_unit, shown.x_unit));
    scale(curve.y, factor(curve.unit, shown.unit));
    curve.x_unit = shown.x_unit;
    curve.unit = shown.unit;
    return curve;
}

} // namespace mavlo
