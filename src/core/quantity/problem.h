#pragma once
// What a user can get wrong, as a value: where it is and one sentence that says what to do.

#include <string>
#include <utility>
#include <variant>
#include <vector>

namespace mavlo {

struct Problem {
    std::string path;     ///< e.g. "rotor.magnet.arc"; empty when it concerns the whole
    std::string sentence; ///< a full sentence, no trailing path
    bool operator==(const Problem&) const = default;
};

using Problems = std::vector<Problem>;

inline std::string to_string(const Problem& problem) {
    return problem.path.empty() ? problem.sentence : problem.path + ": " + problem.sentence;
}

/// Either a value or the non-empty list of problems that kept it from being made.
template <class T>
class Result {
  public:
    Result(T value)
        : m_state(std::move(value)) {}
    Result(Problem problem)
        : m_state(Problems{std::move(problem)}) {}
    Result(Problems problems)
        : m_state(std::move(problems)) {}

    explicit operator bool() const { return m_state.index() == 0; }
    const T& value() const& { return std::get<0>(m_state); }
    T& value() & { return std::get<0>(m_state); }
    T&& value() && { return std::get<0>(std::move(m_state)); }
    const T& operator*() const& { return value(); }
    T& operator*() & { return value(); }
    const T* operator->() const { return &value(); }
    T* operator->() { return &value(); }
    const Problems& problems() const { return std::get<1>(m_state); }

  private:
    std::variant<T, Problems> m_state;
};

} // namespace mavlo
