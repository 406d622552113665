#pragma once
// Power from input to output, and under it the losses on the way, drawn out.

#include "question/figure_names.h"

#include <QWidget>

namespace mavlo::app {

class LossBarView : public QWidget {
    Q_OBJECT
  public:
    explicit LossBarView(QWidget* parent = nullptr);
    void show_bar(const std::optional<LossBar>& bar); ///< empty: nothing to show

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    std::optional<LossBar> m_bar;
};

} // namespace mavlo::app
