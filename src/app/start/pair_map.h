#pragma once
// Slots over poles as a map to click: how good a winding each pair allows.

#include "winding/slot_pole_pair.h"

#include <QWidget>
#include <map>
#include <optional>

namespace mavlo::app {

class PairMap : public QWidget {
    Q_OBJECT
  public:
    enum class Shown { WindingFactor, Cogging };

    explicit PairMap(QWidget* parent = nullptr);

    void set_winding(int phases, int layers);
    void set_shown(Shown shown);
    void choose(int slots, int poles);
    const std::optional<SlotPolePair>& chosen() const { return m_chosen; }
    QRectF cell(int slots, int poles) const; ///< empty outside the map
    QSize minimumSizeHint() const override { return {300, 260}; }

  Q_SIGNALS:
    void pair_chosen();
    void pair_pointed(const std::optional<mavlo::SlotPolePair>& pair, const QString& otherwise);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    std::optional<std::pair<int, int>> pair_at(QPointF at) const;
    const SlotPolePair* find(int slots, int poles) const;
    QColor colour_of(const SlotPolePair& pair) const;
    QString number_of(const SlotPolePair& pair) const;
    QString why_not(int slots, int poles) const;

    int m_phases = 3, m_layers = 2;
    Shown m_shown = Shown::WindingFactor;
    std::map<std::pair<int, int>, SlotPolePair> m_pairs;
    std::optional<SlotPolePair> m_chosen;
};

} // namespace mavlo::app
