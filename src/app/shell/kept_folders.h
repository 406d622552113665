#pragma once
// Where the program keeps what has no file of its own yet.

#include <filesystem>

namespace mavlo::app {

std::filesystem::path journal_folder(); ///< of edits that are not saved
std::filesystem::path scratch_folder(); ///< a new one, for the answers of a project without a file

} // namespace mavlo::app
