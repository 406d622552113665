#include "storage/file.h"

#include "storage/descriptor.h"

#include <cerrno>
#include <cstring>
#include <fcntl.h>
#include <fmt/format.h>
#include <random>
#include <sys/stat.h>
#include <unistd.h>
#include <utility>

namespace mavlo {
namespace {

std::string why() {
    return std::strerror(errno);
}

Problem no_plain_file(const std::filesystem::path& file, ::mode_t mode) {
    const char* what = S_ISDIR(mode)    ? "a folder"
                       : S_ISFIFO(mode) ? "a pipe"
                       : S_ISSOCK(mode) ? "a socket"
                                        : "a device";
    return {file.string(), fmt::format("This is {}, not a file; choose another name.", what)};
}

std::string unforeseen() {
    std::random_device source;
    return fmt::format("{:08x}{:08x}", source(), source());
}

/// Where a name leads through links; the name itself where there is none.
std::filesystem::path target_of(const std::filesystem::path& file) {
    std::filesystem::path at = file;
    std::error_code error;
    for (int links = 0; links < 32 && std::filesystem::is_symlink(at, error); ++links) {
        const auto to = std::filesystem::read_symlink(at, error);
        if (error) break;
        at = to.is_absolute() ? to : at.parent_path() / to;
    }
    return at;
}

} // namespace

Result<std::string> read_file(const std::filesystem::path& file, std::uintmax_t most) {
    // A pipe that nobody writes to would keep the program waiting.
    const Descriptor in(::open(file.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK));
    if (in.id < 0) return Problem{file.string(), fmt::format("The file cannot be opened: {}.", why())};
    struct ::stat about {};
    if (::fstat(in.id, &about) != 0)
        return Problem{file.string(), fmt::format("The file cannot be read: {}.", why())};
    if (!S_ISREG(about.st_mode)) return no_plain_file(file, about.st_mode);
    auto text = std::uintmax_t(about.st_size) > most ? std::nullopt : read_all(in.id, most);
    if (!text)
        return Problem{file.string(),
                       fmt::format("The file cannot be read, or it holds more than {} MB; is it the right one?",
                                   most >> 20)};
    return std::move(*text);
}

std::optional<std::string> read_kept(const std::filesystem::path& file, std::uintmax_t most) {
    const Descriptor in(::open(file.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK | O_NOFOLLOW));
    struct ::stat about {};
    if (in.id < 0 || ::fstat(in.id, &about) != 0 || !S_ISREG(about.st_mode)) return std::nullopt;
    return read_all(in.id, most);
}

bool is_kept(const std::filesystem::path& file, std::uintmax_t most) {
    struct ::stat about {};
    return ::lstat(file.c_str(), &about) == 0 && S_ISREG(about.st_mode) &&
           std::uintmax_t(about.st_size) <= most;
}

Result<FileAside> FileAside::beside_named(const std::filesystem::path& file) {
    const auto target = target_of(file);
    struct ::stat about {};
    const bool exists = ::lstat(target.c_str(), &about) == 0;
    if (exists && !S_ISREG(about.st_mode)) return no_plain_file(file, about.st_mode);
    auto aside = open(file, target);
    if (aside && exists) {
        // Another's file stays another's where the system allows it; its mode stays in any case.
        if (about.st_uid != ::geteuid() || about.st_gid != ::getegid()) [[maybe_unused]]
            const int same = ::fchown(aside->m_fd, about.st_uid, about.st_gid);
        ::fchmod(aside->m_fd, about.st_mode & 07777);
    }
    return aside;
}

Result<FileAside> FileAside::beside_kept(const std::filesystem::path& file) {
    return open(file, file);
}

Result<FileAside> FileAside::open(const std::filesystem::path& named, const std::filesystem::path& target) {
    FileAside aside;
    aside.m_named = named;
    aside.m_target = target;
    for (int tries = 0; tries < 16 && aside.m_fd < 0; ++tries) {
        aside.m_path = target.string() + "." + unforeseen() + ".part";
        aside.m_fd = ::open(aside.m_path.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_NOFOLLOW | O_CLOEXEC, 0666);
        if (aside.m_fd < 0 && errno != EEXIST) break;
    }
    if (aside.m_fd < 0) return aside.failed("Opening it for writing");
    return aside;
}

FileAside::FileAside(FileAside&& other) noexcept
    : m_named(std::move(other.m_named))
    , m_target(std::move(other.m_target))
    , m_path(std::move(other.m_path))
    , m_fd(std::exchange(other.m_fd, -1)) {}

FileAside::~FileAside() {
    if (m_fd < 0) return;
    ::close(m_fd);
    ::unlink(m_path.c_str());
}

Problem FileAside::failed(const char* what) const {
    return {m_named.string(),
            fmt::format(
                "{} failed: {}. The file on the disk is as it was; free some space or choose another folder.",
                what, why())};
}

std::optional<Problem> FileAside::write(const std::string& text) {
    if (!write_all(m_fd, text.data(), text.size())) return failed("Writing it");
    return std::nullopt;
}

std::optional<Problem> FileAside::put_in_place(Flush flush) {
    if (flush == Flush::Yes && ::fsync(m_fd) != 0) return failed("Writing it to the disk");
    if (::rename(m_path.c_str(), m_target.c_str()) != 0) return failed("Putting it in its place");
    ::close(std::exchange(m_fd, -1));
    if (flush == Flush::No) return std::nullopt;
    const auto folder = m_target.has_parent_path() ? m_target.parent_path() : std::filesystem::path(".");
    const Descriptor names(::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    if (names.id >= 0) ::fsync(names.id); // so that the new name survives a power cut
    return std::nullopt;
}

namespace {

std::optional<Problem> write_whole(Result<FileAside> aside, const std::string& text) {
    if (!aside) return aside.problems().front();
    if (auto problem = aside->write(text)) return problem;
    return aside->put_in_place();
}

} // namespace

std::optional<Problem> write_file_atomically(const std::filesystem::path& file, const std::string& text) {
    return write_whole(FileAside::beside_named(file), text);
}

std::optional<Problem> write_kept(const std::filesystem::path& file, const std::string& text) {
    return write_whole(FileAside::beside_kept(file), text);
}

bool append_kept(const std::filesystem::path& file, const std::string& text) {
    const Descriptor out(
        ::open(file.c_str(), O_WRONLY | O_CREAT | O_APPEND | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC, 0644));
    struct ::stat about {};
    if (out.id < 0 || ::fstat(out.id, &about) != 0) return false;
    if (!S_ISREG(about.st_mode) || about.st_uid != ::geteuid() || about.st_nlink != 1) return false;
    return write_all(out.id, text.data(), text.size());
}

} // namespace mavlo
