#include "figure/current_wave.h"

#include "quantity/constants.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

double of(const std::vector<double>& list, std::size_t k, double standard) {
    return k < list.size() ? list[k] : standard;
}

/// A periodic table, straight between its values.
double in_table(const std::vector<double>& table, double angle) {
    if (table.empty()) return 0;
    const double place = (angle / (2 * pi) - std::floor(angle / (2 * pi))) * double(table.size());
    const auto i = std::size_t(place) % table.size(), next = (i + 1) % table.size();
    const double share = place - std::floor(place);
    return (1 - share) * table[i] + share * table[next];
}

} // namespace

void CurrentWave::set_series(int phase, double theta, std::vector<double> amperes) {
    if (m_vector) { // the same as a form, so that one phase may differ
        m_form = WaveForm::Sine;
        m_peak = std::hypot(m_vector->d, m_vector->q);
        m_advance = std::atan2(-m_vector->d, m_vector->q);
        m_vector.reset();
    }
    m_series_start = theta;
    m_series[phase] = std::move(amperes);
}

double CurrentWave::peak() const {
    return m_vector ? std::hypot(m_vector->d, m_vector->q) : m_peak;
}

CurrentWave CurrentWave::advanced(double angle) const {
    CurrentWave wave = *this;
    wave.m_advance += angle;
    if (m_vector) wave.m_vector = turned(*m_vector, angle); // the advance goes from +q towards -d
    return wave;
}

double CurrentWave::form(double argument) const {
    const double x = std::remainder(argument, 2 * pi), size = std::abs(x);
    // On an edge, between its two values.
    const auto step = [&](double at) { return size < at - 1e-9 ? 1.0 : size > at + 1e-9 ? 0.0 : 0.5; };
    switch (m_form) {
    case WaveForm::Sine:
        return std::cos(x);
    case WaveForm::Block120:
        return step(pi / 3) - (1 - step(2 * pi / 3));
    case WaveForm::Block180:
        return 2 * step(pi / 2) - 1;
    case WaveForm::Trapezoid:
        return std::clamp((pi / 2 - size) / (pi / 6), -1.0, 1.0);
    case WaveForm::Table:
    case WaveForm::Stroke: // see stroke()
        break;
    }
    return in_table(m_table, argument);
}

double CurrentWave::stroke(double angle) const {
    const double from_on = (angle - m_on) / (2 * pi), place = 2 * pi * (from_on - std::floor(from_on + 1e-12)),
                 width = m_off - m_on;
    const bool on_edge = std::abs(place) < 1e-9 || std::abs(place - width) < 1e-9;
    return on_edge ? 0.5 : place < width ? 1 : 0;
}

PhaseValues CurrentWave::at(double theta, const std::vector<double>& lags) const {
    if (m_vector) return to_phases(*m_vector, theta, lags);
    PhaseValues currents;
    for (std::size_t k = 0; k < lags.size(); ++k) {
        const double argument = theta - lags[k] - of(m_own_lags, k, 0) + m_advance + pi / 2;
        const bool off = m_open && *m_open == int(k);
        if (const auto series = m_series.find(int(k)); series != m_series.end()) {
            currents.push_back(in_table(series->second, theta - m_series_start));
            continue;
        }
        const double share =
            m_form == WaveForm::Stroke ? stroke(theta - lags[k] - of(m_own_lags, k, 0)) : form(argument);
        currents.push_back(off ? 0 : of(m_offsets, k, 0) + m_peak * of(m_amplitudes, k, 1) * share);
    }
    return currents;
}

bool CurrentWave::alike(bool switched) const {
    return m_vector || ((m_form != WaveForm::Table || switched) && m_amplitudes.empty() && m_offsets.empty() &&
                        m_own_lags.empty() && !m_open && m_series.empty());
}

CurrentWave stroke_wave(const Machine& machine, double current, double on, double off) {
    CurrentWave wave(WaveForm::Stroke, current, 0);
    wave.set_stroke(machine.pole_pairs() * on, machine.pole_pairs() * off);
    return wave;
}

CurrentWave rated_wave(const Machine& machine, double current, double advance) {
    if (!machine.facts().switched) return current_vector(current, advance);
    return stroke_wave(machine, current, machine.rating.turn_on, machine.rating.turn_off);
}

CurrentWave standing_currents(std::vector<double> amperes) {
    CurrentWave wave(WaveForm::Stroke, 0, 0);
    wave.set_offsets(std::move(amperes));
    return wave;
}

CurrentWave rated_wave(const Machine& machine) {
    return rated_wave(machine, machine.rating.current, machine.rating.advance);
}

const std::vector<std::string>& wave_words() {
    static const std::vector<std::string> words{"sine",      "block-120", "block-180",
                                                "trapezoid", "table",     "stroke"};
    return words;
}

WaveForm wave_form(const std::string& word) {
    const auto& words = wave_words();
    return WaveForm(std::find(words.begin(), words.end(), word) - words.begin());
}

} // namespace mavlo
