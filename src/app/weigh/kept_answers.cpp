#include "weigh/kept_answers.h"

#include "project/shelf.h"

namespace mavlo::app {

std::vector<KeptVariant> kept_answers(const Project& project, const AnswerStore& store,
                                      const std::stop_token& stop) {
    std::vector<KeptVariant> list;
    for (const Variant& variant : project.variants) {
        Problems problems; // writing says why it cannot be built
        KeptVariant kept{variant.name, build_design(project, variant.design, problems), {}};
        for (const QuestionKind& kind : question_kinds()) {
            if (stop.stop_requested()) return list;
            if (!kept.built) break;
            if (auto answer = store.find(kind.name, ask_of(project, variant), *kept.built)) {
                AnswerSheet sheet = answer_sheet(*answer);
                kept.answers.push_back({std::move(*answer), std::move(sheet)});
            }
        }
        list.push_back(std::move(kept));
    }
    return list;
}

} // namespace mavlo::app
