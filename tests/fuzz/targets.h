#pragma once
// What a stranger's bytes can reach, each through the entry point that the programs use.

#include <filesystem>
#include <string>
#include <vector>

namespace mavlo::fuzz {

struct Target {
    const char* name;
    /// Sound inputs to begin from.
    std::vector<std::string> (*seeds)(const std::filesystem::path& data);
    void (*run)(const std::string& bytes, const std::filesystem::path& scratch);
};

const std::vector<Target>& targets();

} // namespace mavlo::fuzz
