#pragma once
// A bench: a way to work on the machine, with a name in the head strip. Each registers itself, in its own
// folder.

#include "quantity/registry.h"
#include "shell/desk.h"

#include <functional>
#include <string>

namespace mavlo::app {

/// What a bench puts into the window.
struct BenchView {
    QWidget* page = nullptr;                ///< instead of the section; null: the section is shown, with
    QWidget* side = nullptr;                ///< this beside it
    QWidget* foot = nullptr;                ///< and this under it
    SectionTool* tool = nullptr;            ///< takes the section's mouse and keys first
    bool editable = false;                  ///< dimensions stand on the section, to be changed
    bool live = false;                      ///< a field is wanted whatever overlays are on
    std::function<CurrentWave()> current{}; ///< of the field; empty: none flows
    /// Along which the field is wanted; may be empty.
    std::function<std::optional<std::pair<Point, Point>>()> line{};
    std::function<bool()> is_idle{};
};

struct BenchKind {
    std::string name; ///< as `--bench` takes it
    int order = 0;
    std::string title;
    std::string tells; ///< what it is for
    std::function<BenchView(Desk&)> make{};
};

} // namespace mavlo::app
