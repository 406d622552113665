#pragma once
// Numbers as a user types them: with a point or, where that leaves no doubt, a comma.

#include <QString>
#include <string>

namespace mavlo::app {

/// "0,9 mm" -> "0.9 mm". A comma in the number that a text begins with is a decimal one where it is the
/// text's only one, so that neither lists nor formulas are touched; with exactly three digits behind it
/// ("1,500") only where the desktop writes commas, for elsewhere it may mean thousands.
std::string typed_number(const QString& text);

} // namespace mavlo::app
