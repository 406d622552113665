// Probe: the field that follows the hand, at the current of the pad.

#include "probe/probe_panel.h"
#include "shell/bench.h"

namespace mavlo::app {
namespace {

BenchView make(Desk& desk) {
    auto* panel = new ProbePanel(desk.document);
    SectionView* section = &desk.section;
    QObject::connect(section, &SectionView::angle_changed, panel, &ProbePanel::show_angle);
    QObject::connect(panel, &ProbePanel::angle_wanted, section, &SectionView::set_angle);
    QObject::connect(panel, &ProbePanel::range_changed, section,
                     [section](double high) { section->set_range(0, high); });
    QObject::connect(panel, &ProbePanel::current_changed, &desk, &Desk::field_wanted);
    QObject::connect(&desk, &Desk::field_shown, panel, &ProbePanel::show_result);
    QObject::connect(&desk, &Desk::probe_wanted, panel, &ProbePanel::set_current);
    return {.side = panel, .live = true, .current = [panel] { return panel->current(); }};
}

const Register<BenchKind> probe{{"probe", 30, "Probe", "the field, live, at any angle and current", make}};

} // namespace
} // namespace mavlo::app
