#pragma once
// The answers beside the project, in the folder NAME.answers/: one JSON file each, named by what it depends on.

#include "question/question.h"

#include <filesystem>
#include <optional>

namespace mavlo {

/// The folder of a project file's answers.
std::filesystem::path answers_folder(const std::filesystem::path& project_file);

class AnswerStore {
  public:
    /// For the project file NAME.mavlo; an empty path gives a store that keeps nothing.
    explicit AnswerStore(const std::filesystem::path& project_file = {});

    /// For a project that has no file yet.
    static AnswerStore in_folder(std::filesystem::path folder);

    const std::filesystem::path& folder() const { return m_folder; }
    /// The answer kept for exactly this design, question, inputs and quality. A damaged file counts as none.
    std::optional<Answer> find(const std::string& question, const Ask& ask) const;
    /// The same of a design that has been built with the ask's materials.
    std::optional<Answer> find(const std::string& question, const Ask& ask, const Built& built) const;
    /// Takes over what another store keeps: all of it, or finished answers alone where the other goes on.
    enum class Take { All, Answers };
    void take_over(const AnswerStore& from, Take what) const;
    /// Keeps an answer; says what went wrong with the disk, if anything.
    std::optional<Problem> keep(const Answer& answer, const Ask& ask) const;

  private:
    std::filesystem::path file(const std::string& question, const std::string& key) const;
    std::optional<Answer> read(const std::filesystem::path& file) const;
    std::filesystem::path m_folder;
};

} // namespace mavlo
