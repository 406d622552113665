#include "transient/field_transient.h"

#include "circuit/delta.h"

#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr int most_rounds = 8, most_halvings = 8;
/// Steps after which the inductance is measured anew; sooner where a step took more than so many rounds.
constexpr int measured_for = 40, rounds_of_a_good_one = 3;
/// A step shorter than this share of the longest says little of the slope.
constexpr double telling = 0.1;
/// Square of the energy-norm error that the first attempt's field may have, from which the circuit learns most
/// of what it had not foreseen; and later ones'.
constexpr double first_tolerance = 1e-6, later_tolerance = 1e-8;
/// … and one whose linkage tells of the inductance.
constexpr double telling_tolerance = 1e-7;

/// Share of the longest step over which a missing linkage is brought in at the soonest.
constexpr double brought_in_over = 0.25;

/// … but never finer than what is taken.
double tolerance_in(int round, double taken) {
    return std::max(taken, round == 1 ? first_tolerance : round == 2 ? later_tolerance : taken);
}

Eigen::Vector3d to_vector(const PortValues& values) {
    return {values[0], values[1], values[2]};
}

} // namespace

FieldTransient::FieldTransient(const std::shared_ptr<const MachineModel>& model, const Conductance& conductance,
                               const Clock& clock, std::unique_ptr<Supply> supply,
                               FieldTransientOptions options, Stages stages, FieldRecord* record)
    : m_stepper(model, conductance, options.slices, stages, record)
    , m_clock(clock)
    , m_options(std::move(options))
    , m_run(m_local, clock, std::move(supply), m_options.circuit) {}

/// The run's currents are those of its terminals; the field has the phases'.
Currents FieldTransient::phases_of(const Currents& currents) const {
    return m_options.circuit.delta ? Currents(phases_of_delta() * currents) : currents;
}

Position FieldTransient::position(double t, const Currents& currents) const {
    const Currents i = phases_of(currents);
    return {m_options.motion.at(t), {i[0], i[1], i[2]}};
}

Eigen::Vector3d FieldTransient::linkage_of(const PortValues& section, const Currents& currents) const {
    const Eigen::Vector3d phases = to_vector(section) + m_options.end_inductance * phases_of(currents);
    return m_options.circuit.delta ? Eigen::Vector3d(phases_of_delta().transpose() * phases) : phases;
}

/// A star point joined to nothing feels no linkage that all phases share.
void FieldTransient::without_common(Eigen::Vector3d& linkage) const {
    if (!m_options.circuit.delta) linkage.array() -= linkage.mean();
}

std::optional<Problem> FieldTransient::measure_inductance() {
    const auto found = m_stepper.incremental_inductance();
    if (!found) return found.problems().front();
    for (int j = 0; j < 3; ++j)
        for (int k = 0; k < 3; ++k)
            m_local.inductance(j, k) =
                (*found)[std::size_t(j)][std::size_t(k)] + (j == k ? m_options.end_inductance : 0);
    if (m_options.circuit.delta)
        m_local.inductance = phases_of_delta().transpose() * m_local.inductance * phases_of_delta();
    m_since_measured = 0;
    return std::nullopt;
}

std::optional<Problem> FieldTransient::begin(const FieldStart& from) {
    const Currents& currents = from.currents;
    if (auto problem = m_stepper.begin(position(m_run.time(), currents), from.slices)) return problem;
    m_local.angle = m_clock.angle(m_run.time());
    m_local.current = currents;
    m_local.linkage = linkage_of(m_stepper.flux_linkage(), currents);
    m_local.torque = m_stepper.torque();
    m_missing.setZero();
    m_scale = std::max(m_scale, m_local.linkage.cwiseAbs().maxCoeff());
    if (auto problem = measure_inductance()) return problem;
    m_run.set_currents(currents);
    return std::nullopt;
}

double FieldTransient::current_noise() const {
    const double inductance = std::abs(m_local.inductance(0, 0) - m_local.inductance(0, 1));
    return inductance > 0 ? m_options.tolerance * m_scale / inductance : 0;
}

