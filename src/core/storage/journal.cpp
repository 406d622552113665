#include "storage/journal.h"

#include "storage/file.h"
#include "storage/json_text.h"

#include <algorithm>
#include <fcntl.h>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <random>
#include <sys/file.h>
#include <unistd.h>

namespace mavlo {
namespace {

constexpr const char* ending = ".journal";

std::filesystem::path lock_of(std::filesystem::path journal) {
    return journal.replace_extension(".lock");
}

/// Opens the lock's file and takes it; below 0 where another program has it.
int take_lock(const std::filesystem::path& file, int flags) {
    const int fd = ::open(file.c_str(), O_RDWR | O_CLOEXEC | O_NOFOLLOW | flags, 0600);
    if (fd < 0 || ::flock(fd, LOCK_EX | LOCK_NB) == 0) return fd;
    ::close(fd);
    return -1;
}

/// Whether no running program has this journal.
bool is_abandoned(const std::filesystem::path& journal) {
    if (!is_kept(lock_of(journal))) return true;
    const int fd = take_lock(lock_of(journal), 0);
    if (fd < 0) return false;
    ::close(fd);
    return true;
}

std::optional<LeftBehind> read(const std::filesystem::path& journal) {
    const auto text = read_kept(journal);
    if (!text) return std::nullopt;
    const auto json = parse_json(*text);
    if (!json) return std::nullopt;
    try {
        std::error_code error;
        return LeftBehind{journal,
                          json->at("project").get<std::string>(),
                          json->at("name").get<std::string>(),
                          json->at("file").get<std::string>(),
                          json->at("answers").get<std::string>(),
                          std::filesystem::last_write_time(journal, error)};
    } catch (const nlohmann::json::exception&) {
        return std::nullopt;
    }
}

} // namespace

Journal::Journal(std::filesystem::path folder)
    : m_folder(std::move(folder)) {}

Journal::~Journal() {
    forget();
}

bool Journal::open() {
    if (m_lock >= 0) return true;
    if (m_folder.empty()) return false;
    std::error_code error;
    std::filesystem::create_directories(m_folder, error);
    std::filesystem::permissions(m_folder, std::filesystem::perms::owner_all, error);
    std::random_device source;
    m_file = m_folder / fmt::format("{}-{:08x}{}", ::getpid(), source(), ending);
    m_lock = take_lock(lock_of(m_file), O_CREAT | O_EXCL);
    return m_lock >= 0;
}

void Journal::write(const LeftBehind& state) {
    if (!open()) return;
    const nlohmann::ordered_json json{{"name", state.name},
                                      {"file", state.file.string()},
                                      {"answers", state.answers.string()},
                                      {"project", state.project}};
    auto aside = FileAside::beside_kept(m_file);
    if (!aside || aside->write(json.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace))) return;
    aside->put_in_place(FileAside::Flush::No);
}

void Journal::forget() {
    if (m_lock < 0) return;
    std::error_code error;
    std::filesystem::remove(m_file, error);
    std::filesystem::remove(lock_of(m_file), error);
    ::close(m_lock);
    m_lock = -1;
}

std::vector<LeftBehind> Journal::left_behind(const std::filesystem::path& folder) {
    std::vector<LeftBehind> list;
    std::error_code error;
    for (const auto& entry : std::filesystem::directory_iterator(folder, error)) {
        if (entry.path().extension() != ending || !is_abandoned(entry.path())) continue;
        if (auto left = read(entry.path()))
            list.push_back(std::move(*left));
        else
            drop(entry.path());
    }
    std::sort(list.begin(), list.end(),
              [](const LeftBehind& a, const LeftBehind& b) { return a.written > b.written; });
    return list;
}

void Journal::drop(const std::filesystem::path& journal) {
    std::error_code error;
    std::filesystem::remove(journal, error);
    std::filesystem::remove(lock_of(journal), error);
}

} // namespace mavlo
