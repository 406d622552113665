#pragma once
// What can be laid over the section, each with a chip of its own. Each registers itself, one file of overlays/.

#include "compute/live_field.h"
#include "quantity/registry.h"
#include "section/section_layers.h"

#include <functional>
#include <set>
#include <string>
#include <vector>

namespace mavlo::app {

/// What an overlay paints on.
struct SectionCanvas {
    QPainter& painter;
    const ViewFrame& frame;
    const DrawnMachine& built;
    const FieldPicture* picture; ///< of the design and angle shown; null while there is none
    bool on_colours;             ///< a coloured field lies under it
};

struct Overlay {
    std::string name; ///< on its chip
    int order = 0;
    std::set<std::string> benches{};  ///< where it is offered; empty: wherever the section is
    std::set<std::string> at_first{}; ///< benches that show it until its chip is pressed
    bool needs_field = false;
    bool coloured = false; ///< fills the section with the field's colours; one of these at a time
    bool alone = false;    ///< coloured, and not the magnetic field's: its lines are put out with it
    /// Of a coloured one: colours other than |B|, given to the picture beside the window.
    std::function<void(FieldPicture&, const FieldInHand&)> colour{};
    /// Over the coloured field, beside the window.
    std::function<void(QPainter&, const ViewFrame&, const FieldPicture&)> paint_on_colours{};
    std::function<void(SectionLook&)> look{}; ///< changes how the drawing itself is dressed
    std::function<void(const SectionCanvas&)> paint{};
    std::function<double(const Machine&)> room{}; ///< pixels that it needs round the section
};

/// The overlays that are on, in their order.
class OverlaySet {
  public:
    bool has(std::string_view name) const;
    /// Of coloured ones the newest puts the others out.
    void set(const Overlay& overlay, bool on);
    const Overlay* colours() const; ///< null: none is coloured
    bool needs_field() const;
    double room(const Machine& machine) const; ///< the most that one needs round the section, pixels
    const std::vector<const Overlay*>& list() const { return m_list; }
    bool operator==(const OverlaySet&) const = default;

    static OverlaySet at_first(const std::string& bench);

  private:
    std::vector<const Overlay*> m_list;
};

} // namespace mavlo::app
