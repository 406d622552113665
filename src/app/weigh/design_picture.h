#pragma once
// A design as its cross-section, small.

#include "shell/document.h"

#include <QWidget>

namespace mavlo::app {

class DesignPicture : public QWidget {
    Q_OBJECT
  public:
    explicit DesignPicture(QWidget* parent = nullptr);
    void show_design(const Project& project, const Design& design);
    void show_built(std::shared_ptr<const DrawnMachine> built); ///< null: nothing

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::shared_ptr<const DrawnMachine> m_built;
};

} // namespace mavlo::app
