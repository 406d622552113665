#include "study/process.h"

#include "quantity/stop_point.h"
#include "storage/descriptor.h"

#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <fmt/format.h>
#include <optional>
#include <poll.h>
#include <spawn.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

namespace mavlo {
namespace {

struct Pipe {
    Descriptor read{-1}, write{-1};
    Pipe() {
        int ends[2];
        if (::pipe2(ends, O_CLOEXEC) == 0) read.id = ends[0], write.id = ends[1];
    }
};

constexpr std::size_t most_output = 64 << 20;

/// What it writes until it closes its output; nothing where patience ends before.
std::optional<std::string> output_of(int end, const Patience& patience) {
    std::string text;
    char block[4096];
    const auto until = std::chrono::steady_clock::now() + std::chrono::duration<double>(patience.seconds);
    while (!patience.stop.stop_requested() && std::chrono::steady_clock::now() < until) {
        ::pollfd ready{end, POLLIN, 0};
        if (::poll(&ready, 1, 50) <= 0) continue;
        const auto count = ::read(end, block, sizeof block);
        if (count < 0 && errno == EINTR) continue;
        if (count <= 0) return text;
        if (text.size() < most_output) text.append(block, std::size_t(count));
    }
    return std::nullopt;
}

int wait_for(::pid_t child) {
    int status = 0;
    while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
    }
    return WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
}

/// Ends a program that shall not go on, with its own children.
void end_group(::pid_t child) {
    ::kill(-child, SIGTERM);
    for (int k = 0; k < 10; ++k) {
        if (::waitpid(child, nullptr, WNOHANG) != 0) break;
        std::this_thread::sleep_for(std::chrono::milliseconds(50));
    }
    ::kill(-child, SIGKILL);
    ::waitpid(child, nullptr, 0);
}

} // namespace

Result<Finished> run_program(const std::vector<std::string>& words, const std::string& input,
                             const Patience& patience) {
    Pipe in, out;
    std::vector<char*> arguments;
    arguments.reserve(words.size() + 1);
    for (const std::string& word : words) arguments.push_back(const_cast<char*>(word.c_str()));
    arguments.push_back(nullptr);
    posix_spawn_file_actions_t actions;
    ::posix_spawn_file_actions_init(&actions);
    ::posix_spawn_file_actions_adddup2(&actions, in.read.id, 0);
    ::posix_spawn_file_actions_adddup2(&actions, out.write.id, 1);
    ::posix_spawn_file_actions_adddup2(&actions, out.write.id, 2);
    posix_spawnattr_t attributes;
    ::posix_spawnattr_init(&attributes);
    ::posix_spawnattr_setflags(&attributes, POSIX_SPAWN_SETPGROUP);
    ::posix_spawnattr_setpgroup(&attributes, 0);
    ::pid_t child = 0;
    const int error = ::posix_spawnp(&child, arguments[0], &actions, &attributes, arguments.data(), environ);
    ::posix_spawnattr_destroy(&attributes);
    ::posix_spawn_file_actions_destroy(&actions);
    if (error != 0)
        return Problem{words.front(), error == ENOENT
                                          ? std::string(not_installed)
                                          : fmt::format("It cannot be started: {}.", std::strerror(error))};
    in.read.close();
    out.write.close();
    // A program that ends without reading what it is given shall not end this one.
    std::signal(SIGPIPE, SIG_IGN);
    std::jthread writer([&] {
        write_all(in.write.id, input.data(), input.size()); // it may read no further
        in.write.close();
    });
    auto output = output_of(out.read.id, patience);
    if (!output) {
        end_group(child);
        writer.join();
        if (patience.stop.stop_requested()) return Problem{"", stopped_sentence};
        return Problem{words.front(),
                       fmt::format("It did not end within {:g} s and was stopped.", patience.seconds)};
    }
    writer.join();
    return Finished{wait_for(child), std::move(*output)};
}

} // namespace mavlo
