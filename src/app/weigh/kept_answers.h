#pragma once
// What a report can hold: the variants with their answers that are fresh and kept.

#include "project/answers.h"
#include "report/answer_sheet.h"
#include "shell/document.h"

#include <stop_token>

namespace mavlo::app {

struct KeptAnswer {
    Answer answer;
    AnswerSheet sheet; ///< as a page shows it
};

struct KeptVariant {
    std::string name;
    std::shared_ptr<const DrawnMachine> built; ///< null: it cannot be built
    std::vector<KeptAnswer> answers;           ///< with the questions' own inputs, in their order
};

/// Reads them from the disk: for work beside the window.
std::vector<KeptVariant> kept_answers(const Project& project, const AnswerStore& store,
                                      const std::stop_token& stop);

} // namespace mavlo::app
