#pragma once
// Columns of a table as points of a magnetisation curve: units, order, flux density or polarisation.

#include "material/bh_curve.h"
#include "material/column_table.h"
#include "quantity/unit.h"

#include <string>
#include <vector>

namespace mavlo {

/// How two columns of a table are to be understood.
struct BhColumns {
    std::size_t h = 0, b = 1;                 ///< columns
    std::string h_unit = "A/m", b_unit = "T"; ///< names of units
    bool polarisation = false;                ///< the second is J = B - mu0 H
    bool operator==(const BhColumns&) const = default;
};

/// What the headers say, and where they are silent, the sizes of the numbers.
BhColumns guess_bh_columns(const ColumnTable& table);

/// B = J + mu0 H where the table holds polarisation. Rows stay in their order and are judged elsewhere. Fails
/// when a column or unit does not exist.
Result<std::vector<BhPoint>> bh_points(const ColumnTable& table, const BhColumns& columns);

double polarisation(const BhPoint& point); ///< J = B - mu0 H, T

} // namespace mavlo
