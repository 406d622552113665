#include "compute/jobs.h"

#include "quantity/failure.h"
#include "quantity/stop_point.h"

#include <algorithm>
#include <chrono>
#include <utility>

namespace mavlo::app {
namespace {

double now() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

} // namespace

Jobs::Jobs(QObject* parent)
    : QObject(parent) {
    m_threads.emplace_back([this](const std::stop_token& quit) { run(quit); });
}

Jobs::~Jobs() {
    end();
}

void Jobs::end() {
    stop_all();
    for (std::jthread& thread : m_threads) thread.request_stop();
    m_wake.notify_all();
    for (std::jthread& thread : m_threads)
        if (thread.joinable()) thread.join();
}

int Jobs::submit(const QString& name, std::function<void(const Watch&)> work, std::function<void()> done) {
    int id = 0;
    {
        const std::lock_guard lock(m_mutex);
        id = m_next++;
        m_jobs.push_back(std::make_shared<Job>(Job{id, name, std::move(work), std::move(done)}));
    }
    m_wake.notify_all();
    Q_EMIT changed();
    return id;
}

Jobs::JobPointer Jobs::job(int id) const {
    const auto found = std::find_if(m_jobs.begin(), m_jobs.end(), [&](const auto& j) { return j->id == id; });
    return found == m_jobs.end() ? nullptr : *found;
}

void Jobs::stop(int id) {
    const std::lock_guard lock(m_mutex);
    if (const auto found = job(id)) found->stop.request_stop();
}

void Jobs::pause(int id) {
    set_paused(id, true);
}

void Jobs::go_on(int id) {
    set_paused(id, false);
}

void Jobs::set_paused(int id, bool paused) {
    {
        const std::lock_guard lock(m_mutex);
        if (const auto found = job(id)) found->paused = paused;
        // Its thread waits with it; another takes what stands behind.
        if (paused && m_idle == 0) m_threads.emplace_back([this](const std::stop_token& quit) { run(quit); });
    }
    m_wake.notify_all();
    Q_EMIT changed();
}

bool Jobs::is_paused(int id) const {
    const std::lock_guard lock(m_mutex);
    const auto found = job(id);
    return found && found->paused;
}

void Jobs::stop_all() {
    const std::lock_guard lock(m_mutex);
    for (const auto& job : m_jobs) job->stop.request_stop();
}

std::vector<Jobs::State> Jobs::states() const {
    const std::lock_guard lock(m_mutex);
    std::vector<State> list;
    for (const auto& job : m_jobs)
        list.push_back({job->id, job->name, job->ready, job->total, job->running ? now() - job->began : 0,
                        job->running, job->paused});
    // What computes now stands before what is held.
    std::stable_partition(list.begin(), list.end(), [](const State& s) { return s.running && !s.paused; });
    return list;
}

/// What may begin now: none while another computes.
Jobs::JobPointer Jobs::first_waiting() const {
    if (m_active > 0) return nullptr;
    const auto found = std::find_if(m_jobs.begin(), m_jobs.end(),
                                    [](const auto& job) { return !job->running && !job->paused; });
    return found == m_jobs.end() ? nullptr : *found;
}

void Jobs::run(const std::stop_token& quit) {
    while (!quit.stop_requested()) {
        JobPointer job;
        {
            std::unique_lock lock(m_mutex);
            ++m_idle;
            m_wake.wait(lock, quit, [this] { return first_waiting() != nullptr; });
            --m_idle;
            if (quit.stop_requested()) return;
            job = first_waiting();
            job->running = true;
            job->began = now();
            ++m_active;
        }
        execute(job);
        {
            const std::lock_guard lock(m_mutex);
            std::erase(m_jobs, job);
            --m_active;
        }
        m_wake.notify_all();
        QMetaObject::invokeMethod(
            this,
            [this, job] {
                if (job->done) job->done();
                Q_EMIT changed();
            },
            Qt::QueuedConnection);
    }
}

/// Waits until it shall go on and nothing else computes, or until it is stopped. Several threads of a job may
/// come here at once.
void Jobs::hold(Job& job, std::unique_lock<std::mutex>& lock) {
    const double from = now();
    if (!std::exchange(job.held, true)) --m_active;
    m_wake.notify_all();
    m_wake.wait(lock, job.stop.get_token(), [&] { return !job.paused && (m_active == 0 || !job.held); });
    if (!std::exchange(job.held, false)) return;
    ++m_active;
    job.began += now() - from;
}

void Jobs::report_progress(const JobPointer& job, int ready, int total) {
    std::unique_lock lock(m_mutex);
    job->ready = ready;
    job->total = total;
    if (job->paused && !job->stop.stop_requested()) hold(*job, lock);
    if (now() - m_last_report < 0.05) return;
    m_last_report = now();
    QMetaObject::invokeMethod(this, &Jobs::changed, Qt::QueuedConnection);
}

void Jobs::execute(const JobPointer& job) {
    Watch watch;
    watch.stop = job->stop.get_token();
    watch.progress = [this, job](int ready, int total) { report_progress(job, ready, total); };
    watch.grows = [this, job](const std::vector<Curve>& curves) {
        QMetaObject::invokeMethod(
            this, [this, id = job->id, curves] { Q_EMIT grown(id, curves); }, Qt::QueuedConnection);
    };
    QMetaObject::invokeMethod(this, &Jobs::changed, Qt::QueuedConnection);
    try {
        const StopScope scope(watch.stop);
        job->work(watch);
    } catch (...) {
        const Problem problem = failure_in_words();
        if (is_stopped({problem})) return;
        const QString sentence = job->name + QStringLiteral(": ") + QString::fromStdString(problem.sentence);
        QMetaObject::invokeMethod(
            this, [this, sentence] { Q_EMIT failed(sentence); }, Qt::QueuedConnection);
    }
}

} // namespace mavlo::app
