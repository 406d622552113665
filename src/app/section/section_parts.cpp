#include "section/section_parts.h"

#include <algorithm>

namespace mavlo::app {
namespace {

QString words_of(const DrawnRegion& region, bool turns) {
    switch (region.use) {
    case Use::Iron:
        return turns ? QObject::tr("iron of the rotor") : QObject::tr("iron of the stator");
    case Use::Magnet:
        return QObject::tr("magnets");
    case Use::Conductor:
        return QObject::tr("coil sides");
    case Use::Solid:
        return turns ? QObject::tr("bars or solid parts") : QObject::tr("solid parts");
    case Use::Air:
        break;
    }
    return turns ? QObject::tr("room in the rotor") : QObject::tr("room in the stator");
}

} // namespace

std::vector<SectionPart> section_parts(const DrawnMachine& built) {
    std::vector<SectionPart> list;
    for (const DrawnBody& body : built.drawing.bodies) {
        const double middle = (body.inner_radius + body.outer_radius) / 2;
        list.push_back({body.turns ? "rotor" : "stator",
                        body.steel,
                        body.turns ? QObject::tr("rotor") : QObject::tr("stator"),
                        {middle, 0}});
        std::vector<std::pair<std::string, int>> counts;
        for (const DrawnRegion& region : body.regions) {
            const auto known = std::find_if(counts.begin(), counts.end(),
                                            [&](const auto& c) { return c.first == region.path; });
            if (known != counts.end()) {
                ++known->second;
                continue;
            }
            counts.emplace_back(region.path, 1);
            list.push_back(
                {region.path, region.material, words_of(region, body.turns), centroid(region.polygon)});
        }
        for (SectionPart& part : list)
            for (const auto& [path, count] : counts)
                if (part.region == path) part.words += QStringLiteral(", %1").arg(count);
    }
    return list;
}

} // namespace mavlo::app
