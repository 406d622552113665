#pragma once
// Another program, run to its end.

#include "quantity/problem.h"

#include <string>
#include <vector>

namespace mavlo {

struct Finished {
    int exit = 0;
    std::string output; ///< what it wrote, standard output and errors together
};

/// Runs a program with its arguments, without a shell; `input` goes to its standard input. Fails with a
/// sentence when there is no such program.
Result<Finished> run_program(const std::vector<std::string>& words, const std::string& input = {});

} // namespace mavlo
