#pragma once
// A queue of long computations beside the window: one at a time, with progress, pause and stop.

#include "question/sweep.h"

#include <QObject>
#include <QString>
#include <condition_variable>
#include <deque>
#include <functional>
#include <mutex>
#include <stop_token>
#include <thread>
#include <vector>

namespace mavlo::app {

class Jobs : public QObject {
    Q_OBJECT
  public:
    explicit Jobs(QObject* parent = nullptr);
    ~Jobs() override;

    struct State {
        int id = 0;
        QString name;
        int done = 0, total = 0;
        double seconds = 0; ///< since it began; 0 while queued
        bool running = false, paused = false;
    };

    /// Queues work; `done` is called in the window's thread when it ended, also when it was stopped.
    int submit(const QString& name, std::function<void(const Watch&)> work, std::function<void()> done);
    void stop(int id);
    void stop_all();
    /// Holds at the next progress, so that nothing done is lost; what is queued behind runs meanwhile.
    void pause(int id);
    /// Once what runs meanwhile has ended.
    void go_on(int id);
    bool is_paused(int id) const;
    /// Stops what runs and waits for its end; nothing is begun any more.
    void end();
    std::vector<State> states() const; ///< the running one first

  Q_SIGNALS:
    /// A run over time has come so far.
    void grown(int id, const std::vector<mavlo::Curve>& curves);
    /// A job threw; what it was to give is missing.
    void failed(const QString& sentence);
    void changed(); ///< something began, ended or made progress (at most 20 times a second)

  private:
    struct Job {
        int id;
        QString name;
        std::function<void(const Watch&)> work;
        std::function<void()> done;
        std::stop_source stop{};
        int ready = 0, total = 0;
        double began = 0;
        bool running = false; ///< it has begun
        bool paused = false;  ///< as is wanted
        bool held = false;    ///< it waits for that
    };
    using JobPointer = std::shared_ptr<Job>;
    void run(const std::stop_token& quit);
    void execute(const JobPointer& job);
    JobPointer first_waiting() const;
    JobPointer job(int id) const;
    void set_paused(int id, bool paused);
    void hold(Job& job, std::unique_lock<std::mutex>& lock);
    void report_progress(const JobPointer& job, int ready, int total);

    mutable std::mutex m_mutex;
    std::condition_variable_any m_wake;
    std::deque<JobPointer> m_jobs;
    int m_next = 1;
    double m_last_report = 0;
    int m_active = 0;                    ///< jobs that compute now: one, or none
    int m_idle = 0;                      ///< threads that wait for a job
    std::vector<std::jthread> m_threads; ///< one, and one more for each job that was ever held beside others
};

} // namespace mavlo::app
