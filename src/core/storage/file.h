#pragma once
// Files, so that nothing is lost and nobody is let in: what a user names is read and written through links,
// what the program keeps for itself is not.

#include "quantity/problem.h"

#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>

namespace mavlo {

constexpr std::uintmax_t most_file_bytes = 512ull << 20; ///< of a file that is read into memory at once

/// The whole of a plain file that the user named, through links. Folders, pipes, devices and sockets are
/// refused without being opened for waiting, as is what holds more than `most` bytes.
Result<std::string> read_file(const std::filesystem::path& file, std::uintmax_t most = most_file_bytes);

/// A file that the program kept for itself: neither a link nor anything but a plain file is read. Nothing where
/// there is none.
std::optional<std::string> read_kept(const std::filesystem::path& file, std::uintmax_t most = most_file_bytes);
/// Whether this is a plain file and no link, of at most so many bytes.
bool is_kept(const std::filesystem::path& file, std::uintmax_t most = most_file_bytes);

/// A new file beside the one that it will replace, under a name that nobody can foresee. It goes again unless
/// it is put in place.
class FileAside {
  public:
    /// For a file that the user named: a link is followed to its target, whose mode and owner are kept; what is
    /// no plain file is never replaced.
    static Result<FileAside> beside_named(const std::filesystem::path& file);
    /// For a file of the program's own: a link of that name is replaced, not followed.
    static Result<FileAside> beside_kept(const std::filesystem::path& file);
    FileAside(FileAside&& other) noexcept;
    FileAside& operator=(FileAside&&) = delete;
    ~FileAside();

    /// Its name, for a library that writes by itself.
    const std::filesystem::path& path() const { return m_path; }
    std::optional<Problem> write(const std::string& text);
    /// Flushes it to the disk and renames it: the file before stays whole until then. Not flushed it outlives
    /// the program, but no power cut.
    enum class Flush { No, Yes };
    std::optional<Problem> put_in_place(Flush flush = Flush::Yes);

  private:
    static Result<FileAside> open(const std::filesystem::path& named, const std::filesystem::path& target);
    FileAside() = default;
    Problem failed(const char* what) const;

    std::filesystem::path m_named, m_target, m_path;
    int m_fd = -1;
};

/// Writes a file that the user named: whole, or not at all.
std::optional<Problem> write_file_atomically(const std::filesystem::path& file, const std::string& text);
/// The same for a file of the program's own.
std::optional<Problem> write_kept(const std::filesystem::path& file, const std::string& text);
/// Adds to the end of a file of the program's own with one write; only a plain file of this user with this one
/// name is added to. False where that cannot be.
bool append_kept(const std::filesystem::path& file, const std::string& text);

} // namespace mavlo
