#pragma once
// HDF5 files from elsewhere, read in a process of their own: a damaged one can end the library, and ends that
// process alone.

#include <filesystem>
#include <map>
#include <string>
#include <vector>

namespace mavlo::hdf5 {

/// What a set holds; without sizes: it is there, but is none of finite numbers in this very file.
struct ReadSet {
    std::vector<std::size_t> size;
    std::vector<double> values;
};

/// The sets of these names that a plain file has; empty where it is no HDF5 file, or its reader did not come to
/// an end within 20 s and 2 GB.
std::map<std::string, ReadSet> read_apart(const std::filesystem::path& file,
                                          const std::vector<std::string>& names);

} // namespace mavlo::hdf5