/// The slope that the last two steps let expect in the middle of the next, and what is missing with it.
void FieldTransient::predict(double end) {
    const double width = m_clock.angle(end) - m_clock.angle(m_run.time());
    m_local.slope = m_slope;
    if (m_width_before > 0)
        m_local.slope += (m_slope - m_slope_before) * (width + m_width) / (m_width + m_width_before);
    // Over a step far shorter than others only a part is brought in, or it would be a blow to the circuit.
    const double least = brought_in_over * 2 * EIGEN_PI / m_options.circuit.steps,
                 share = std::min(1.0, width / least);
    m_local.slope += share * m_missing / width;
    m_left_out = (1 - share) * m_missing;
}

Result<SteppedStack> FieldTransient::field_of(const Transient& run, const SteppedStack* tried,
                                              double tolerance) {
    const double t = m_run.time(), dt = run.time() - t, share = StackStepper::first_stage;
    const Currents between = (1 - share) * m_run.currents() + share * run.currents();
    return m_stepper.step(dt, position(t + share * dt, between), position(run.time(), run.currents()), tried,
                          tolerance);
}

Result<FieldTransient::Attempt> FieldTransient::attempt(double end, const SteppedStack* tried,
                                                        double tolerance) {
    Transient run(m_run);
    const auto at = run.advance(end, nullptr);
    if (!at) return at.problems();
    auto step = field_of(run, tried, tolerance);
    if (!step) return step.problems();
    return Attempt{run, *at, std::move(*step), tolerance};
}

/// Of the field's linkage with what the circuit took it for.
Eigen::Vector3d FieldTransient::disagreement(const Attempt& tried, const Eigen::Vector3d& linkage) const {
    Eigen::Vector3d wrong =
        linkage - m_left_out - m_local.at(m_clock.angle(tried.run.time()), tried.run.currents()).linkage;
    without_common(wrong);
    return wrong;
}

/// Broyden's rank-one update: the inductance then gives back the last change of linkage over current.
void FieldTransient::learn(const Eigen::Vector3d& current, const Eigen::Vector3d& linkage) {
    const double square = current.squaredNorm();
    if (square <= 0) return;
    m_local.inductance += (linkage - m_local.inductance * current) * current.transpose() / square;
}

/// A step that circuit and field cannot agree on is tried again at half its length, with a fresh inductance.
Result<FieldTransient::Attempt> FieldTransient::agree(double end) {
    for (int halved = 0;; ++halved) {
        m_disagree = false;
        auto tried = agree_on(end);
        if (tried || !m_disagree || halved == most_halvings) return tried;
        if (auto problem = measure_inductance()) return *problem;
        end = m_run.time() + (end - m_run.time()) / 2;
    }
}

/// Of the linkage beside what the current does, from the field at the step's beginning on.
Eigen::Vector3d FieldTransient::slope_over(double width, const Eigen::Vector3d& current,
                                           const Eigen::Vector3d& linkage) const {
    return (linkage - m_local.linkage - m_missing - m_local.inductance * (current - m_local.current)) / width;
}

