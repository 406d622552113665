#include "study/variation.h"

#include "machine/parameter.h"
#include "quantity/formula.h"
#include "quantity/latin_hypercube.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <boost/random/sobol.hpp>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int most_designs = 100000;

std::vector<std::string> parts_of(const std::string& text, char mark) {
    std::vector<std::string> parts{""};
    for (char c : text) {
        if (c == mark)
            parts.emplace_back();
        else
            parts.back() += c;
    }
    for (std::string& part : parts) part = std::string(trim(part));
    return parts;
}

/// A number with its unit, or bare with that behind the last of its list.
Result<double> number_of(const std::string& text, const std::string& shared, const Parameter& parameter) {
    auto quantity = parse_quantity(text);
    if (quantity && quantity->dimension.plain() && !shared.empty())
        quantity = parse_quantity(text + " " + shared);
    if (!quantity) return Problem{parameter.path, quantity.problems().front().sentence};
    if (quantity->dimension.plain() && !parameter.unit.empty())
        return from_unit(quantity->si, *find_unit(parameter.unit));
    if (quantity->dimension != parameter.dimension())
        return Problem{parameter.path,
                       fmt::format("\"{}\" is {}; {} is wanted here.", text, describe(quantity->dimension),
                                   describe(parameter.dimension()))};
    return quantity->si;
}

/// What stands behind a number: "8 mm" -> "mm".
std::string unit_behind(const std::string& text) {
    std::string_view rest;
    return read_number(text, rest) ? std::string(trim(rest)) : std::string();
}

std::string text_of(const Parameter& parameter, double si) {
    return parameter.kind == ParameterKind::Whole ? fmt::format("{}", std::lround(si))
                                                  : text_for(parameter, si, 12);
}

Result<Variation> range(const Parameter& parameter, const std::vector<std::string>& parts) {
    Variation v{parameter.path};
    // The unit may stand behind the last number, which may be the count.
    std::string shared = unit_behind(parts.back());
    if (shared.empty() && parts.size() > 1) shared = unit_behind(parts[1]);
    const auto low = number_of(parts[0], shared, parameter), high = number_of(parts[1], shared, parameter);
    if (!low) return low.problems();
    if (!high) return high.problems();
    v.low = *low;
    v.high = *high;
    if (parts.size() == 2) return v;
    std::string_view rest;
    const auto count = read_number(parts[2], rest);
    if (!count || *count != std::rint(*count) || *count < 1 || *count > most_designs)
        return Problem{parameter.path,
                       fmt::format("\"{}\" is no number of values; write FROM:TO:COUNT.", parts[2])};
    for (int k = 0; k < int(*count); ++k)
        v.texts.push_back(text_of(parameter, *count == 1 ? *low : *low + (*high - *low) * k / (*count - 1)));
    return v;
}

} // namespace

Result<Variation> read_variation(const std::string& text, const Design& design) {
    const auto equals = text.find('=');
    if (equals == std::string::npos)
        return Problem{"--vary", fmt::format("\"{}\" is no PATH=FROM:TO:COUNT or PATH=A,B,C.", text)};
    const std::string path(trim(text.substr(0, equals))), values(trim(text.substr(equals + 1)));
    const Parameter* parameter = find_parameter(path, design);
    if (!parameter) {
        const auto near = similar_paths(path);
        return Problem{path, near.empty()
                                 ? "There is no such parameter."
                                 : fmt::format("There is no such parameter; perhaps {}.", near.front())};
    }
    const auto ranged = parts_of(values, ':');
    if (!parameter->is_word() && ranged.size() >= 2 && ranged.size() <= 3 && !is_formula(values))
        return range(*parameter, ranged);
    Variation v{path};
    const auto list = parts_of(values, ',');
    const std::string shared = parameter->is_word() ? "" : unit_behind(list.back());
    for (const std::string& part : list) {
        if (part.empty()) return Problem{path, "A value of the list is missing."};
        if (parameter->is_word() || is_formula(part) || part == "auto") {
            v.texts.push_back(part);
            continue;
        }
        const auto si = number_of(part, shared, *parameter);
        if (!si) return si.problems();
        v.texts.push_back(text_of(*parameter, *si));
    }
    return v;
}

namespace {

using Settings = std::vector<std::vector<std::string>>;

Result<Settings> grid(const std::vector<Variation>& variations) {
    Settings all{{}};
    for (const Variation& v : variations) {
        if (v.texts.empty())
            return Problem{v.path, "A grid needs values: write FROM:TO:COUNT, or ask for samples."};
        Settings next;
        for (const auto& before : all)
            for (const std::string& text : v.texts) {
                next.push_back(before);
                next.back().push_back(text);
            }
        if (next.size() > std::size_t(most_designs))
            return Problem{"--vary", fmt::format("More than {} designs; take fewer values.", most_designs)};
        all = std::move(next);
    }
    return all;
}

Result<Settings> paired(const std::vector<Variation>& variations) {
    Settings all(variations.front().texts.size());
    for (const Variation& v : variations) {
        if (v.texts.empty() || v.texts.size() != all.size())
            return Problem{v.path, fmt::format("Values that go together must be as many: {} here, {} of {}.",
                                               v.texts.size(), all.size(), variations.front().path)};
        for (std::size_t k = 0; k < all.size(); ++k) all[k].push_back(v.texts[k]);
    }
    return all;
}

/// Shares in [0, 1) of each dimension, one row a sample.
std::vector<std::vector<double>> sobol(std::size_t dimensions, int count) {
    boost::random::sobol engine(dimensions);
    std::vector<std::vector<double>> rows(static_cast<std::size_t>(count), std::vector<double>(dimensions));
    // The engine gives 64 bits.
    const double scale = std::ldexp(1.0, -64);
    for (auto& row : rows)
        for (double& share : row) share = double(engine()) * scale;
    return rows;
}

} // namespace

std::vector<std::vector<double>> sample_shares(Sampled sampling, std::size_t dimensions, int count,
                                               unsigned seed) {
    return sampling == Sampled::Latin ? latin_hypercube(dimensions, count, seed) : sobol(dimensions, count);
}

std::string text_at(const Variation& v, double share, const Design& design) {
    if (v.texts.empty()) return text_of(*find_parameter(v.path, design), v.low + share * (v.high - v.low));
    return v.texts[std::min(std::size_t(share * double(v.texts.size())), v.texts.size() - 1)];
}

Result<std::vector<std::vector<std::string>>> settings_of(const std::vector<Variation>& variations,
                                                          Sampled sampling, int count, unsigned seed,
                                                          const Design& design) {
    if (variations.empty())
        return Problem{"--vary", "Nothing varies; a parameter with its values is wanted, FROM:TO:COUNT."};
    if (sampling == Sampled::Grid) return grid(variations);
    if (sampling == Sampled::Paired) return paired(variations);
    if (count < 1 || count > most_designs)
        return Problem{"--sample", fmt::format("Between 1 and {} samples are possible.", most_designs)};
    Settings all;
    for (const auto& row : sample_shares(sampling, variations.size(), count, seed)) {
        all.emplace_back();
        for (std::size_t d = 0; d < variations.size(); ++d)
            all.back().push_back(text_at(variations[d], row[d], design));
    }
    return all;
}

} // namespace mavlo
