#pragma once
// QCustomPlot's header speaks Qt's lower-case keywords, which the rest of the program does without.

#include <QObject>

#define signals Q_SIGNALS
#define slots Q_SLOTS
#define emit Q_EMIT
#define foreach Q_FOREACH
#include <qcustomplot.h>
#undef signals
#undef slots
#undef emit
#undef foreach
