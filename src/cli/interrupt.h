#pragma once
// Ctrl+C as a stop request.

#include <atomic>
#include <chrono>
#include <csignal>
#include <stop_token>
#include <thread>

namespace mavlo::cli {

/// From a thread, since a signal handler may do next to nothing.
class InterruptWatch {
  public:
    InterruptWatch() {
        std::signal(SIGINT, on_interrupt);
        std::signal(SIGTERM, on_interrupt);
        m_thread = std::jthread([this](std::stop_token finished) {
            while (!finished.stop_requested()) {
                if (s_seen) m_source.request_stop();
                std::this_thread::sleep_for(std::chrono::milliseconds(20));
            }
        });
    }
    std::stop_token token() const { return m_source.get_token(); }

  private:
    static void on_interrupt(int) { s_seen = true; }
    static inline std::atomic<bool> s_seen = false;
    std::stop_source m_source;
    std::jthread m_thread;
};

} // namespace mavlo::cli
