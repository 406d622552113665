#pragma once
// The question for a file to write, which never overwrites another unasked.

#include <QString>

class QWidget;

namespace mavlo::app {

/// With one of these suffixes (without their points; blanks between), the first where the user gives none; a
/// file that is there already under the whole name is asked about. Empty: none is wanted.
QString file_to_write(QWidget* parent, const QString& title, const QString& name, const QString& suffixes);

/// The name with a suffix, or empty where it is there already and shall stay.
QString with_suffix(QWidget* parent, const QString& given, const QString& suffixes);

} // namespace mavlo::app
