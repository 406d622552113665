#pragma once
// What the tests share: designs from a few texts, reference data, and comparisons that print both numbers.

#include "machine/machine.h"

#include <QFile>
#include <QTest>
#include <cmath>
#include <initializer_list>
#include <nlohmann/json.hpp>

namespace mavlo {

inline Design design_of(std::initializer_list<std::pair<const char*, std::string>> texts) {
    Design design;
    for (const auto& [path, text] : texts) design.texts[path] = text;
    return design;
}

inline nlohmann::json reference(const char* file) {
    QFile source(QStringLiteral(TEST_DATA "/") + QString::fromLatin1(file));
    if (!source.open(QIODevice::ReadOnly)) qFatal("no reference data %s", file);
    return nlohmann::json::parse(source.readAll().toStdString());
}

/// Largest difference of two vectors over the largest entry of the second.
inline double relative_difference(const std::vector<double>& a, const std::vector<double>& b) {
    double largest = 0, difference = 0;
    for (std::size_t i = 0; i < a.size(); ++i) {
        largest = std::max(largest, std::abs(b[i]));
        difference = std::max(difference, std::abs(a[i] - b[i]));
    }
    return difference / largest;
}

inline Machine machine_of(const Design& design, MachineOptions options = {}) {
    auto machine = build_machine(design, {}, options);
    if (!machine)
        qFatal("the test's machine cannot be built: %s", to_string(machine.problems().front()).c_str());
    return *machine;
}

/// The sentence of the first problem with this path; empty when there is none.
inline std::string sentence_at(const Problems& problems, const std::string& path) {
    for (const Problem& p : problems)
        if (p.path == path) return p.sentence;
    return {};
}

/// A machine of the slotted reference data.
inline Design slotted_reference(const nlohmann::json& g) {
    auto metres = [](double x) { return std::to_string(x * 1e3) + " mm"; };
    const double bore = g["Rs"], magnet = g["Rm"];
    const double tip = g["Rt"].is_null() ? 0 : g["Rt"].get<double>() - bore;
    return design_of({{"machine.stack_length", metres(g["L"])},
                      {"gap", metres(bore - magnet)},
                      {"stator.outer_diameter", metres(2 * g["suggested_outer_radius"].get<double>())},
                      {"stator.bore_diameter", metres(2 * bore)},
                      {"stator.slots", std::to_string(g["Q"].get<int>())},
                      {"stator.steel", "linear(inf)"},
                      {"rotor.steel", "linear(inf)"},
                      {"stator.slot.kind", "radial"},
                      {"stator.slot.opening_angle", std::to_string(g["beta_deg"].get<double>()) + " deg"},
                      {"stator.slot.body_angle", std::to_string(g["delta_deg"].get<double>()) + " deg"},
                      {"stator.slot.depth", metres(g["Rb"].get<double>() - bore)},
                      {"stator.slot.tip_depth", metres(tip)},
                      {"rotor.poles", std::to_string(2 * g["p"].get<int>())},
                      {"rotor.magnet.thickness", metres(magnet - g["Rr"].get<double>())},
                      {"rotor.magnet.arc", std::to_string(g["arc"].get<double>())},
                      {"rotor.magnet.magnetisation", g["magnetisation"].get<std::string>()},
                      {"rotor.magnet.grade", "magnet(1.1 T, 1.0)"},
                      {"rotor.shaft_diameter", metres(0.6 * g["Rr"].get<double>())},
                      {"winding.span", "1"},
                      {"winding.turns", std::to_string(g["N_turns"].get<int>())},
                      {"rating.current", std::to_string(g["I_peak"].get<double>()) + " A"},
                      {"rating.speed", std::to_string(g["rpm"].get<double>()) + " rpm"}});
}

} // namespace mavlo

/// |actual - wanted| <= tolerance, with both in the message.
#define CLOSE(actual, wanted, tolerance)                                                                       \
    do {                                                                                                       \
        const double close_a = (actual), close_w = (wanted), close_t = (tolerance);                            \
        if (!(std::abs(close_a - close_w) <= close_t))                                                         \
            QFAIL(qPrintable(QStringLiteral("%1 is %2, wanted %3 ± %4")                                        \
                                 .arg(QStringLiteral(#actual))                                                 \
                                 .arg(close_a, 0, 'g', 10)                                                     \
                                 .arg(close_w, 0, 'g', 10)                                                     \
                                 .arg(close_t)));                                                              \
    } while (false)
