#include "study/process.h"

#include <cerrno>
#include <csignal>
#include <cstring>
#include <fcntl.h>
#include <fmt/format.h>
#include <spawn.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

namespace mavlo {
namespace {

struct Pipe {
    int read = -1, write = -1;
    Pipe() {
        int ends[2];
        if (::pipe2(ends, O_CLOEXEC) == 0) read = ends[0], write = ends[1];
    }
    ~Pipe() {
        close_read();
        close_write();
    }
    Pipe(const Pipe&) = delete;
    Pipe& operator=(const Pipe&) = delete;
    void close_read() { close(read); }
    void close_write() { close(write); }

  private:
    static void close(int& end) {
        if (end >= 0) ::close(end);
        end = -1;
    }
};

void write_all(int end, const std::string& text) {
    for (std::size_t done = 0; done < text.size();) {
        const auto written = ::write(end, text.data() + done, text.size() - done);
        if (written < 0 && errno == EINTR) continue;
        if (written <= 0) return; // it reads no further
        done += std::size_t(written);
    }
}

std::string read_all(int end) {
    std::string text;
    char block[4096];
    for (;;) {
        const auto count = ::read(end, block, sizeof block);
        if (count < 0 && errno == EINTR) continue;
        if (count <= 0) return text;
        text.append(block, std::size_t(count));
    }
}

} // namespace

Result<Finished> run_program(const std::vector<std::string>& words, const std::string& input) {
    Pipe in, out;
    std::vector<char*> arguments;
    arguments.reserve(words.size() + 1);
    for (const std::string& word : words) arguments.push_back(const_cast<char*>(word.c_str()));
    arguments.push_back(nullptr);
    posix_spawn_file_actions_t actions;
    ::posix_spawn_file_actions_init(&actions);
    ::posix_spawn_file_actions_adddup2(&actions, in.read, 0);
    ::posix_spawn_file_actions_adddup2(&actions, out.write, 1);
    ::posix_spawn_file_actions_adddup2(&actions, out.write, 2);
    ::pid_t child = 0;
    const int error = ::posix_spawnp(&child, arguments[0], &actions, nullptr, arguments.data(), environ);
    ::posix_spawn_file_actions_destroy(&actions);
    if (error != 0)
        return Problem{words.front(), error == ENOENT
                                          ? "This program is not installed, or not on the PATH."
                                          : fmt::format("It cannot be started: {}.", std::strerror(error))};
    in.close_read();
    out.close_write();
    // A program that ends without reading what it is given shall not end this one.
    std::signal(SIGPIPE, SIG_IGN);
    std::jthread writer([&] {
        write_all(in.write, input);
        in.close_write();
    });
    Finished finished;
    finished.output = read_all(out.read);
    writer.join();
    int status = 0;
    while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
    }
    finished.exit = WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
    return finished;
}

} // namespace mavlo
