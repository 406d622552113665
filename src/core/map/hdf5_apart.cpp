#include "map/hdf5_apart.h"

#include "map/hdf5_set.h"
#include "storage/descriptor.h"

#include <cerrno>
#include <csignal>
#include <cstdint>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <optional>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

namespace mavlo::hdf5 {
namespace {

constexpr unsigned longest = 20; ///< s
constexpr std::size_t most_bytes = std::size_t(1) << 30;

constexpr ::rlim_t most_memory = ::rlim_t(2) << 30; ///< beyond what this program has at the time

void put(int to, const void* bytes, std::size_t count) {
    if (!write_all(to, bytes, count)) ::_exit(1);
}

/// Bytes of address space that are taken now; none where the system does not tell.
::rlim_t memory_taken() {
    const Descriptor table(::open("/proc/self/statm", O_RDONLY | O_CLOEXEC));
    const auto text = table.id < 0 ? std::nullopt : read_all(table.id, 4096);
    return text ? ::rlim_t(std::strtoull(text->c_str(), nullptr, 10)) * ::rlim_t(::sysconf(_SC_PAGESIZE)) : 0;
}

/// One set: how many dimensions it has (-1: there is none, 0: none that is read), their sizes, its numbers.
void send(int to, hid_t file, const char* name) {
    const bool exists = H5Lexists(file, name, H5P_DEFAULT) > 0;
    const Grid grid = exists ? read_grid(file, name) : Grid{};
    const std::int64_t dimensions = exists ? std::int64_t(grid.size.size()) : -1;
    put(to, &dimensions, sizeof dimensions);
    for (const hsize_t size : grid.size) {
        const auto count = std::uint64_t(size);
        put(to, &count, sizeof count);
    }
    put(to, grid.values.data(), grid.values.size() * sizeof(double));
}

[[noreturn]] void read_here(int to, const char* path, const std::vector<std::string>& names) {
    // It ends by itself whatever it meets: no handler of the program it was copied from shall run.
    for (const int signal : {SIGSEGV, SIGBUS, SIGABRT, SIGFPE, SIGILL, SIGALRM, SIGPIPE})
        ::signal(signal, SIG_DFL);
    const ::rlimit none{0, 0};
    ::setrlimit(RLIMIT_CORE, &none);
    if (const ::rlim_t taken = memory_taken(); taken > 0) {
        const ::rlimit bound{taken + most_memory, taken + most_memory};
        ::setrlimit(RLIMIT_AS, &bound);
    }
    ::alarm(longest);
    be_quiet();
    const hid_t file = H5Fopen(path, H5F_ACC_RDONLY, H5P_DEFAULT);
    if (file < 0) ::_exit(1);
    for (const std::string& name : names) send(to, file, name.c_str());
    ::_exit(0);
}

/// Takes what was sent apart again.
class Received {
  public:
    explicit Received(const std::string& bytes)
        : m_bytes(bytes) {}

    std::map<std::string, ReadSet> sets(const std::vector<std::string>& names) {
        std::map<std::string, ReadSet> out;
        for (const std::string& name : names) {
            const auto dimensions = take<std::int64_t>();
            if (m_short) return {};
            if (dimensions < 0) continue;
            ReadSet& set = out[name];
            std::size_t count = dimensions > 0 ? 1 : 0;
            for (std::int64_t k = 0; k < dimensions && !m_short; ++k) {
                set.size.push_back(std::size_t(take<std::uint64_t>()));
                count *= set.size.back();
            }
            if (m_short || count > (m_bytes.size() - m_at) / sizeof(double)) return {};
            set.values.resize(count);
            std::memcpy(set.values.data(), m_bytes.data() + m_at, count * sizeof(double));
            m_at += count * sizeof(double);
        }
        return out;
    }

  private:
    template <class T>
    T take() {
        T value{};
        m_short = m_short || m_bytes.size() - m_at < sizeof(T);
        if (m_short) return value;
        std::memcpy(&value, m_bytes.data() + m_at, sizeof(T));
        m_at += sizeof(T);
        return value;
    }

    const std::string& m_bytes;
    std::size_t m_at = 0;
    bool m_short = false;
};

} // namespace

std::map<std::string, ReadSet> read_apart(const std::filesystem::path& file,
                                          const std::vector<std::string>& names) {
    int ends[2];
    if (::pipe2(ends, O_CLOEXEC) != 0) return {};
    Descriptor from(ends[0]), to(ends[1]);
    const std::string path = file.string();
    const ::pid_t child = ::fork();
    if (child == 0) read_here(to.id, path.c_str(), names);
    to.close();
    const auto bytes = child > 0 ? read_all(from.id, most_bytes) : std::nullopt;
    from.close();
    int status = 1;
    while (child > 0 && ::waitpid(child, &status, 0) < 0 && errno == EINTR) {
    }
    const bool good = child > 0 && WIFEXITED(status) && WEXITSTATUS(status) == 0;
    return good && bytes ? Received(*bytes).sets(names) : std::map<std::string, ReadSet>{};
}

} // namespace mavlo::hdf5
