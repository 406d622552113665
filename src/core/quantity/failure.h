#pragma once
// Whatever is thrown, as a sentence.

#include "quantity/problem.h"

#include <utility>

namespace mavlo {

/// Of the exception that is being handled. Its path is "field", so that a terminal tells it from wrong input.
Problem failure_in_words();

/// What a function gives, or the sentence for what it throws.
template <class F>
auto guarded(F&& f) -> decltype(f()) {
    try {
        return std::forward<F>(f)();
    } catch (...) {
        return failure_in_words();
    }
}

} // namespace mavlo
