#pragma once
// How long the window's thread is held by each call that it gets, for tests of how it feels.

#include <QApplication>
#include <QShortcut>
#include <QStringList>
#include <ctime>
#include <vector>

namespace mavlo::app {

/// One event that was handled, whatever it led to.
struct WatchedCall {
    double milliseconds; ///< of this thread's own work: others that compute meanwhile do not count
    QString what;
};

class WatchedApplication : public QApplication {
  public:
    using QApplication::QApplication;
    static WatchedApplication* instance() { return dynamic_cast<WatchedApplication*>(qApp); }

    /// From now on; what was seen before is forgotten.
    void begin() {
        m_calls.clear();
        m_watching = true;
    }
    /// Those that took longer than this, ms.
    std::vector<WatchedCall> end(double longer_than) {
        m_watching = false;
        std::vector<WatchedCall> list;
        for (const WatchedCall& call : m_calls)
            if (call.milliseconds > longer_than) list.push_back(call);
        return list;
    }
    std::size_t seen() const { return m_calls.size(); }

    bool notify(QObject* receiver, QEvent* event) override {
        if (m_watching && m_inside) return notify_within(receiver, event);
        if (!m_watching) return QApplication::notify(receiver, event);
        // The receiver may be gone after it.
        const QString what =
            QStringLiteral("%1 %2, event %3")
                .arg(QString::fromLatin1(receiver->metaObject()->className()), receiver->objectName())
                .arg(int(event->type()));
        m_inside = true;
        m_type = event->type();
        m_within.clear();
        if (const auto* keys = qobject_cast<const QShortcut*>(receiver)) m_within = keys->key().toString();
        m_longest = 0;
        const double from = own_time();
        const bool taken = QApplication::notify(receiver, event);
        m_calls.push_back(
            {own_time() - from, m_within.isEmpty() ? what : what + QStringLiteral(" in ") + m_within});
        m_inside = false;
        return taken;
    }

  private:
    /// The innermost one that an event of the hand was meant for, and what takes longest to paint.
    bool notify_within(QObject* receiver, QEvent* event) {
        const QString name = receiver->objectName().isEmpty()
                                 ? QString::fromLatin1(receiver->metaObject()->className())
                                 : receiver->objectName();
        if (event->type() == m_type && !receiver->objectName().isEmpty()) m_within = name;
        if (event->type() != QEvent::Paint) return QApplication::notify(receiver, event);
        const double from = own_time();
        const bool taken = QApplication::notify(receiver, event);
        if (const double took = own_time() - from; took > m_longest) {
            m_longest = took;
            m_within = QStringLiteral("%1, %2 ms").arg(name).arg(took, 0, 'f', 0);
        }
        return taken;
    }
    static double own_time() {
        timespec time{};
        clock_gettime(CLOCK_THREAD_CPUTIME_ID, &time);
        return double(time.tv_sec) * 1e3 + double(time.tv_nsec) * 1e-6;
    }

    bool m_watching = false, m_inside = false;
    QEvent::Type m_type = QEvent::None;
    QString m_within;
    double m_longest = 0;
    std::vector<WatchedCall> m_calls;
};

} // namespace mavlo::app
