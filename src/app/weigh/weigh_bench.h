#pragma once
// The Weigh bench: variants side by side, sweeps, trade-offs, the report.

#include "shell/desk.h"

#include <QWidget>

namespace mavlo::app {

class WeighBench : public QWidget {
    Q_OBJECT
  public:
    explicit WeighBench(Desk& desk, QWidget* parent = nullptr);
};

} // namespace mavlo::app
