#pragma once
// The current of a phase whose ends are joined, found beside the window for the currents of the others.

#include "figure/current_wave.h"
#include "shell/document.h"

#include <QObject>
#include <QTimer>
#include <optional>
#include <stop_token>
#include <vector>

namespace mavlo::app {

/// Asks `load` on a coarse mesh at rated speed; until that is there the phase carries nothing.
class ShortedPhase : public QObject {
    Q_OBJECT
  public:
    ShortedPhase(Document& document, QObject* parent);
    ~ShortedPhase() override;

    struct Wish {
        int phase = -1; ///< none
        std::string form = "sine";
        double peak = 0, advance = 0; ///< A, rad
        bool operator==(const Wish&) const = default;
    };
    /// Puts what is known onto the wave, and goes looking for what is not.
    void apply(CurrentWave& wave, const Wish& wish);
    void forget() { m_wish = {}; }

  Q_SIGNALS:
    void found();

  private:
    void ask();
    void take(const Wish& wish, std::optional<std::vector<double>> series);

    Document& m_document;
    Wish m_wish, m_known;
    std::vector<double> m_series; ///< A over an electrical period from the rotor's zero on
    std::stop_source m_stop;
    QTimer m_delay;
};

} // namespace mavlo::app
