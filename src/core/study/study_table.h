#pragma once
// A study's figures as a table, in open formats.

#include "study/study.h"

#include <filesystem>

namespace mavlo {

struct StudyTable {
    struct Column {
        std::string name, unit;
        std::vector<std::string> texts{};             ///< of a varied parameter
        std::vector<std::optional<double>> numbers{}; ///< of a figure
    };
    std::vector<std::size_t> designs;  ///< their numbers in the study
    std::vector<Column> columns;       ///< varied ones first
    std::vector<std::string> problems; ///< a sentence for each design; empty where all is well
};

/// Figures by their names, of every question where the list is empty; "QUESTION.FIGURE" where questions share
/// a name. Designs outside the shard are left out.
StudyTable study_table(const Study& study, const std::vector<StudyRow>& rows,
                       const std::vector<std::string>& figures);

/// A head with units and a line a design.
std::string study_to_csv(const StudyTable& table);

/// Varied texts and figures as data sets (units as attributes), and every curve that all designs have at the
/// same places as a matrix: /curves/QUESTION/NAME with its x beside it. Written to a temporary name and
/// renamed.
std::optional<Problem> write_study_h5(const StudyTable& table, const Study& study,
                                      const std::vector<StudyRow>& rows, const std::filesystem::path& file);

} // namespace mavlo
