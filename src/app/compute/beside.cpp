#include "compute/beside.h"

#include "quantity/failure.h"
#include "quantity/stop_point.h"

namespace mavlo::app {

Beside::Beside(QObject* parent)
    : QObject(parent) {}

Beside::~Beside() {
    stop();
}

void Beside::stop() {
    m_thread.request_stop();
    if (m_thread.joinable()) m_thread.join();
    m_finished = m_started;
}

void Beside::start(Work work, std::function<void(const QString&)> failed) {
    stop();
    const int number = ++m_started;
    m_thread = std::jthread(
        [this, number, work = std::move(work), failed = std::move(failed)](const std::stop_token& token) {
            Taken taken;
            try {
                const StopScope scope(token);
                taken = work(token);
            } catch (...) {
                taken = [failed, sentence = QString::fromStdString(failure_in_words().sentence)] {
                    failed(sentence);
                };
            }
            QMetaObject::invokeMethod(
                this,
                [this, number, taken] {
                    if (number != m_started || is_idle()) return; // another is wanted by now
                    m_finished = number;
                    taken();
                },
                Qt::QueuedConnection);
        });
}

} // namespace mavlo::app
