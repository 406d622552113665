#pragma once
// What is edited and not saved, written down as it goes on, so that a program that ends in the middle loses no
// more than the last moment.

#include "quantity/problem.h"

#include <filesystem>
#include <string>
#include <vector>

namespace mavlo {

/// What a program left behind when it ended in the middle.
struct LeftBehind {
    std::filesystem::path journal; ///< its own file
    std::string project;           ///< text of the project file as it would have been saved
    std::string name;
    std::filesystem::path file;    ///< of the project; empty: it had none yet
    std::filesystem::path answers; ///< folder of its answers
    std::filesystem::file_time_type written;
};

/// One program's file in a folder that all share. A lock that goes with the program, however it ends, tells the
/// journals in use from those left behind.
class Journal {
  public:
    /// An empty folder keeps nothing.
    explicit Journal(std::filesystem::path folder = {});
    ~Journal(); ///< forgets
    Journal(const Journal&) = delete;
    Journal& operator=(const Journal&) = delete;

    /// Replaces what was written before, whole or not at all; not flushed to the disk, so that it costs little.
    void write(const LeftBehind& state);
    void forget(); ///< everything is saved, or given up

    static std::vector<LeftBehind> left_behind(const std::filesystem::path& folder); ///< newest first
    /// Throws away what was left behind.
    static void drop(const std::filesystem::path& journal);

  private:
    bool open();
    std::filesystem::path m_folder, m_file;
    int m_lock = -1;
};

} // namespace mavlo
