#pragma once
// Columns of numbers out of a text, as data sheets and spreadsheets give them.

#include "quantity/problem.h"

#include <string>
#include <vector>

namespace mavlo {

struct ColumnTable {
    std::vector<std::string> headers; ///< of the columns; empty where the text has none
    std::vector<std::vector<double>> rows;
    std::vector<int> lines;         ///< of the text, from 1 on, for each row
    std::vector<std::string> notes; ///< what was left out or understood, as sentences

    std::size_t columns() const { return rows.empty() ? 0 : rows.front().size(); }
};

/// Reads columns parted by tabs, semicolons, commas or blanks, with decimal points or commas and thousands
/// marks of the other kind; UTF-8 or UTF-16. Lines before the first row are headers; a later line that is no
/// row is left out, and a note says so. Fails when no two rows of at least two numbers are found.
Result<ColumnTable> read_columns(std::string text);

} // namespace mavlo
