#include "project/project.h"

#include "machine/machine.h"
#include "project/unknown_keys.h"

#include <algorithm>
#include <fmt/format.h>

namespace mavlo {
const Variant* Project::find(const std::string& variant) const {
    const auto found =
        std::find_if(variants.begin(), variants.end(), [&](const Variant& v) { return v.name == variant; });
    return found == variants.end() ? nullptr : &*found;
}

Variant* Project::find(const std::string& variant) {
    return const_cast<Variant*>(std::as_const(*this).find(variant));
}

const Variant& Project::in_hand() const {
    const Variant* found = find(active);
    return found ? *found : variants.front();
}

Problems check_project(const Project& project) {
    Problems problems;
    for (const auto& [pointer, text] : project.unknown)
        problems.push_back(
            {shown_path(pointer), "This key is not known at this place; remove it or correct its name."});
    for (const Variant& variant : project.variants) {
        const std::string where = project.variants.size() > 1 ? fmt::format("variant {}: ", variant.name) : "";
        for (const auto& [pointer, text] : variant.unknown) {
            const std::string path = shown_path(pointer);
            const auto near = similar_paths(path);
            problems.push_back(
                {where + path,
                 near.empty()
                     ? "There is no such parameter; the value is kept but not used."
                     : fmt::format(
                           "There is no such parameter; did you mean {}? The value is kept but not used.",
                           near.front())});
        }
        const auto machine = build_machine(variant.design, project.materials);
        if (machine) continue;
        for (const Problem& problem : machine.problems())
            problems.push_back({where + problem.path, problem.sentence});
    }
    return problems;
}

} // namespace mavlo
