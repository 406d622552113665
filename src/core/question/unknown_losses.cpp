#include "question/unknown_losses.h"

#include "figure/loss_part.h"
#include "map/flux_map.h"

#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mavlo {
namespace {

std::vector<std::string> untold(const FluxMap& map) {
    std::vector<std::string> list;
    for (const auto& [part, words] : {std::pair{LossPart::IronStator, "of the stator's iron"},
                                      {LossPart::IronRotor, "of the rotor's iron"},
                                      {LossPart::Magnets, "of the magnets"}})
        if (map.unknown().has(part)) list.emplace_back(words);
    return list;
}

constexpr double most_disagreement = 0.05, least_told = 0.01, much_biased = 0.05;

} // namespace

void tell_extrapolated_losses(QuestionContext& c, const FieldLosses& losses, double f) {
    const double end = loss_table_end(c.machine), all = losses.iron(f);
    const auto share = all > 0 ? std::optional(f > end ? 1.0 : losses.beyond.at(f) / all) : std::nullopt;
    c.answer.figures.push_back({"iron_loss_extrapolated", share, "1"});
    const auto biased = all > 0 ? std::optional(losses.biased.at(f) / all) : std::nullopt;
    c.answer.figures.push_back({"iron_loss_biased", biased, "1"});
    if (biased && *biased >= much_biased)
        c.answer.sentence +=
            fmt::format(" {:.2g} % of the iron loss is hysteresis of loops on a bias, for which "
                        "the steel's table says too little.",
                        100 * *biased);
    if (!share || *share < least_told) return;
    c.answer.sentence +=
        f > end
            ? fmt::format(" All of the iron loss is extrapolated: its table ends at {:.4g} Hz.", end)
            : fmt::format(" {:.2g} % of the iron loss lies at flux densities beyond the steel's table and is "
                          "extrapolated.",
                          100 * *share);
}

void tell_extrapolated_losses(QuestionContext& c, double share) {
    c.answer.figures.push_back({"iron_loss_extrapolated", share, "1"});
    if (share >= least_told)
        c.answer.sentence += fmt::format(" Up to {:.2g} % of the iron loss lies at flux densities or "
                                         "frequencies beyond the steel's table and "
                                         "is extrapolated.",
                                         100 * share);
}

bool disagrees(const Balance& balance, double other) {
    return std::abs(balance.unaccounted(other)) > most_disagreement;
}

std::string disagreement_in_words(const Balance& balance, double other) {
    return fmt::format(
        " Of the largest power {:.2g} % is not accounted for, so that the efficiency is left open: "
        "take more steps of the map, or ask the fields.",
        100 * std::abs(balance.unaccounted(other)));
}

void tell_unknown_losses(QuestionContext& c, LossParts found) {
    if (const std::string words = unknown_losses_in_words(c.machine, found); !words.empty())
        c.answer.sentence += " " + words;
    if (!c.map) return;
    if (const auto parts = untold(*c.map); !parts.empty())
        c.answer.sentence += fmt::format(" The map brought along does not tell the loss {}: it, the sum of the "
                                         "losses, the shaft's power and the efficiency are left open.",
                                         fmt::join(parts, " and "));
    if (!c.map->knows_strands())
        c.answer.sentence +=
            " The map brought along does not tell what the magnets' field makes in the winding's "
            "strands: that is left out.";
}

} // namespace mavlo
