#pragma once
// Which phase is looked at alone on Wind: shared by belt, star and the arches over the section.

#include <QObject>

namespace mavlo::app {

class PhaseFocus : public QObject {
    Q_OBJECT
  public:
    /// -1: all.
    int phase() const { return m_phase; }
    bool shows(int phase) const { return m_phase < 0 || m_phase == phase; }
    void set_phase(int phase) {
        if (phase == m_phase) return;
        m_phase = phase;
        Q_EMIT changed();
    }
    /// The one that the section's overlays follow; there is one window.
    static PhaseFocus& shared() {
        static PhaseFocus focus;
        return focus;
    }

  Q_SIGNALS:
    void changed();

  private:
    int m_phase = -1;
};

} // namespace mavlo::app
