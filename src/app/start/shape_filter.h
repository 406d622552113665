#pragma once
// Starting shapes chosen by what they are: where the rotor is, and what draws it round.

#include "machine/machine.h"
#include "shell/flow_layout.h"

#include <QPushButton>
#include <QWidget>
#include <vector>

namespace mavlo::app {

/// Chips in two families; with none of a family lit, all of that family pass.
class ShapeFilter : public QWidget {
    Q_OBJECT
  public:
    explicit ShapeFilter(QWidget* parent = nullptr);

    bool passes(const Machine& machine) const;

  Q_SIGNALS:
    void changed();

  private:
    FlowLayout* m_families; ///< side by side where there is room
    std::vector<QPushButton*> m_chips;
};

/// Where a machine stands on the first page: the words over its family.
QString family_of(const Machine& machine);

} // namespace mavlo::app
