#pragma once
// A starting shape as its own cross-section, to be clicked.

#include "project/project.h"
#include "shell/document.h"

#include <QAbstractButton>

namespace mavlo::app {

class ShapeTile : public QAbstractButton {
    Q_OBJECT
  public:
    ShapeTile(const StartingShape& shape, QWidget* parent = nullptr);

    const std::string& shape() const { return m_name; }
    const Machine& machine() const { return m_own->machine; } ///< with its own slots and poles
    /// The shape with these slots and poles; 0: with its own. Greyed where it cannot be built so.
    void set_pair(int slots, int poles);
    QSize sizeHint() const override { return {124, 128}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::string m_name;
    std::shared_ptr<const DrawnMachine> m_own, m_built;
};

/// The design that a start with this shape and pair makes; zeros: the shape's own.
Design starting_design(const std::string& shape, int slots, int poles);

} // namespace mavlo::app
