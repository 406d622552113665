#pragma once
// Another program, run to its end.

#include "quantity/problem.h"

#include <stop_token>
#include <string>
#include <vector>

namespace mavlo {

struct Finished {
    int exit = 0;
    std::string output; ///< what it wrote, standard output and errors together
};

/// The sentence of a program that is not there.
inline constexpr const char* not_installed = "This program is not installed, or not on the PATH.";

/// How long another program may take.
struct Patience {
    double seconds = 60;
    std::stop_token stop{};
};

/// Runs a program with its arguments, without a shell; `input` goes to its standard input. Fails with a
/// sentence when there is no such program, when it takes too long, or when it is stopped: it is ended then,
/// with all that it began.
Result<Finished> run_program(const std::vector<std::string>& words, const std::string& input = {},
                             const Patience& patience = {});

} // namespace mavlo
