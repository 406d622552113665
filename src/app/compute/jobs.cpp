#include "compute/jobs.h"

#include "quantity/failure.h"
#include "quantity/stop_point.h"

#include <algorithm>
#include <chrono>

namespace mavlo::app {
namespace {

double now() {
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

} // namespace

Jobs::Jobs(QObject* parent)
    : QObject(parent) {
    m_thread = std::jthread([this](const std::stop_token& quit) { run(quit); });
}

Jobs::~Jobs() {
    end();
}

void Jobs::end() {
    stop_all();
    m_thread.request_stop();
    m_wake.notify_all();
    if (m_thread.joinable()) m_thread.join();
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

void Jobs::stop(int id) {
    const std::lock_guard lock(m_mutex);
    for (const auto& job : m_jobs)
        if (job->id == id) job->stop.request_stop();
}

void Jobs::stop_all() {
    const std::lock_guard lock(m_mutex);
    for (const auto& job : m_jobs) job->stop.request_stop();
}

std::vector<Jobs::State> Jobs::states() const {
    const std::lock_guard lock(m_mutex);
    std::vector<State> list;
    for (const auto& job : m_jobs)
        list.push_back(
            {job->id, job->name, job->ready, job->total, job->running ? now() - job->began : 0, job->running});
    return list;
}

void Jobs::run(const std::stop_token& quit) {
    while (!quit.stop_requested()) {
        JobPointer job;
        {
            std::unique_lock lock(m_mutex);
            m_wake.wait(lock, quit, [this] { return !m_jobs.empty(); });
            if (quit.stop_requested()) return;
            job = m_jobs.front();
            job->running = true;
            job->began = now();
        }
        execute(job);
        {
            const std::lock_guard lock(m_mutex);
            m_jobs.pop_front();
        }
        QMetaObject::invokeMethod(
            this,
            [this, job] {
                if (job->done) job->done();
                Q_EMIT changed();
            },
            Qt::QueuedConnection);
    }
}

void Jobs::execute(const JobPointer& job) {
    Watch watch;
    watch.stop = job->stop.get_token();
    watch.progress = [this, job](int ready, int total) {
        const std::lock_guard lock(m_mutex);
        job->ready = ready;
        job->total = total;
        if (now() - m_last_report < 0.05) return;
        m_last_report = now();
        QMetaObject::invokeMethod(this, &Jobs::changed, Qt::QueuedConnection);
    };
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
