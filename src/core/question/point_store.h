#pragma once
// Finished parts of large answers: rows of numbers, kept as they come, so that a killed program goes on where
// it was and a grown range is not computed again.

#include <filesystem>
#include <map>
#include <string>
#include <vector>

namespace mavlo {

/// A CSV file in a folder for each subject (a design and its mesh), or nothing at all. A row is appended with
/// one write; a last row that was cut short, or one with another number of columns, is passed over when read.
/// Copies share the file; safe for threads.
class PointStore {
  public:
    PointStore() = default; ///< keeps nothing
    explicit PointStore(std::filesystem::path folder)
        : m_folder(std::move(folder)) {}

    /// The store for one subject, a text of any length; of a subject within it when asked again.
    PointStore of(const std::string& subject) const;
    bool keeps() const { return !m_file.empty(); }
    /// Of other files of this subject ("…/KIND-HASH"); empty where nothing is kept.
    std::filesystem::path stem(const std::string& kind) const;

    /// Rows whose first `keys` numbers are given by `key`, and `columns` numbers in all.
    using Rows = std::map<std::vector<double>, std::vector<double>>;
    Rows read(const std::string& kind, std::size_t keys, std::size_t columns) const;
    /// Failure to write (a full disk) loses the row and nothing else.
    void append(const std::string& kind, const std::vector<double>& row) const;

  private:
    std::filesystem::path file(const std::string& kind) const;
    std::filesystem::path m_folder;
    std::string m_file; ///< stem of the subject's files
};

} // namespace mavlo
