#pragma once
// What the pages that run studies share.

#include "project/shelf.h"
#include "shell/document.h"

namespace mavlo::app {

/// A study's run that tells a job of itself and keeps points beside the document's answers.
inline StudyRun study_run(const Watch& watch, const PointStore& points) {
    StudyRun run;
    run.stop = watch.stop;
    run.points = points;
    run.progress = [&watch](int done, int total, double) {
        if (watch.progress) watch.progress(done, total);
    };
    return run;
}

inline Quality quality_at(int index) {
    return index == 0 ? Quality::Draft : index == 1 ? Quality::Normal : Quality::Fine;
}

} // namespace mavlo::app
