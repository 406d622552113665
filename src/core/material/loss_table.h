#pragma once
// Columns of a table as losses of a steel.

#include "material/column_table.h"
#include "material/iron_loss.h"

namespace mavlo {

/// Three columns are frequency in Hz, flux density in T and W/kg, in whatever order the headers or, without
/// them, the sizes tell. More (or two) are a flux density and the losses at the frequencies that their headers
/// name ("50 Hz"). Notes of what was understood are added. Fails when frequencies are not to be found.
Result<std::vector<LossPoint>> loss_points(const ColumnTable& table, std::vector<std::string>& notes);

} // namespace mavlo
