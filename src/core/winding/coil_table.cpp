#include "winding/coil_table.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>
#include <sstream>

namespace mavlo {
namespace {

constexpr int most_turns = 10000;
using Words = std::vector<std::string>;

Words split(const std::string& line) {
    const bool marked = line.find_first_of(",;\t") != std::string::npos;
    Words words;
    std::string word;
    const auto end_word = [&] {
        words.emplace_back(trim(word));
        word.clear();
    };
    for (char c : line) {
        const bool mark = marked ? c == ',' || c == ';' || c == '\t' : c == ' ';
        if (!mark)
            word += c;
        else if (marked || !word.empty())
            end_word();
    }
    if (marked || !word.empty()) end_word();
    return words;
}

enum Column { Number, GoSlot, GoLayer, BackSlot, BackLayer, Turns, Phase, Columns };

/// Which column each word of a header names; empty where it is none.
std::vector<Column> header(const Words& words) {
    std::vector<Column> columns;
    bool any = false;
    int layers = 0;
    for (const std::string& raw : words) {
        const std::string w = lower_case(raw);
        const auto has = [&](const char* part) { return w.find(part) != std::string::npos; };
        if (has("layer"))
            columns.push_back(has("return") || has("back") || layers++ > 0 ? BackLayer : GoLayer);
        else if (has("return") || has("back"))
            columns.push_back(BackSlot);
        else if (has("go") || has("slot"))
            columns.push_back(GoSlot);
        else if (has("turn"))
            columns.push_back(Turns);
        else if (has("phase"))
            columns.push_back(Phase);
        else if (has("coil"))
            columns.push_back(Number);
        else
            return {};
        any = true;
    }
    return any ? columns : std::vector<Column>{};
}

class Reader {
  public:
    explicit Reader(int phases)
        : m_phases(phases) {}

    Result<std::vector<Coil>> read(const std::string& text) {
        std::istringstream lines(text);
        std::vector<Coil> coils;
        int number = 0;
        for (std::string line; std::getline(lines, line);) {
            ++number;
            if (!line.empty() && line.back() == '\r') line.pop_back();
            if (trim(line).empty() || trim(line).front() == '#') continue;
            const Words words = split(line);
            if (coils.empty() && m_columns.empty()) {
                m_columns = header(words);
                if (!m_columns.empty()) continue;
            }
            auto coil = row(words, number);
            if (!coil) return coil.problems();
            coils.push_back(*coil);
        }
        if (coils.empty())
            return Problem{"coils",
                           "The table has no coils. A line holds coil, go slot, layer, return slot, layer, "
                           "turns, phase."};
        return coils;
    }

  private:
    Result<Coil> row(const Words& words, int line) {
        auto columns = m_columns;
        if (columns.empty()) {
            columns = {Number, GoSlot, GoLayer, BackSlot, BackLayer, Turns, Phase};
            if (words.size() == 6) columns.erase(columns.begin());
        }
        const auto wrong = [&](const std::string& what) {
            return Problem{fmt::format("coils, line {}", line), what};
        };
        if (words.size() != columns.size())
            return wrong(fmt::format("{} columns are wanted, not {}.", columns.size(), words.size()));
        Coil coil;
        for (std::size_t i = 0; i < words.size(); ++i) {
            const std::string& word = words[i];
            if (columns[i] == Number) continue;
            if (columns[i] == Phase) {
                if (!take_phase(word, coil))
                    return wrong(
                        fmt::format("\"{}\" is no phase; {} to {} are, with a minus for the other sense.", word,
                                    phase_name(0, m_phases), phase_name(m_phases - 1, m_phases)));
                continue;
            }
            if (columns[i] == BackSlot && (word.empty() || word == "-")) {
                coil.back = {outside_core, 0};
                continue;
            }
            std::string_view rest;
            const auto value = read_number(word, rest);
            const bool whole = value && rest.empty() && *value == std::rint(*value);
            if (columns[i] == Turns) {
                if (!value || !rest.empty() || *value == 0 || std::abs(*value) > most_turns)
                    return wrong(fmt::format("\"{}\" is no number of turns.", word));
                coil.turns = std::abs(*value);
                if (*value < 0) coil.sign = -coil.sign;
                continue;
            }
            if (columns[i] == BackLayer && coil.back.slot == outside_core && word.empty()) continue;
            if (!whole || *value < 0)
                return wrong(fmt::format("\"{}\" is no slot or layer; they count from 0.", word));
            (columns[i] == GoSlot     ? coil.go.slot
             : columns[i] == GoLayer  ? coil.go.layer
             : columns[i] == BackSlot ? coil.back.slot
                                      : coil.back.layer) = int(*value);
        }
        if (coil.back.slot == outside_core) coil.back.layer = 0;
        return coil;
    }

