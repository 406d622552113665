#pragma once
// Phase currents over the electrical angle: a vector that turns with the rotor, or waves of other forms.

#include "figure/park.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

enum class WaveForm {
    Sine,
    Block120,  ///< on for 120 degrees, off for 60 between
    Block180,  ///< always on, one way or the other
    Trapezoid, ///< 120 degrees flat, 60 degrees from one side to the other
    Table,     ///< values over a period, evenly spaced, straight between
    Stroke,    ///< on, one way only, between two angles from each phase's aligned position
};

/// i_k(theta) = offset_k + I amplitude_k w(theta - lag_k - own lag_k + advance + pi/2), with w of peak 1 about
/// its argument 0 as the cosine has it: with advance 0 every form is in phase with the no-load EMF. Strokes are
/// counted from the aligned position itself, and know no advance.
class CurrentWave {
  public:
    CurrentWave() = default;
    /// Sinusoidal: the vector (A, peak) fixed to the rotor. Converts silently, since it is the usual case.
    CurrentWave(Dq vector) // NOLINT(google-explicit-constructor)
        : m_vector(vector) {}
    CurrentWave(WaveForm form, double peak, double advance)
        : m_vector(std::nullopt)
        , m_form(form)
        , m_peak(peak)
        , m_advance(advance) {}

    /// Shares of the peak over a period, from the wave's peak on (argument 0).
    void set_table(std::vector<double> shares) { m_table = std::move(shares); }
    /// Of each phase; missing ones are 1, 0 A and 0 rad.
    void set_amplitudes(std::vector<double> shares) { m_amplitudes = std::move(shares); }
    void set_offsets(std::vector<double> amperes) { m_offsets = std::move(amperes); }
    void set_own_lags(std::vector<double> lags) { m_own_lags = std::move(lags); }
    /// Where strokes begin and end, rad electrical.
    void set_stroke(double on, double off) {
        m_on = on;
        m_off = off;
    }
    /// This phase carries nothing.
    void open(int phase) { m_open = phase; }

    /// This phase carries these values (A) over an electrical period, evenly spaced from `theta` on (the same
    /// for all phases), whatever the form.
    void set_series(int phase, double theta, std::vector<double> amperes);

    /// Turned ahead by an electrical angle (rad).
    CurrentWave advanced(double angle) const;

    /// A, what all its values go with.
    double peak() const;

    PhaseValues at(double theta, const std::vector<double>& lags) const;
    /// Whether every phase carries the others' wave; where phases are not `switched` one after the other, each
    /// half the reverse of the other, too: what lets a part of the period tell the whole.
    bool alike(bool switched = false) const;
    bool operator==(const CurrentWave&) const = default;

  private:
    double form(double argument) const;
    double stroke(double angle) const;

    std::optional<Dq> m_vector = Dq{};
    WaveForm m_form = WaveForm::Sine;
    double m_peak = 0, m_advance = 0, m_on = 0, m_off = 0;
    std::vector<double> m_table, m_amplitudes, m_offsets, m_own_lags;
    std::optional<int> m_open;
    double m_series_start = 0;
    std::map<int, std::vector<double>> m_series; ///< by phase
};

/// The current (A) on in each switched phase between these angles (rad mechanical) of its aligned position.
CurrentWave stroke_wave(const Machine& machine, double current, double on, double off);

/// What stands for the machine's rating: its current at its advance, of switched phases strokes.
CurrentWave rated_wave(const Machine& machine);
/// The same with another current and advance.
CurrentWave rated_wave(const Machine& machine, double current, double advance);

/// These currents (A) at every position.
CurrentWave standing_currents(std::vector<double> amperes);

/// The forms by their words: "sine", "block-120", "block-180", "trapezoid", "table", "stroke".
const std::vector<std::string>& wave_words();
WaveForm wave_form(const std::string& word);

} // namespace mavlo
