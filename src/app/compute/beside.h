#pragma once
// One piece of work beside the window at a time, for who owns it: the newest is wanted, and none outlives its
// owner.

#include <QObject>
#include <functional>
#include <stop_token>
#include <thread>

namespace mavlo::app {

class Beside : public QObject {
    Q_OBJECT
  public:
    /// What was worked out, to be taken in the window's thread.
    using Taken = std::function<void()>;
    using Work = std::function<Taken(const std::stop_token&)>;

    explicit Beside(QObject* parent = nullptr);
    ~Beside() override;

    /// Stops what runs and begins this. `failed` is told whatever the work throws.
    void start(Work work, std::function<void(const QString&)> failed);
    void stop();
    bool is_idle() const { return m_finished == m_started; }

  private:
    int m_started = 0, m_finished = 0; ///< number of the newest, and of the last that was taken or stopped
    std::jthread m_thread;
};

} // namespace mavlo::app
