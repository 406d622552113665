#pragma once
// Places in long work that cannot be left by a return, where it can be stopped.

#include <stop_token>

namespace mavlo {

/// What a person reads where work was stopped.
inline constexpr auto stopped_sentence = "Stopped before it was finished.";

/// Thrown by `stop_point`.
struct StoppedThere {};

/// While it lives, this thread's stop points ask this token. One inside another counts alone.
class StopScope {
  public:
    explicit StopScope(std::stop_token token);
    ~StopScope();
    StopScope(const StopScope&) = delete;
    StopScope& operator=(const StopScope&) = delete;

  private:
    friend void stop_point();
    std::stop_token m_token;
    StopScope* m_outer;
};

/// Throws StoppedThere where a stop was asked for; nothing outside a scope.
void stop_point();

} // namespace mavlo
