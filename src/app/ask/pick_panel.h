#pragma once
// The working point picked on a map: what the map says of it, beside what the full field says once it was
// asked.

#include "question/answer.h"

#include <QLabel>
#include <QPushButton>
#include <QWidget>
#include <optional>

namespace mavlo::app {

/// A point of an efficiency map, read between its grid's points.
struct PickedPoint {
    double speed = 0, torque = 0; ///< rpm, N.m
    double id = 0, iq = 0;        ///< A
    double voltage = 0, loss = 0, efficiency = 0;
    double amplitude() const;
    double advance() const; ///< deg
};
/// Empty when the answer has no such maps, or the point lies outside.
std::optional<PickedPoint> pick(const Answer& efficiency_map, double speed, double torque);

class PickPanel : public QWidget {
    Q_OBJECT
  public:
    explicit PickPanel(QWidget* parent = nullptr);

    void show_point(const PickedPoint& point);
    const std::optional<PickedPoint>& point() const { return m_point; }
    void show_running();
    void show_full(const Answer& load); ///< the full answer at the point
    void clear();

  Q_SIGNALS:
    void probe_wanted();
    void check_wanted();

  private:
    void show_table(const Answer* load);

    QLabel* m_table;
    QPushButton *m_probe, *m_check;
    std::optional<PickedPoint> m_point;
};

} // namespace mavlo::app
