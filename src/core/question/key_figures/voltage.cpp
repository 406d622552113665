#include "question/circumstances.h"
#include "question/key_figure.h"
#include "question/period.h"

#include <fmt/format.h>

namespace mavlo::key_voltage {
namespace {

/// Peak of the phase voltage's fundamental at the rating over what the rated link gives.
std::optional<double> share_of_link(const QuickFields& f) {
    const Machine& m = f.model->machine;
    const double limit = m.wound() ? rated_voltage_limit(m) : 0;
    if (f.loaded.empty() || !f.conductor || limit <= 0) return std::nullopt;
    const Dq psi = mean_flux_linkage(m, period_series(f.loaded)),
             i = current_vector(m.rating.current, m.rating.advance);
    const double omega = m.pole_pairs() * m.rating.speed, r = f.conductor->resistance,
                 ends = f.conductor->end_inductance;
    return std::hypot(r * i.d - omega * (psi.q + ends * i.q), r * i.q + omega * (psi.d + ends * i.d)) / limit;
}

const Register<KeyFigure> voltage{{
    .name = "voltage_share",
    .order = 35,
    .label = "Voltage at rating, of what the link gives",
    .unit = "%",
    .factor = 100,
    .better = -1,
    .from_field = true,
    .joins = "back_emf_line_rms",
    .applies = [](const Facts& f) { return f.dq_frame; },
    .title = [](const Machine& m) { return fmt::format("Voltage, of {:.4g} V", rated_voltage_limit(m)); },
    .value = share_of_link,
}};

} // namespace
} // namespace mavlo::key_voltage
