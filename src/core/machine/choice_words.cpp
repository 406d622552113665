#include "machine/choice_words.h"

#include <algorithm>
#include <utility>

namespace mavlo {

std::string choice_words(const std::string& choice) {
    static constexpr std::pair<const char*, const char*> other[] = {
        {"vee", "V"},
        {"double-vee", "double V"},
        {"vee-bar", "V and flat"},
        {"bar", "flat, buried"},
        {"axial-one-rotor", "disc, one rotor"},
        {"axial-two-rotors", "disc, two rotors"},
        {"axial-two-stators", "disc, two stators"},
        {"linear", "straight"},
        {"sudden-two-phase", "sudden, two phases"},
        {"sudden-phase-to-neutral", "sudden, phase to neutral"},
        {"star-delta", "star, then delta"},
        {"block-120", "blocks of 120°"},
        {"block-180", "blocks of 180°"},
        {"inner-rotor", "rotor inside"},
        {"outer-rotor", "rotor outside"},
        {"non-magnetic", "non-magnetic"},
        {"die-cast", "die-cast"},
    };
    for (const auto& [word, words] : other)
        if (choice == word) return words;
    std::string words = choice;
    std::replace(words.begin(), words.end(), '-', ' ');
    return words;
}

} // namespace mavlo
