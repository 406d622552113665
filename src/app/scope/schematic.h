#pragma once
// The circuit of a supply and its machine, with what conducts at a moment lit and the currents as arrows.

#include "scope/time_record.h"

#include <QWidget>

namespace mavlo::app {

class Schematic : public QWidget {
    Q_OBJECT
  public:
    explicit Schematic(QWidget* parent = nullptr);
    /// `supply`: the question's word; arrows are as long as a current is of the largest.
    void set_supply(const std::string& supply, double largest_current, bool delta = false);
    void show_moment(const Moment& moment);
    /// Names of what conducts, for tests and readers of the screen: "U upper switch", "V lower diode".
    QStringList conducting() const;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paint_bridge(QPainter& painter, const std::array<QPointF, 3>& legs) const;
    void paint_sources(QPainter& painter, const std::array<QPointF, 3>& legs) const;
    void paint_machine(QPainter& painter, const std::array<QPointF, 3>& legs) const;
    void paint_star(QPainter& painter, const std::array<QPointF, 3>& ends) const;
    void paint_delta(QPainter& painter, const std::array<QPointF, 3>& ends) const;
    void paint_phase_words(QPainter& painter, const QRectF& where, int alignment, std::size_t phase,
                           const QString& between) const;
    void paint_arrow(QPainter& painter, QPointF at, int phase) const;
    double shown(double current) const;
    void paint_half_bridges(QPainter& painter) const;
    void paint_half_bridge(QPainter& painter, std::size_t phase, double left, double right) const;
    QStringList conducting_of_half_bridges() const;
    bool is_half_bridges() const { return m_supply == half_bridge_supply; }
    bool flows(double current) const { return shown(current) != 0; }
    bool is_bridge() const { return m_moment.gates.has_value(); }

    std::string m_supply;
    double m_largest = 1;
    bool m_delta = false;
    Moment m_moment;
};

} // namespace mavlo::app
