#include "project/answers.h"

#include "project/project.h"

#include <fmt/format.h>
#include <fstream>
#include <sstream>

namespace mavlo {

AnswerStore::AnswerStore(const std::filesystem::path& project_file) {
    if (!project_file.empty()) m_folder = std::filesystem::path(project_file).replace_extension(".answers");
}

std::filesystem::path AnswerStore::file(const std::string& question, const std::string& key) const {
    return m_folder / fmt::format("{}-{}.json", question, key);
}

std::optional<Answer> AnswerStore::find(const std::string& question, const Ask& ask) const {
    return m_folder.empty() ? std::nullopt : read(file(question, answer_key(question, ask)));
}

std::optional<Answer> AnswerStore::find(const std::string& question, const Ask& ask, const Built& built) const {
    return m_folder.empty() ? std::nullopt : read(file(question, answer_key(question, ask, built)));
}

std::optional<Answer> AnswerStore::read(const std::filesystem::path& file) const {
    std::ifstream in(file, std::ios::binary);
    if (!in) return std::nullopt;
    std::ostringstream text;
    text << in.rdbuf();
    auto answer = answer_from_json(text.str());
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
    return write_file_atomically(file(answer.question, answer_key(answer.question, ask)),
                                 answer_to_json(answer));
}

} // namespace mavlo
