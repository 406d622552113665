#pragma once
// Figures and expressions of them as a designer says them, and back.

#include "quantity/problem.h"

#include <QString>
#include <QStringList>
#include <optional>
#include <string>

namespace mavlo::app {

/// "torque_mean / mass_magnets" -> "mean torque / magnets".
QString expression_words(const std::string& expression);
/// The labels of figures that a design is weighed by, as expression_words() says them.
QStringList weighed_figures();
/// The name of the figure with this label; empty: there is none.
std::string figure_called(const QString& label);
/// What was typed as an expression: a label stands for its figure.
std::string expression_of(const QString& typed);
/// "slot fill at most 45 %", "mean torque at least 20 N.m" or "slot_fill <= 0.45" as a limit in SI.
Result<std::string> limit_of(const QString& sentence);

} // namespace mavlo::app
