#pragma once
// The figures of an answer: what answers the question large, or drawn as a circuit or a cut along the axis; the
// others in named groups.

#include "ask/circuit_view.h"
#include "ask/heat_view.h"
#include "ask/loss_bar_view.h"
#include "question/answer.h"

#include <QHBoxLayout>
#include <QWidget>
#include <optional>

namespace mavlo::app {

class FigureBoard : public QWidget {
    Q_OBJECT
  public:
    explicit FigureBoard(QWidget* parent = nullptr);
    void show_answer(const Answer& answer);
    /// Only the large ones, and the bar of losses if wanted.
    void set_folded(bool folded, bool with_bar);

  private:
    void add_large(const Answer& answer);
    void add_groups(const Answer& answer);

    QHBoxLayout* m_large;
    CircuitView* m_circuit;
    HeatView* m_heat;
    LossBarView* m_bar;
    QWidget* m_rest;
    QHBoxLayout* m_columns;
    bool m_has_bar = false;
    std::optional<Answer> m_to_add; ///< whose groups are folded away and not made yet
};

} // namespace mavlo::app
