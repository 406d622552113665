#include "draw/shapes/typed_point.h"

#include "quantity/quantity.h"
#include "shell/typed_number.h"

#include <QObject>
#include <QRegularExpression>
#include <QStringList>

namespace mavlo::app {
namespace {

Result<double> value_of(const QString& text, const Dimension& wanted, const char* usual) {
    const auto quantity = parse_quantity(with_unit(typed_number(text.trimmed()), usual));
    if (!quantity) return quantity.problems();
    if (quantity->dimension != wanted)
        return Problem{{}, QObject::tr("“%1” is not what is wanted here.").arg(text.trimmed()).toStdString()};
    return quantity->si;
}

} // namespace

Result<double> typed_length(const QString& text) {
    return value_of(text, dimension::length, "mm");
}

Result<Point> typed_point(const QString& text, Point from, Point pointed) {
    if (const QStringList parts = text.split(QLatin1Char('<')); parts.size() == 2) {
        const auto length = typed_length(parts[0]), angle = value_of(parts[1], dimension::angle, "deg");
        if (!length) return length.problems();
        if (!angle) return angle.problems();
        return from + polar(*length, *angle);
    }
    const bool further = text.trimmed().startsWith(QLatin1Char('@'));
    const QString plain = further ? text.trimmed().mid(1) : text;
    if (const QStringList parts = plain.split(QRegularExpression(QStringLiteral("[,;]"))); parts.size() == 2) {
        const auto x = typed_length(parts[0]), y = typed_length(parts[1]);
        if (!x) return x.problems();
        if (!y) return y.problems();
        return further ? from + Point{*x, *y} : Point{*x, *y};
    }
    const auto length = typed_length(text);
    if (!length) return length.problems();
    const double there = distance(from, pointed);
    if (there <= 0)
        return Problem{{}, QObject::tr("Point into the direction first, or write length<angle.").toStdString()};
    return from + (*length / there) * (pointed - from);
}

} // namespace mavlo::app
