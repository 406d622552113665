#include "compute/live_field.h"

#include "quantity/failure.h"
#include "quantity/stop_point.h"

#include <chrono>

namespace mavlo::app {

LiveField::LiveField(ModelCache& cache, QObject* parent)
    : QObject(parent)
    , m_cache(cache) {
    qRegisterMetaType<std::shared_ptr<const LiveResult>>("std::shared_ptr<const LiveResult>");
    m_thread = std::jthread([this](const std::stop_token& quit) { run(quit); });
}

LiveField::~LiveField() {
    end();
}

void LiveField::end() {
    m_thread.request_stop();
    m_wake.notify_all();
    if (m_thread.joinable()) m_thread.join();
}

void LiveField::request(const LiveRequest& request) {
    if (!request.built) return;
    {
        const std::lock_guard lock(m_mutex);
        m_next = request;
    }
    m_wake.notify_all();
}

bool LiveField::is_idle() const {
    const std::lock_guard lock(m_mutex);
    return !m_next && m_running == 0;
}

void LiveField::run(const std::stop_token& quit) {
    while (!quit.stop_requested()) {
        LiveRequest request;
        {
            std::unique_lock lock(m_mutex);
            m_wake.wait(lock, quit, [this] { return m_next.has_value(); });
            if (quit.stop_requested()) return;
            request = *m_next;
            m_next.reset();
            ++m_running;
        }
        std::shared_ptr<const LiveResult> result;
        try {
            const StopScope scope(quit);
            result = solve(request);
        } catch (...) {
            auto failed = std::make_shared<LiveResult>();
            failed->request = request;
            failed->problems = {failure_in_words()};
            m_solver.reset();
            m_last.reset();
            result = failed;
        }
        QMetaObject::invokeMethod(
            this,
            [this, result] {
                {
                    const std::lock_guard lock(m_mutex);
                    --m_running;
                }
                Q_EMIT solved(result);
            },
            Qt::QueuedConnection);
    }
}

std::shared_ptr<const LiveResult> LiveField::solve(const LiveRequest& request) {
    const auto start = std::chrono::steady_clock::now();
    auto result = std::make_shared<LiveResult>();
    result->request = request;
    auto model = m_cache.model(*request.built, request.quality);
    if (!model) {
        result->problems = model.problems();
        return result;
    }
    if (!m_solver || &m_solver->model() != model->get()) {
        m_solver = std::make_unique<FieldSolver>(*model);
        m_last.reset();
    }
    const Machine& machine = (*model)->machine;
    const double theta = machine.wound() ? electrical_angle(machine, request.angle) : 0;
    result->phase_current =
        machine.wound() ? request.current.at(theta, machine.winding.layout.lags) : PhaseValues{};
    auto field = m_solver->solve(request.angle, result->phase_current, m_last ? &*m_last : nullptr);
    if (!field) {
        result->problems = field.problems();
        m_last.reset();
        return result;
    }
    result->picture = rolled(make_picture(**model, *field), **model, request.angle);
    constexpr int line_points = 401;
    if (const auto& line = request.line)
        result->line =
            line_profile(**model, result->picture, request.angle, line->first, line->second, line_points);
    if (request.colour)
        request.colour(result->picture,
                       {*model, *field, request.current, request.built->materials, request.hand_moves});
    if (request.paint) result->image = request.paint(result->picture);
    result->torque = field->torque;
    result->phase_flux = field->flux_linkage;
    if (machine.wound()) result->flux_linkage = to_dq(field->flux_linkage, theta, machine.winding.layout.lags);
    const auto ring = (*model)->gap().ring(gap_traces(**model, *field), machine.middle_of_gap(), 1024);
    result->gap_radial = ring.radial;
    result->gap_tangential = ring.tangential;
    result->levels = iron_levels(**model, *field);
    m_last = std::move(*field);
    result->milliseconds =
        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
    return result;
}

} // namespace mavlo::app
