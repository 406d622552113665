#pragma once
// A project's answers as a study takes and keeps them, and what is asked of a variant.

#include "project/answers.h"
#include "project/project.h"
#include "study/study.h"

namespace mavlo {

/// Holds a copy of the store, for any thread.
inline AnswerShelf shelf_of(const AnswerStore& store) {
    return {[store](const std::string& question, const Ask& ask) { return store.find(question, ask); },
            [store](const Answer& answer, const Ask& ask) { return store.keep(answer, ask); }};
}

/// A question's own inputs of this variant.
inline Ask ask_of(const Project& project, const Variant& variant, Quality quality = Quality::Normal) {
    Ask ask;
    ask.design = variant.design;
    ask.materials = project.materials;
    ask.variant = variant.name;
    ask.quality = quality;
    return ask;
}

} // namespace mavlo
