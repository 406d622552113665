#pragma once
// The document's answers as a study takes and keeps them, from other threads too.

#include "shell/document.h"
#include "study/study.h"

#include <memory>

namespace mavlo::app {

inline AnswerShelf shelf_of(const Document& document) {
    const auto store = std::make_shared<const AnswerStore>(document.answers());
    return {[store](const std::string& question, const Ask& ask) { return store->find(question, ask); },
            [store](const Answer& answer, const Ask& ask) { return store->keep(answer, ask); }};
}

inline Ask ask_of(const Document& document, Quality quality) {
    Ask ask;
    ask.design = document.design();
    ask.materials = document.project().materials;
    ask.variant = document.variant().name;
    ask.quality = quality;
    return ask;
}

inline Quality quality_at(int index) {
    return index == 0 ? Quality::Draft : index == 1 ? Quality::Normal : Quality::Fine;
}

} // namespace mavlo::app
