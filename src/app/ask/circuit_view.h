#pragma once
// The circuit of one phase of an induction machine, drawn with its values.

#include "question/answer.h"

#include <QWidget>

namespace mavlo::app {

/// Symbols after IEC 60617. A second row of values, where a bench found some beside the fields'.
class CircuitView : public QWidget {
    Q_OBJECT
  public:
    explicit CircuitView(QWidget* parent = nullptr);
    /// Shows itself where the answer has a circuit's elements.
    void show_answer(const Answer& answer);
    /// Whether a figure is told in the drawing.
    static bool draws(const std::string& figure);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Element {
        QString symbol, value, beside;
    };
    Element m_r1, m_x1, m_rfe, m_xm, m_r2, m_x2;
};

} // namespace mavlo::app