Result<FieldTransient::Attempt> FieldTransient::agree_on(double end) {
    predict(end);
    m_tried_width = 0;
    Eigen::Vector3d current_before = Eigen::Vector3d::Zero(), linkage_before = current_before;
    std::optional<Attempt> last;
    for (int round = 1;; ++round) {
        auto tried =
            attempt(end, last ? &last->step : nullptr, m_has_events ? m_taken : tolerance_in(round, m_taken));
        if (!tried) return tried;
        if (tried->at == Transient::At::Event && !m_has_events) {
            // What cuts steps short, and what they lead to, must be known well; from here on all are.
            m_has_events = true;
            return agree_on(end);
        }
        const Currents& current = tried->run.currents();
        Eigen::Vector3d linkage = linkage_of(tried->step.flux_linkage, current);
        const double theta = m_clock.angle(tried->run.time()), width = theta - m_local.angle;
        m_scale = std::max(m_scale, linkage.cwiseAbs().maxCoeff());
        const auto agreed = [&] {
            return disagreement(*tried, linkage).cwiseAbs().maxCoeff() <= m_options.tolerance * m_scale;
        };
        if (tried->tolerance > m_taken && agreed()) {
            tried->tolerance = m_taken;
            auto step = field_of(tried->run, &tried->step, tried->tolerance);
            if (!step) return step.problems();
            tried->step = std::move(*step);
            linkage = linkage_of(tried->step.flux_linkage, current);
        }
        if (tried->tolerance <= m_taken && agreed()) {
            if (round > rounds_of_a_good_one) m_since_measured = measured_for;
            return tried;
        }
        if (round == most_rounds) {
            m_disagree = true;
            return Problem{"--with points",
                           fmt::format("Circuit and field do not agree at {:.6g} s; take more steps a period.",
                                       m_run.time())};
        }
        // Only what the current did teaches the inductance: both attempts must end at one instant.
        const bool same_end =
            last && std::abs(last->run.time() - tried->run.time()) < 1e-6 * (end - m_run.time());
        if (same_end && last->tolerance <= telling_tolerance &&
            (current - current_before).norm() > 1e-9 * current.norm())
            learn(current - current_before, linkage - linkage_before);
        if (width > m_tried_width) {
            m_tried_slope = slope_over(width, current, linkage);
            m_tried_width = width;
        }
        current_before = current;
        linkage_before = linkage;
        m_local.slope =
            (linkage - m_left_out - m_local.linkage - m_local.inductance * (current - m_local.current)) / width;
        last.emplace(std::move(*tried));
    }
}

void FieldTransient::note_slope(double width, const Eigen::Vector3d& slope) {
    m_slope_before = m_slope;
    m_width_before = m_width;
    m_slope = slope;
    m_width = width;
}

std::optional<Problem> FieldTransient::take(Attempt tried, bool begins, const StepObserver& observe) {
    const double from = m_run.time(), to = tried.run.time(), theta = m_clock.angle(to);
    const Currents current = tried.run.currents();
    const Eigen::Vector3d own = m_local.at(theta, current).linkage,
                          linkage = linkage_of(tried.step.flux_linkage, current);
    const double width = theta - m_local.angle, longest = 2 * EIGEN_PI / m_options.circuit.steps;
    if (width > telling * longest)
        note_slope(width, slope_over(width, current, linkage));
    else if (m_tried_width > telling * longest) {
        // An event cut the step short that a longer attempt had led to: what that one saw holds from here on,
        // or a diode at the edge of conducting would be let go and caught without end.
        note_slope(m_tried_width, m_tried_slope);
        m_width_before = 0;
    }
    m_missing = linkage - own;
    without_common(m_missing);
    m_local.angle = theta;
    m_local.current = current;
    m_local.linkage = linkage - m_missing;
    m_local.torque = tried.step.torque;
    m_run.go_on_from(tried.run);
    if (observe) observe({from, to, begins, tried.step});
    m_stepper.take(std::move(tried.step), to - from);
    if (++m_since_measured > measured_for) return measure_inductance();
    return std::nullopt;
}

std::optional<Problem> FieldTransient::run(double end, std::vector<TransientSample>* samples,
                                           const StepObserver& observe) {
    const double longest = m_clock.period() / m_options.circuit.steps, shortest = 1e-9 * longest;
    const auto record = [&] {
        if (samples) samples->push_back(m_run.sample());
    };
    record();
    for (bool begins = true; m_run.time() < end - shortest; begins = false) {
        // Equal steps up to the next edge, so that none is left over.
        const double stretch = std::min(end, m_run.supply().next_edge(m_run.time())) - m_run.time();
        const double to = m_run.time() + stretch / std::max(1.0, std::ceil(stretch / longest - 1e-6));
        auto tried = agree(to);
        if (!tried) return tried.problems().front();
        const Transient::At at = tried->at;
        if (auto problem = take(std::move(*tried), begins, observe)) return problem;
        record();
        if (m_options.stepped) m_options.stepped(m_run.sample());
        if (at == Transient::At::End) continue;
        m_run.pass(at);
        record();
    }
    return std::nullopt;
}

} // namespace mavlo
