#include "study/study_table.h"

#include "map/hdf5_set.h"
#include "quantity/csv.h"
#include "storage/file.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <limits>
#include <map>

namespace mavlo {
namespace {

bool wanted(const std::vector<std::string>& figures, const std::string& question, const std::string& figure) {
    return figures.empty() || std::find(figures.begin(), figures.end(), figure) != figures.end() ||
           std::find(figures.begin(), figures.end(), question + "." + figure) != figures.end();
}

/// Whether several of the study's questions have a figure of this name.
bool is_shared(const Study& study, const std::vector<StudyRow>& rows, const std::string& figure) {
    int having = 0;
    for (std::size_t q = 0; q < study.questions.size(); ++q)
        having += std::any_of(rows.begin(), rows.end(), [&](const StudyRow& row) {
            if (q >= row.answers.size() || !row.answers[q]) return false;
            const auto& list = row.answers[q]->figures;
            return std::any_of(list.begin(), list.end(), [&](const Figure& f) { return f.name == figure; });
        });
    return having > 1;
}

} // namespace

StudyTable study_table(const Study& study, const std::vector<StudyRow>& rows,
                       const std::vector<std::string>& figures) {
    StudyTable table;
    for (std::size_t d = 0; d < rows.size(); ++d) {
        if (rows[d].answers.empty()) continue;
        table.designs.push_back(d);
        std::vector<std::string> sentences;
        for (const Problem& p : rows[d].problems) sentences.push_back(to_string(p));
        table.problems.push_back(fmt::format("{}", fmt::join(sentences, " ")));
    }
    for (std::size_t k = 0; k < study.paths.size(); ++k) {
        StudyTable::Column column{study.paths[k], ""};
        for (std::size_t d : table.designs) column.texts.push_back(study.settings[d][k]);
        table.columns.push_back(std::move(column));
    }
    for (std::size_t q = 0; q < study.questions.size(); ++q) {
        std::vector<std::string> known;
        for (std::size_t d : table.designs) {
            if (!rows[d].answers[q]) continue;
            for (const Figure& figure : rows[d].answers[q]->figures) {
                if (!wanted(figures, study.questions[q].name, figure.name) ||
                    std::find(known.begin(), known.end(), figure.name) != known.end())
                    continue;
                known.push_back(figure.name);
                const bool shared = is_shared(study, rows, figure.name);
                StudyTable::Column column{shared ? study.questions[q].label + "." + figure.name : figure.name,
                                          figure.unit};
                for (std::size_t design : table.designs) {
                    const auto& answer = rows[design].answers[q];
                    column.numbers.push_back(answer ? answer->figure(figure.name) : std::nullopt);
                }
                table.columns.push_back(std::move(column));
            }
        }
    }
    return table;
}

std::string study_to_csv(const StudyTable& table) {
    std::string out = "design";
    for (const auto& column : table.columns)
        out += "," + csv_cell(column.unit.empty() || column.unit == "1"
                                  ? column.name
                                  : fmt::format("{} [{}]", column.name, column.unit));
    out += ",problem\n";
    for (std::size_t r = 0; r < table.designs.size(); ++r) {
        out += std::to_string(table.designs[r] + 1);
        for (const auto& column : table.columns) {
            out += ",";
            if (!column.texts.empty())
                out += csv_cell(column.texts[r]);
            else if (column.numbers[r])
                out += fmt::format("{}", *column.numbers[r]);
        }
        out += "," + csv_cell(table.problems[r]) + "\n";
    }
    return out;
}

namespace {

bool write_curves(hid_t file, const StudyTable& table, const Study& study, const std::vector<StudyRow>& rows) {
    for (std::size_t q = 0; q < study.questions.size(); ++q) {
        const Answer* first = nullptr;
        for (std::size_t d : table.designs)
            if (!first && rows[d].answers[q]) first = &*rows[d].answers[q];
        if (!first) continue;
        for (const Curve& curve : first->curves) {
            std::vector<double> values;
            bool same = true;
            for (std::size_t d : table.designs) {
                const auto& answer = rows[d].answers[q];
                const Curve* own = answer ? answer->curve(curve.name) : nullptr;
                same = same && (!answer || (own && own->x == curve.x));
                for (std::size_t i = 0; i < curve.x.size(); ++i)
                    values.push_back(own && same ? own->y[i] : std::numeric_limits<double>::quiet_NaN());
            }
            if (!same || curve.x.empty()) continue;
            const std::string name = fmt::format("curves/{}/{}", study.questions[q].name, curve.name);
            const hsize_t designs = table.designs.size(), points = curve.x.size();
            if (!hdf5::write_set(file, (name + "/y").c_str(), curve.unit.c_str(), {designs, points},
                                 values.data()) ||
                !hdf5::write_set(file, (name + "/x").c_str(), curve.x_unit.c_str(), {points}, curve.x.data()))
                return false;
        }
    }
    return true;
}

bool write(const StudyTable& table, const Study& study, const std::vector<StudyRow>& rows,
           const std::filesystem::path& path) {
    hdf5::be_quiet();
    const hdf5::File file(H5Fcreate(path.c_str(), H5F_ACC_TRUNC, H5P_DEFAULT, H5P_DEFAULT));
    if (file.id < 0) return false;
    const hsize_t count = table.designs.size();
    for (const auto& column : table.columns) {
        if (!column.texts.empty()) {
            std::vector<const char*> texts;
            for (const std::string& text : column.texts) texts.push_back(text.c_str());
            if (!hdf5::write_texts(file.id, ("varied/" + column.name).c_str(), texts)) return false;
            continue;
        }
        std::vector<double> values;
        for (const auto& number : column.numbers)
            values.push_back(number.value_or(std::numeric_limits<double>::quiet_NaN()));
        if (!hdf5::write_set(file.id, ("figures/" + column.name).c_str(), column.unit.c_str(), {count},
                             values.data()))
            return false;
    }
    return write_curves(file.id, table, study, rows) && H5Fflush(file.id, H5F_SCOPE_LOCAL) >= 0;
}

} // namespace

std::optional<Problem> write_study_h5(const StudyTable& table, const Study& study,
                                      const std::vector<StudyRow>& rows, const std::filesystem::path& file) {
    auto aside = FileAside::beside_named(file);
    if (!aside) return aside.problems().front();
    if (!write(table, study, rows, aside->path()))
        return Problem{file.string(),
                       "The study's table cannot be written; is the disk full or the folder closed?"};
    return aside->put_in_place();
}

} // namespace mavlo
