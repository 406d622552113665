#include "map/flux_map_file.h"

#include "map/hdf5_apart.h"
#include "map/hdf5_set.h"
#include "quantity/quantity.h"
#include "quantity/text.h"
#include "storage/file.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <set>
#include <sstream>

namespace mavlo {
namespace {

constexpr std::size_t most_points = 1000000, most_columns = 1000;

using Columns = std::map<std::string, std::vector<double>>; ///< by name, all of one length

Problem problem_with(const std::filesystem::path& file, std::string sentence) {
    return {file.string(), std::move(sentence)};
}

using namespace hdf5;

bool write_hdf5(const FluxMap& map, const std::filesystem::path& path) {
    be_quiet();
    const File file(H5Fcreate(path.c_str(), H5F_ACC_TRUNC, H5P_DEFAULT, H5P_DEFAULT));
    if (file.id < 0) return false;
    const hsize_t nx = map.id().size(), ny = map.iq().size();
    bool good = write_set(file.id, "id", "A", {nx}, map.id().data()) &&
                write_set(file.id, "iq", "A", {ny}, map.iq().data());
    for (std::size_t k = 2; k < FluxPoint::columns; ++k) {
        std::vector<double> values;
        for (const FluxPoint& point : map.points()) values.push_back(point.row()[k]);
        good =
            good && write_set(file.id, flux_columns()[k].name, flux_columns()[k].unit, {ny, nx}, values.data());
    }
    return good && H5Fflush(file.id, H5F_SCOPE_LOCAL) >= 0;
}

std::string csv_text(const FluxMap& map) {
    std::string out;
    for (std::size_t k = 0; k < FluxPoint::columns; ++k)
        out += fmt::format("{}{} [{}]", k ? "," : "", flux_columns()[k].name, flux_columns()[k].unit);
    out += '\n';
    for (const FluxPoint& point : map.points()) {
        const auto row = point.row();
        for (std::size_t k = 0; k < row.size(); ++k) out += fmt::format("{}{:.12g}", k ? "," : "", row[k]);
        out += '\n';
    }
    return out;
}

Result<Columns> read_csv(const std::filesystem::path& path) {
    const auto table = read_file(path);
    if (!table) return table.problems();
    std::istringstream in(*table);
    std::string line;
    if (!std::getline(in, line)) return problem_with(path, "The file is empty.");
    std::vector<std::string> names;
    for (std::size_t from = 0; from <= line.size();) {
        const std::size_t to = std::min(line.find(',', from), line.size());
        const std::string head = line.substr(from, to - from);
        names.emplace_back(trim(std::string_view(head).substr(0, head.find('['))));
        from = to + 1;
        if (std::count(names.begin(), names.end(), names.back()) > 1)
            return problem_with(path, fmt::format("The column \"{}\" stands twice; which one is meant?",
                                                  valid_utf8(names.back())));
    }
    if (names.size() > most_columns) return problem_with(path, "The first line names too many columns.");
    Columns columns;
    for (int row = 2; std::getline(in, line); ++row) {
        if (trim(line).empty()) continue;
        std::string_view text = line, rest;
        for (std::size_t k = 0; k < names.size(); ++k) {
            const auto number = read_number(trim(text), rest);
            rest = trim(rest);
            const bool last = k + 1 == names.size();
            if (!number || (last ? !rest.empty() : rest.empty() || rest.front() != ','))
                return problem_with(path, fmt::format("Line {} does not hold {} numbers.", row, names.size()));
            columns[names[k]].push_back(*number);
            if (!last) text = rest.substr(1);
        }
    }
    return columns;
}

Result<Columns> read_hdf5(const std::filesystem::path& path) {
    if (!std::filesystem::is_regular_file(path))
        return problem_with(path, "There is no such file, or it is none that can be read.");
    std::vector<std::string> names;
    for (const FluxColumn& column : flux_columns()) names.emplace_back(column.name);
    auto sets = read_apart(path, names);
    if (sets.empty()) return problem_with(path, "This is no HDF5 file with a flux map, or it is damaged.");
    const auto id = sets["id"].values, iq = sets["iq"].values;
    if (id.empty() || iq.empty() || id.size() * iq.size() > most_points || id.size() > most_points)
        return problem_with(path, "The data sets id and iq are missing, not finite, or larger than a map's.");
    Columns columns;
    for (double q : iq)
        for (double d : id) {
            columns["id"].push_back(d);
            columns["iq"].push_back(q);
        }
    for (std::size_t k = 2; k < FluxPoint::columns; ++k) {
        const char* name = flux_columns()[k].name;
        if (!sets.contains(name)) continue;
        auto& set = sets[name];
        if (set.size != std::vector<std::size_t>{iq.size(), id.size()})
            return problem_with(path, fmt::format("The data set {} has not the size of the grid, holds what is "
                                                  "not finite, or does not lie in this file.",
                                                  name));
        columns[name] = std::move(set.values);
    }
    return columns;
}

/// Losses that none of a map's columns tells.
LossParts untold(const Columns& columns) {
    const auto tells = [&](std::string_view begin) {
        return std::any_of(columns.begin(), columns.end(),
                           [&](const auto& column) { return column.first.starts_with(begin); });
    };
    LossParts open;
    if (!tells("stator_")) open.add(LossPart::IronStator);
    if (!tells("rotor_")) open.add(LossPart::IronRotor);
    if (!tells("magnet_loss")) open.add(LossPart::Magnets);
    return open;
}

Result<FluxMap> map_of(const Columns& columns, const std::filesystem::path& path) {
    for (const char* needed : {"id", "iq", "flux_linkage_d", "flux_linkage_q", "torque"})
        if (!columns.contains(needed))
            return problem_with(path, fmt::format("The column {} is missing.", needed));
    const auto &d = columns.at("id"), &q = columns.at("iq");
    const std::set<double> ids(d.begin(), d.end()), iqs(q.begin(), q.end());
    if (ids.size() < 2 || iqs.size() < 2 || ids.size() * iqs.size() != d.size() || *iqs.begin() > 0 ||
        *iqs.rbegin() <= 0)
        return problem_with(
            path, "The points must be a whole grid of at least two currents along d and two along q, with iq "
                  "from 0 on, or on both sides of it.");
    std::map<std::pair<double, double>, FluxPoint> points;
    for (std::size_t i = 0; i < d.size(); ++i) {
        std::vector<double> row;
        for (const FluxColumn& column : flux_columns()) {
            const auto found = columns.find(column.name);
            row.push_back(found == columns.end() ? 0 : found->second[i]);
        }
        points[{q[i], d[i]}] = FluxPoint::from_row(row);
    }
    if (points.size() != d.size()) return problem_with(path, "Some currents stand twice in the file.");
    std::vector<FluxPoint> ordered;
    ordered.reserve(points.size());
    for (const auto& [key, point] : points) ordered.push_back(point);
    FluxMap map({ids.begin(), ids.end()}, {iqs.begin(), iqs.end()}, std::move(ordered));
    map.leave_open(untold(columns));
    if (!columns.contains("strand_loss_per_hz2")) map.leave_strands_open();
    return map;
}

} // namespace

const std::array<FluxColumn, FluxPoint::columns>& flux_columns() {
    static constexpr std::array<FluxColumn, FluxPoint::columns> columns{
        {{"id", "A"},
         {"iq", "A"},
         {"flux_linkage_d", "Wb"},
         {"flux_linkage_q", "Wb"},
         {"torque", "N.m"},
         {"torque_peak_to_peak", "N.m"},
         {"stator_hysteresis_per_hz", "J"},
         {"stator_classical_per_hz2", "W.s2"},
         {"stator_excess_per_hz1.5", "W.s1.5"},
         {"stator_power_law_at_1hz", "W"},
         {"stator_power_law_exponent", "1"},
         {"stator_second_power_law_at_1hz", "W"},
         {"stator_second_power_law_exponent", "1"},
         {"rotor_hysteresis_per_hz", "J"},
         {"rotor_classical_per_hz2", "W.s2"},
         {"rotor_excess_per_hz1.5", "W.s1.5"},
         {"rotor_power_law_at_1hz", "W"},
         {"rotor_power_law_exponent", "1"},
         {"rotor_second_power_law_at_1hz", "W"},
         {"rotor_second_power_law_exponent", "1"},
         {"magnet_loss_per_hz2", "W.s2"},
         {"magnet_flux_density_least", "T"},
         {"common_linkage_third", "Wb"},
         {"common_linkage_ninth", "Wb"},
         {"strand_loss_per_hz2", "W.s2"},
         {"iron_loss_share_extrapolated", "1"},
         {"stator_sheet_skin_per_hz3", "s3"},
         {"rotor_sheet_skin_per_hz3", "s3"}}};
    return columns;
}

std::optional<Problem> write_flux_map(const FluxMap& map, const std::filesystem::path& file) {
    const std::string suffix = file.extension().string();
    if (suffix != ".h5" && suffix != ".csv") return problem_with(file, "A flux map is written as .h5 or .csv.");
    if (suffix == ".csv") return write_file_atomically(file, csv_text(map));
    auto aside = FileAside::beside_named(file);
    if (!aside) return aside.problems().front();
    if (!write_hdf5(map, aside->path()))
        return problem_with(file, "The flux map cannot be written; check the folder and the free space.");
    return aside->put_in_place();
}

Result<FluxMap> read_flux_map(const std::filesystem::path& file) {
    const auto columns = file.extension() == ".h5" ? read_hdf5(file) : read_csv(file);
    if (!columns) return columns.problems();
    return map_of(*columns, file);
}

} // namespace mavlo
