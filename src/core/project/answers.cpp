#include "project/answers.h"

#include "storage/file.h"

#include <fmt/format.h>

namespace mavlo {
namespace {
constexpr std::uintmax_t most_answer_bytes = 128 << 20;
}

std::filesystem::path answers_folder(const std::filesystem::path& project_file) {
    return std::filesystem::path(project_file).replace_extension(".answers");
}

AnswerStore::AnswerStore(const std::filesystem::path& project_file) {
    if (!project_file.empty()) m_folder = answers_folder(project_file);
}

AnswerStore AnswerStore::in_folder(std::filesystem::path folder) {
    AnswerStore store;
    store.m_folder = std::move(folder);
    return store;
}

void AnswerStore::take_over(const AnswerStore& from, Take what) const {
    if (m_folder.empty() || from.m_folder.empty() || m_folder == from.m_folder) return;
    std::error_code error;
    std::filesystem::create_directories(m_folder, error);
    for (const auto& entry : std::filesystem::directory_iterator(from.m_folder, error)) {
        const auto to = m_folder / entry.path().filename();
        const bool answer = entry.path().extension() == ".json";
        if (!is_kept(entry.path()) || std::filesystem::exists(to, error)) continue;
        if (what == Take::Answers && !answer) continue;
        if (const auto text = read_kept(entry.path()); text && !write_kept(to, *text) && what == Take::All)
            std::filesystem::remove(entry.path(), error);
    }
    if (what == Take::All) std::filesystem::remove(from.m_folder, error); // when nothing is left in it
}

std::filesystem::path AnswerStore::file(const std::string& question, const std::string& key) const {
    return m_folder / fmt::format("{}-{}.json", question, key);
}

std::optional<Answer> AnswerStore::find(const std::string& question, const Ask& ask) const {
    if (m_folder.empty()) return std::nullopt;
    auto answer = read(file(question, answer_key(question, ask)));
    return answer && is_answer_to(*answer, question, ask) ? std::move(answer) : std::nullopt;
}

std::optional<Answer> AnswerStore::find(const std::string& question, const Ask& ask, const Built& built) const {
    if (m_folder.empty()) return std::nullopt;
    auto answer = read(file(question, answer_key(question, ask, built)));
    return answer && is_answer_to(*answer, question, ask, built) ? std::move(answer) : std::nullopt;
}

std::optional<Answer> AnswerStore::read(const std::filesystem::path& file) const {
    const auto text = read_kept(file, most_answer_bytes);
    if (!text) return std::nullopt;
    auto answer = answer_from_json(*text);
    if (!answer) return std::nullopt;
    return std::move(*answer);
}

std::optional<Problem> AnswerStore::keep(const Answer& answer, const Ask& ask) const {
    if (m_folder.empty()) return std::nullopt;
    std::error_code error;
    std::filesystem::create_directories(m_folder, error);
    if (error)
        return Problem{m_folder.string(),
                       fmt::format("The folder for answers cannot be made: {}.", error.message())};
    if (auto problem =
            write_kept(file(answer.question, answer_key(answer.question, ask)), answer_to_json(answer)))
        return problem;
    for (const auto& spent : answer.spent.files) std::filesystem::remove(spent, error);
    return std::nullopt;
}

} // namespace mavlo
