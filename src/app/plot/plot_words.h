#pragma once
// Words of figures and units as a designer reads them, and pictures of plots.

#include <QSharedPointer>
#include <QSize>
#include <QString>
#include <string>

class QCPAxis;
class QCPAxisTicker;
class QCustomPlot;

namespace mavlo::app {

/// "torque_mean" -> "torque mean"; "back_emf_uv" -> "back-EMF UV".
QString name_words(const std::string& name);
/// "N.m" -> "N·m"; "deg" -> "°".
QString unit_words(const std::string& unit);

/// An axis in the theme's colours and small type, with four digits.
void dress_axis(QCPAxis& axis);

/// Even ticks, each with the digits that tell it from its neighbours.
QSharedPointer<QCPAxisTicker> reading_ticker();

/// As .png of so many pixels (by 1.5), or as .svg or .pdf on a page of this size; false: it could not be
/// written, or is none of these.
bool save_picture(QCustomPlot& plot, const QString& file, QSize pixels, QSize page);

} // namespace mavlo::app
