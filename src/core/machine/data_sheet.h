#pragma once
// A data sheet's table of dimensions, read in the order in which it stands.

#include "machine/equivalent.h"

namespace mavlo {

/// One line: "Stator outer diameter   120 mm".
struct SheetLine {
    std::string label, value;
    bool operator==(const SheetLine&) const = default;
};

struct SheetReading {
    SheetLine line;
    std::string path;  ///< of the parameter it gives; empty: not understood
    std::string label; ///< as the sheet of Mavlo calls it
    std::string words; ///< what is wrong with it; empty: taken
};

struct DataSheet {
    Design design; ///< with what could be taken
    std::vector<SheetReading> readings;
    std::vector<std::string> contradictions; ///< as sentences
    std::vector<std::string> missing;        ///< labels of the main dimensions that no line gave
};

/// Lines of text as label and value: parted by a tab, semicolon or colon, or before the last number.
std::vector<SheetLine> sheet_lines(const std::string& text);

/// What the lines say of a design that starts as `design`. A bare number has the quantity's own unit. Names are
/// those of the parameters and equivalents, their paths, and other words of the trade; unknown ones stay
/// unread. A dimension that is given twice, by itself and by an equivalent, is compared.
DataSheet read_data_sheet(const Design& design, const std::vector<SheetLine>& lines);

} // namespace mavlo
