#include "machine/parameter.h"

#include "machine/design.h"
#include "machine/tile_kind.h"

#include <algorithm>
#include <numeric>

namespace mavlo {
namespace {

using K = ParameterKind;

int edit_distance(std::string_view a, std::string_view b) { // Levenshtein 1966
    std::vector<int> row(b.size() + 1);
    std::iota(row.begin(), row.end(), 0);
    for (std::size_t i = 1; i <= a.size(); ++i) {
        int diagonal = row[0];
        row[0] = int(i);
        for (std::size_t j = 1; j <= b.size(); ++j) {
            const int above = row[j];
            row[j] = std::min({row[j] + 1, row[j - 1] + 1, diagonal + (a[i - 1] != b[j - 1])});
            diagonal = above;
        }
    }
    return row[b.size()];
}

/// Of a choice that other designs have other words for.
void add_words(Parameter& to, const Parameter& from) {
    for (const std::string& word : from.words)
        if (std::find(to.words.begin(), to.words.end(), word) == to.words.end()) to.words.push_back(word);
}

std::vector<Parameter> all_parameters() {
    std::vector<Parameter> all;
    const auto take = [&](const std::vector<Parameter>& list) {
        for (const Parameter& p : list) {
            const auto known =
                std::find_if(all.begin(), all.end(), [&](const Parameter& q) { return q.path == p.path; });
            if (known == all.end())
                all.push_back(p);
            else
                add_words(*known, p);
        }
    };
    for (const ParameterSet& set : registry<ParameterSet>().all()) take(set.parameters);
    for (const TileKind& kind : registry<TileKind>().all()) take(kind.parameters);
    std::stable_sort(all.begin(), all.end(),
                     [](const Parameter& a, const Parameter& b) { return a.order < b.order; });
    return all;
}

const Parameter* find_in(const std::vector<Parameter>& list, std::string_view path) {
    const auto found =
        std::find_if(list.begin(), list.end(), [&](const Parameter& p) { return p.path == path; });
    return found == list.end() ? nullptr : &*found;
}

/// Of several with this path the one that the design uses.
const Parameter* find_used(const std::vector<Parameter>& list, std::string_view path, const Design& design) {
    const Parameter* first = nullptr;
    for (const Parameter& p : list) {
        if (p.path != path) continue;
        if (!first) first = &p;
        if (!p.used || p.used(design)) return &p;
    }
    return first;
}

} // namespace

Dimension Parameter::dimension() const {
    return unit.empty() ? dimension::none : find_unit(unit)->dimension;
}

std::vector<std::string> Parameter::choices() const {
    return more_words ? more_words() : words;
}

const std::vector<Parameter>& parameters() {
    static const std::vector<Parameter> table = all_parameters(); // kinds register before main
    return table;
}

const Parameter* find_parameter(std::string_view path) {
    return find_in(parameters(), path);
}

const Parameter* find_parameter(std::string_view path, const Design& design) {
    for (const TileKind* kind : chosen_kinds(design))
        if (const Parameter* own = kind ? find_used(kind->parameters, path, design) : nullptr) return own;
    const Parameter* any = find_parameter(path);
    if (!any || !any->used || any->used(design)) return any;
    for (const ParameterSet& set : registry<ParameterSet>().all()) // of its namesakes the one in use
        if (!set.used || set.used(design))
            if (const Parameter* own = find_used(set.parameters, path, design)) return own;
    return any;
}

std::vector<const Parameter*> used_parameters(const Design& design) {
    std::vector<const Parameter*> list;
    const auto take = [&](const std::vector<Parameter>& from) {
        for (const Parameter& p : from)
            if (!p.used || p.used(design)) list.push_back(&p);
    };
    for (const ParameterSet& set : registry<ParameterSet>().all())
        if (!set.used || set.used(design)) take(set.parameters);
    for (const TileKind* kind : chosen_kinds(design))
        if (kind) take(kind->parameters);
    std::stable_sort(list.begin(), list.end(),
                     [](const Parameter* a, const Parameter* b) { return a->order < b->order; });
    return list;
}

std::vector<std::string> similar_paths(std::string_view path) {
    std::vector<std::pair<int, std::string>> near;
    for (const Parameter& p : parameters()) {
        const int cost = edit_distance(path, p.path);
        if (cost <= 4) near.emplace_back(cost, p.path);
    }
    std::sort(near.begin(), near.end());
    std::vector<std::string> names;
    for (auto& [cost, name] : near) names.push_back(name);
    return names;
}

const std::vector<DerivedQuantity>& derived_quantities() {
    static const std::vector<DerivedQuantity> list{
        {"gap_diameter", "mm",
         "Diameter of the stator at the air gap, whichever side the rotor is on; of axial machines the mean "
         "one."},
        {"pole_pitch", "mm", "Length of a pole's arc on the gap diameter."},
        {"slot_pitch", "mm", "Length of a slot pitch on the gap diameter."},
        {"slot_angle", "deg", "Mechanical angle of a slot pitch."},
        {"pole_angle", "deg", "Mechanical angle of a pole pitch."},
        {"bar_pitch", "mm", "Length of a pitch of a cage's bars on the gap diameter."},
        {"bar_angle", "deg", "Mechanical angle of a pitch of a cage's bars."},
        {"stator_thickness", "mm",
         "Thickness of the stator, from the gap to its other side; between two discs to its middle."},
        {"rotor_thickness", "mm",
         "Radial thickness of the rotor, from the gap to its other side or the shaft."},
        {"machine.active_width", "mm",
         "Of an axial machine's active ring, from its inner to its outer radius."},
    };
    return list;
}

namespace parameter {

Parameter length(std::string path, const char* standard, const char* label, const char* symbol,
                 const char* help, double low, double high) {
    return quantity(std::move(path), "mm", standard, label, symbol, help, low, high);
}
Parameter quantity(std::string path, const char* unit, const char* standard, const char* label,
                   const char* symbol, const char* help, double low, double high) {
    return {std::move(path), K::Quantity, unit, standard, label, symbol, help, low, high};
}
Parameter number(std::string path, const char* standard, const char* label, const char* symbol,
                 const char* help, double low, double high) {
    return {std::move(path), K::Number, "", standard, label, symbol, help, low, high};
}
Parameter whole(std::string path, const char* standard, const char* label, const char* symbol, const char* help,
                double low, double high) {
    return {std::move(path), K::Whole, "", standard, label, symbol, help, low, high};
}
Parameter choice(std::string path, std::vector<std::string> words, const char* label, const char* help) {
    Parameter p{std::move(path), K::Choice, "", words.front(), label, "", help, 1, 0};
    p.words = std::move(words);
    return p;
}
Parameter material(std::string path, const char* standard, const char* label, const char* help,
                   MaterialKind kind) {
    Parameter p{std::move(path), K::MaterialName, "", standard, label, "", help, 1, 0};
    p.material = kind;
    return p;
}
Parameter filling(std::string path, const char* label, const char* help) {
    return material(std::move(path), "air", label, help, MaterialKind::Air);
}
Parameter or_auto(Parameter p) {
    p.auto_allowed = true;
    return p;
}
Parameter when(bool (*used)(const Design&), Parameter p) {
    p.used = used;
    return p;
}

std::vector<Parameter> in_group(const char* page, const char* group, int order, std::vector<Parameter> list) {
    for (Parameter& p : list) {
        p.page = page;
        p.group = group;
        p.order = order++;
    }
    return list;
}

std::vector<Parameter> joined(std::initializer_list<std::vector<Parameter>> lists) {
    std::vector<Parameter> all;
    for (const auto& list : lists) all.insert(all.end(), list.begin(), list.end());
    return all;
}

} // namespace parameter
} // namespace mavlo
