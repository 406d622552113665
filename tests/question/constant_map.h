#pragma once
// A flux map of constant inductances, and figures of answers.

#include "question/question.h"

#include <memory>

namespace mavlo {

/// psi_d = psi + L_d i_d, psi_q = L_q i_q, with the torque that follows, up to `most` (A).
struct ConstantInductances {
    double psi, ld, lq;
    int pole_pairs;
};

inline std::shared_ptr<const FluxMap> constant_map(const ConstantInductances& m, double most) {
    std::vector<double> id, iq;
    std::vector<FluxPoint> points;
    for (int k = -4; k <= 4; ++k) id.push_back(most * k / 4);
    for (int k = 0; k <= 4; ++k) iq.push_back(most * k / 4);
    for (double q : iq)
        for (double d : id) {
            FluxPoint point;
            point.current = {d, q};
            point.flux_linkage = {m.psi + m.ld * d, m.lq * q};
            point.torque = 1.5 * m.pole_pairs * (point.flux_linkage.d * q - point.flux_linkage.q * d);
            points.push_back(point);
        }
    return std::make_shared<FluxMap>(id, iq, points);
}

/// A figure that the answer has.
inline double of(const Result<Answer>& answer, const char* name) {
    return *answer->figure(name);
}

} // namespace mavlo
