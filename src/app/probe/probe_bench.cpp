// Probe: the field that follows the hand, at the current of the pad.

#include "probe/field_strip.h"
#include "probe/probe_hand.h"
#include "probe/probe_panel.h"
#include "shell/bench.h"

namespace mavlo::app {
namespace {

/// A place on the section is a place on the strip under it, and the other way round.
void join(Desk& desk, ProbeHand& hand, FieldStrip& strip) {
    SectionView* section = &desk.section;
    QObject::connect(&desk, &Desk::field_shown, &strip, &FieldStrip::show_result);
    QObject::connect(&hand, &ProbeHand::hovered, &strip, [&strip](Point place) { strip.show_place(place); });
    QObject::connect(&strip, &FieldStrip::place_hovered, &hand,
                     [&hand](std::optional<Point> place) { hand.set_marked(place); });
    QObject::connect(&hand, &ProbeHand::marked_changed, section, qOverload<>(&QWidget::update));
    QObject::connect(&hand, &ProbeHand::line_changed, section, qOverload<>(&QWidget::update));
    QObject::connect(&hand, &ProbeHand::line_changed, &desk, &Desk::field_wanted);
}

void offer_lines(Desk& desk, ProbeHand& hand) {
    QPushButton* chip = desk.chips.add("probe", QObject::tr("line"));
    chip->setObjectName(QStringLiteral("lay_line"));
    chip->setCheckable(true);
    chip->setToolTip(QObject::tr("Draw a line over the section: the strip shows the field along it."));
    QObject::connect(chip, &QPushButton::toggled, &hand, &ProbeHand::set_laying);
}

BenchView make(Desk& desk) {
    auto* panel = new ProbePanel(desk.document);
    auto* strip = new FieldStrip(desk.document);
    auto* hand = new ProbeHand(panel);
    join(desk, *hand, *strip);
    offer_lines(desk, *hand);
    SectionView* section = &desk.section;
    QObject::connect(section, &SectionView::angle_changed, panel, &ProbePanel::show_angle);
    QObject::connect(panel, &ProbePanel::angle_wanted, section, &SectionView::set_angle);
    QObject::connect(panel, &ProbePanel::range_changed, section,
                     [section](double high) { section->set_range(0, high); });
    QObject::connect(panel, &ProbePanel::current_changed, &desk, &Desk::field_wanted);
    QObject::connect(&desk, &Desk::field_shown, panel, &ProbePanel::show_result);
    QObject::connect(&desk, &Desk::probe_wanted, panel, &ProbePanel::set_current);
    return {.side = panel,
            .foot = strip,
            .tool = hand,
            .live = true,
            .current = [panel] { return panel->current(); },
            .line = [hand] { return hand->line(); }};
}

const Register<BenchKind> probe{{"probe", 30, "Probe", "the field, live, at any angle and current", make}};

} // namespace
} // namespace mavlo::app