    bool take_phase(std::string word, Coil& coil) const {
        if (!word.empty() && (word[0] == '-' || word[0] == '+')) {
            if (word[0] == '-') coil.sign = -coil.sign;
            word = std::string(trim(word.substr(1)));
        }
        for (int k = 0; k < m_phases; ++k)
            if (lower_case(word) == lower_case(phase_name(k, m_phases))) {
                coil.phase = k;
                return true;
            }
        return false;
    }

    int m_phases;
    std::vector<Column> m_columns;
};

} // namespace

Result<std::vector<Coil>> coils_from_table(const std::string& text, int phases) {
    return Reader(phases).read(text);
}

std::string table_of_coils(const std::vector<Coil>& coils, int phases) {
    std::string text = "coil,go slot,layer,return slot,layer,turns,phase\n";
    for (std::size_t i = 0; i < coils.size(); ++i) {
        const Coil& c = coils[i];
        const bool ring = c.back.slot == outside_core;
        text += fmt::format("{},{},{},{},{},{},{}{}\n", i, c.go.slot, c.go.layer,
                            ring ? "" : std::to_string(c.back.slot), ring ? "" : std::to_string(c.back.layer),
                            number_text(c.turns, 9), c.sign < 0 ? "-" : "", phase_name(c.phase, phases));
    }
    return text;
}

Result<WindingLayout> layout_by_hand(const std::vector<Coil>& coils, const WindingInput& input) {
    WindingLayout layout;
    layout.input = input;
    layout.by_hand = true;
    layout.lags = phase_lags(input.phases, input.set_shift);
    layout.coils = coils;
    if (coils.empty()) return Problem{"coils", "There are no coils."};
    int layers = 1;
    std::map<std::pair<int, int>, std::size_t> places;
    std::set<int> phases;
    for (std::size_t i = 0; i < coils.size(); ++i) {
        const Coil& c = coils[i];
        const std::string path = fmt::format("coils[{}]", i);
        phases.insert(c.phase);
        if (c.phase < 0 || c.phase >= input.phases)
            return Problem{path, fmt::format("Coil {} belongs to phase {}, and there are {} phases.", i,
                                             c.phase + 1, input.phases)};
        std::vector<CoilSide> sides{c.go};
        if (c.back.slot != outside_core) sides.push_back(c.back);
        for (const CoilSide& side : sides) {
            if (side.slot < 0 || side.slot >= input.slots)
                return Problem{path, fmt::format("Coil {} lies in slot {}; the slots are 0 to {}.", i,
                                                 side.slot, input.slots - 1)};
            if (side.layer < 0 || side.layer > 7)
                return Problem{path,
                               fmt::format("Coil {} lies in layer {}; layers are 0 to 7.", i, side.layer)};
            layers = std::max(layers, side.layer + 1);
            const auto [known, fresh] = places.insert({{side.slot, side.layer}, i});
            if (!fresh)
                return Problem{path, fmt::format("Coils {} and {} lie in the same place, slot {}, layer {}.",
                                                 known->second, i, side.slot, side.layer)};
        }
    }
    if (int(phases.size()) < input.phases)
        return Problem{"coils", "Not every phase has a coil; give each one, or lower winding.phases."};
    if (layout.switched()) layout.lags = switched_lags(layout);
    layout.input.layers = layers;
    const bool tooth = std::all_of(coils.begin(), coils.end(), [&](const Coil& c) {
        const int span = span_of(c, input.slots);
        return span == 1 || span == input.slots - 1;
    });
    layout.sharing = layers == 1            ? SlotSharing::Whole
                     : layers == 2 && tooth ? SlotSharing::SideBySide
                                            : SlotSharing::Stacked;
    return layout;
}

PlacedSide side_at(const std::vector<Coil>& coils, CoilSide place) {
    for (std::size_t i = 0; i < coils.size(); ++i) {
        if (coils[i].go == place) return {int(i), true};
        if (coils[i].back == place) return {int(i), false};
    }
    return {};
}

std::vector<Coil> swapped(std::vector<Coil> coils, CoilSide a, CoilSide b) {
    const PlacedSide in_a = side_at(coils, a), in_b = side_at(coils, b);
    const auto put = [&](PlacedSide side, CoilSide where) {
        if (side.coil < 0) return;
        Coil& coil = coils[std::size_t(side.coil)];
        (side.go ? coil.go : coil.back) = where;
    };
    put(in_a, b);
    put(in_b, a);
    return coils;
}

} // namespace mavlo
