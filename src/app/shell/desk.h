#pragma once
// What the window offers to its benches, and what they tell it and each other.

#include "compute/live_field.h"
#include "section/overlay_chips.h"
#include "section/section_view.h"
#include "shell/tell_tales.h"

namespace mavlo::app {

class Desk : public QObject {
    Q_OBJECT
  public:
    Desk(Document& d, Jobs& j, TellTaleEngine& f, SectionView& s, OverlayChips& c)
        : document(d)
        , jobs(j)
        , key_figures(f)
        , section(s)
        , chips(c) {}

    Document& document;
    Jobs& jobs; ///< of questions
    TellTaleEngine& key_figures;
    SectionView& section;
    OverlayChips& chips;

  Q_SIGNALS:
    void refused(const mavlo::Problem& problem);
    void place_wanted(const std::string& path); ///< the row of a parameter, or an input of a question
    void field_wanted();                        ///< the current of the bench in use has changed
    void field_shown(const mavlo::app::LiveResult& result); ///< of the live field
    void probe_wanted(mavlo::Dq current);                   ///< a working point to look at
    void vary_wanted(const std::string& path);              ///< a dimension, in a sweep
    /// A full answer to the design as it stands came in (or went stale: no value).
    void figure_answered(const QString& figure, std::optional<double> value);
};

} // namespace mavlo::app
