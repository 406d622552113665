#include "shell/typed_number.h"

#include <QLocale>
#include <QRegularExpression>

namespace mavlo::app {

std::string typed_number(const QString& text) {
    static const QRegularExpression decimal(QStringLiteral("^\\s*[+-]?\\d+,(\\d+)(?![\\d.])[^,;:]*$"));
    const auto match = decimal.match(text);
    const bool commas = QLocale().decimalPoint() == QStringLiteral(",");
    if (!match.hasMatch() || (match.capturedLength(1) == 3 && !commas)) return text.toStdString();
    return QString(text).replace(QLatin1Char(','), QLatin1Char('.')).toStdString();
}

} // namespace mavlo::app
