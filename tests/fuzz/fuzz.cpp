// Mutates sound inputs and feeds them to a target, in a process of its own, so that one that dies, hangs or
// takes more memory than it may is kept as a finding and the search goes on.
//   mavlo-fuzz TARGET SECONDS SEED FINDINGS

#include "fuzz/targets.h"

#include <chrono>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <new>
#include <random>
#include <sys/mman.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

namespace {

using Clock = std::chrono::steady_clock;
constexpr std::size_t largest = 4 << 20;
constexpr int inputs_a_process = 300;
constexpr double longest = 20; ///< s, of one input

/// What the child works on, where the parent sees it.
struct Shared {
    std::size_t size, done;
    double began;
    char bytes[largest];
};

double now() {
    return std::chrono::duration<double>(Clock::now().time_since_epoch()).count();
}

class Mutator {
  public:
    Mutator(std::vector<std::string> seeds, unsigned seed)
        : m_seeds(std::move(seeds))
        , m_random(seed) {}

    std::string next() {
        std::string s = m_seeds[pick(m_seeds.size())];
        for (std::size_t hits = 1 + pick(6); hits-- > 0 && !s.empty();) hit(s);
        if (s.size() > largest) s.resize(largest);
        return s;
    }

  private:
    std::size_t pick(std::size_t below) { return below ? m_random() % below : 0; }

    void hit(std::string& s) {
        static const char* const words[] = {"1e300", "-1", "0",          "nan", "1e999",   "2147483648", "\"",
                                            "{",     "[",  "}",          "]",   "null",    "\xff",       "%s",
                                            "=",     "\n", "1073741825", "-0",  "\\u0000", ","};
        const std::size_t at = pick(s.size());
        switch (pick(8)) {
        case 0:
            s[at] = char(m_random());
            break;
        case 1:
            s[at] = char(s[at] ^ (1 << pick(8)));
            break;
        case 2:
            s.erase(at, 1 + pick(64));
            break;
        case 3:
            s.insert(at, s.substr(pick(s.size()), 1 + pick(200)));
            break;
        case 4:
            s.replace(at, std::min<std::size_t>(1 + pick(8), s.size() - at), words[pick(std::size(words))]);
            break;
        case 5: {
            const std::string& other = m_seeds[pick(m_seeds.size())];
            s = s.substr(0, at) + other.substr(pick(other.size()));
            break;
        }
        case 6:
            s.resize(at);
            break;
        default:
            change_number(s, at);
        }
    }

    /// The number that stands next becomes another.
    void change_number(std::string& s, std::size_t at) {
        const std::size_t from = s.find_first_of("0123456789", at);
        if (from == std::string::npos) return;
        const std::size_t till = std::min(s.find_first_not_of("0123456789.eE+-", from), s.size());
        const double scale[] = {0, -1, 1e-6, 1e6, 1e12, 2, 0.5};
        char text[40];
        std::snprintf(text, sizeof text, "%g",
                      std::strtod(s.c_str() + from, nullptr) * scale[pick(std::size(scale))]);
        s.replace(from, till - from, text);
    }

    std::vector<std::string> m_seeds;
    std::mt19937 m_random;
};

[[noreturn]] void work(const mavlo::fuzz::Target& target, Mutator& mutator, Shared& shared, double until,
                       const std::filesystem::path& scratch) {
#if !defined(__SANITIZE_ADDRESS__) && !defined(__SANITIZE_THREAD__)
    const ::rlimit room{rlim_t(2) << 30, rlim_t(2) << 30};
    ::setrlimit(RLIMIT_AS, &room);
#endif
    for (int k = 0; k < inputs_a_process && now() < until; ++k) {
        const std::string bytes = mutator.next();
        std::memcpy(shared.bytes, bytes.data(), bytes.size());
        shared.size = bytes.size();
        shared.began = now();
        try {
            target.run(bytes, scratch);
        } catch (const std::bad_alloc&) { // the programs say so and go on
        }
        ++shared.done;
    }
    std::_Exit(0);
}

/// Waits for a child; whether it ended in order.
bool ended_well(::pid_t child, const Shared& shared) {
    for (;;) {
        int status = 0;
        if (::waitpid(child, &status, WNOHANG) == child) return WIFEXITED(status) && WEXITSTATUS(status) == 0;
        if (shared.began > 0 && now() - shared.began > longest) {
            ::kill(child, SIGKILL);
            ::waitpid(child, &status, 0);
            return false;
        }
        std::this_thread::sleep_for(std::chrono::milliseconds(5));
    }
}

int fuzz(const mavlo::fuzz::Target& target, double seconds, unsigned seed,
         const std::filesystem::path& findings) {
    auto* shared = static_cast<Shared*>(
        ::mmap(nullptr, sizeof(Shared), PROT_READ | PROT_WRITE, MAP_SHARED | MAP_ANONYMOUS, -1, 0));
    if (shared == MAP_FAILED) return 2;
    const auto scratch = std::filesystem::temp_directory_path() / ("mavlo-fuzz-" + std::to_string(::getpid()));
    std::filesystem::create_directories(scratch);
    std::filesystem::create_directories(findings);
    const auto seeds = target.seeds(MAVLO_SOURCE);
    const double until = now() + seconds;
    int found = 0;
    for (unsigned round = 0; now() < until && !seeds.empty(); ++round) {
        Mutator mutator(seeds, seed + 7919 * round);
        shared->began = 0;
        const ::pid_t child = ::fork();
        if (child == 0) work(target, mutator, *shared, until, scratch);
        if (ended_well(child, *shared)) continue;
        const auto file =
            findings / (std::string(target.name) + "-" + std::to_string(++found) + "-" + std::to_string(seed));
        std::ofstream(file, std::ios::binary).write(shared->bytes, std::ptrdiff_t(shared->size));
        std::fprintf(stderr, "%s: a finding, %s\n", target.name, file.c_str());
    }
    std::filesystem::remove_all(scratch);
    std::printf("%s: %zu inputs, %d findings\n", target.name, shared->done, found);
    return found > 0 ? 1 : 0;
}

} // namespace

int main(int argc, char** argv) {
    for (const auto& target : mavlo::fuzz::targets()) {
        if (argc == 3 && std::string(argv[1]) == target.name) { // one finding again
            std::ifstream in(argv[2], std::ios::binary);
            target.run({std::istreambuf_iterator<char>(in), {}}, std::filesystem::temp_directory_path());
            return 0;
        }
        if (argc == 5 && std::string(argv[1]) == target.name)
            return fuzz(target, std::atof(argv[2]), unsigned(std::atoi(argv[3])), argv[4]);
    }
    std::fputs("mavlo-fuzz TARGET SECONDS SEED FINDINGS, or mavlo-fuzz TARGET FILE; targets:", stderr);
    for (const auto& target : mavlo::fuzz::targets()) std::fprintf(stderr, " %s", target.name);
    std::fputs("\n", stderr);
    return 2;
}
