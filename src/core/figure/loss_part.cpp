#include "figure/loss_part.h"

#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mavlo {
namespace {

/// Calls `take` with every region of a body that says nothing of its loss, and the part it is.
template <typename Take>
void each_unknown(const Machine& machine, const Take& take) {
    for (const Body& body : machine.section.bodies)
        for (const Region& region : body.tile.regions) {
            if (region.substance < 0) continue;
            const Substance& s = machine.substances[std::size_t(region.substance)];
            if (region.use == Use::Iron && !s.material.loss.known())
                take(body.turns ? LossPart::IronRotor : LossPart::IronStator, s);
            if (region.use == Use::Magnet && s.resistivity <= 0) take(LossPart::Magnets, s);
        }
}

} // namespace

LossParts unknown_losses(const Machine& machine) {
    LossParts parts;
    each_unknown(machine, [&](LossPart part, const Substance&) { parts.add(part); });
    return parts;
}

std::string unknown_losses_in_words(const Machine& machine) {
    std::vector<std::string> steels, grades;
    each_unknown(machine, [&](LossPart part, const Substance& s) {
        auto& names = part == LossPart::Magnets ? grades : steels;
        const std::string name = fmt::format("\"{}\"", s.material.name);
        if (std::find(names.begin(), names.end(), name) == names.end()) names.push_back(name);
    });
    std::vector<std::string> sentences;
    if (!steels.empty()) sentences.push_back(fmt::format("the iron loss of {}", fmt::join(steels, " and ")));
    if (!grades.empty()) sentences.push_back(fmt::format("the resistivity of {}", fmt::join(grades, " and ")));
    if (sentences.empty()) return "";
    return fmt::format(
        "Nothing is known of {}: that loss, and with it the sum of the losses, the shaft's power "
        "and the efficiency are left open; give the material's data.",
        fmt::join(sentences, " and of "));
}

} // namespace mavlo
