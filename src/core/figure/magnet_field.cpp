#include "figure/magnet_field.h"

#include <algorithm>

namespace mavlo {

std::vector<MagnetElement> magnet_elements(const MachineModel& model, const SideLoci& rotor) {
    std::vector<MagnetElement> list;
    Eigen::Index column = -1;
    for (std::size_t i : rotor.elements) {
        const auto& e = model.elements[i];
        const Part& part = model.part(e);
        if (has_mean(part)) ++column;
        if (part.use != Use::Magnet) continue;
        MagnetElement out{i, model.area(e), 0, std::size_t(part.substance), {}};
        for (int q = e.first; q < e.first + e.count; ++q) {
            const auto& p = model.points[std::size_t(q)];
            out.middle = out.middle + (p.weight / out.area) * p.at;
        }
        const Chart& chart = model.chart(part);
        const Point m = polar(1, part.direction.at(chart.angle(out.middle)));
        out.lowest = (m.x * rotor.mean_bx.col(column) + m.y * rotor.mean_by.col(column)).minCoeff();
        const double raised = model.machine.section.chart().flat - chart.flat;
        out.middle = chart.rolled({out.middle.x + raised, out.middle.y});
        list.push_back(out);
    }
    return list;
}

double exceeded_by_all_but(std::vector<MagnetElement> elements, double share) {
    if (elements.empty()) return 0;
    std::sort(elements.begin(), elements.end(),
              [](const MagnetElement& a, const MagnetElement& b) { return a.lowest < b.lowest; });
    double area = 0, seen = 0;
    for (const auto& e : elements) area += e.area;
    for (const auto& e : elements)
        if ((seen += e.area) >= share * area) return e.lowest;
    return elements.back().lowest;
}

double margin_of_all_but(std::vector<MagnetElement> elements, const std::vector<MagnetLine>& lines,
                         double share) {
    for (MagnetElement& e : elements) e.lowest -= lines[e.substance].knee;
    return exceeded_by_all_but(std::move(elements), share);
}

double share_below_knee(const std::vector<MagnetElement>& elements, const std::vector<MagnetLine>& lines) {
    double area = 0, below = 0;
    for (const auto& e : elements) {
        area += e.area;
        if (e.lowest < lines[e.substance].knee) below += e.area;
    }
    return area > 0 ? below / area : 0;
}

} // namespace mavlo
