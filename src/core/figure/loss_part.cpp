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
            if (region.use == Use::Iron && !s.core_law().known())
                take(body.turns ? LossPart::IronRotor : LossPart::IronStator, s);
            if (region.use == Use::Iron && s.solid)
                take(body.turns ? LossPart::SolidRotor : LossPart::SolidStator, s);
            if (region.use == Use::Magnet && s.resistivity <= 0) take(LossPart::Magnets, s);
        }
}

/// Names, each once, in quotation marks.
class Names {
  public:
    void add(const Substance& s) {
        const std::string name = fmt::format("\"{}\"", s.material.name);
        if (std::find(m_names.begin(), m_names.end(), name) == m_names.end()) m_names.push_back(name);
    }
    bool empty() const { return m_names.empty(); }
    std::string joined() const { return fmt::format("{}", fmt::join(m_names, " and ")); }

  private:
    std::vector<std::string> m_names;
};

bool is_solid(LossPart part) {
    return part == LossPart::SolidStator || part == LossPart::SolidRotor;
}

} // namespace

LossParts unknown_losses(const Machine& machine) {
    LossParts parts;
    each_unknown(machine, [&](LossPart part, const Substance&) { parts.add(part); });
    return parts;
}

double loss_table_end(const Machine& machine) {
    double end = 1e300;
    for (const Substance& s : machine.substances)
        if (s.core_law().known()) end = std::min(end, s.material.loss.largest_frequency());
    return end;
}

LossParts solid_losses_of(const Machine& machine) {
    LossParts parts;
    each_unknown(machine, [&](LossPart part, const Substance&) {
        if (is_solid(part)) parts.add(part);
    });
    return parts;
}

std::string unknown_losses_in_words(const Machine& machine, LossParts found) {
    Names steels, grades, massive;
    each_unknown(machine, [&](LossPart part, const Substance& s) {
        if (!found.has(part)) (part == LossPart::Magnets ? grades : is_solid(part) ? massive : steels).add(s);
    });
    std::vector<std::string> nothing, sentences;
    if (!steels.empty()) nothing.push_back("the iron loss of " + steels.joined());
    if (!grades.empty()) nothing.push_back("the resistivity of " + grades.joined());
    constexpr const char* open =
        "that loss, and with it the sum of the losses, the shaft's power and the efficiency";
    if (!nothing.empty())
        sentences.push_back(fmt::format("Nothing is known of {}: {} are left open; give the material's data.",
                                        fmt::join(nothing, " and of "), open));
    if (!massive.empty())
        sentences.push_back(
            fmt::format("The eddy currents in the massive steel {} are in no map: {} are left open; "
                        "they are told with current, and on a supply by the fields.",
                        massive.joined(), open));
    return fmt::format("{}", fmt::join(sentences, " "));
}

} // namespace mavlo
