// Wind: the coils over the section, unrolled under it, and what follows from them.

#include "sheet/sheet.h"
#include "shell/bench.h"
#include "shell/told_problem.h"
#include "wind/belt.h"
#include "wind/coil_hand.h"
#include "wind/wind_panel.h"

namespace mavlo::app {
namespace {

BenchView make(Desk& desk) {
    auto* panel = new WindPanel(desk.document);
    QObject::connect(panel, &WindPanel::hovered, &desk.section, &SectionView::set_hot);
    for (const SheetRows* rows : panel->findChildren<SheetRows*>())
        QObject::connect(rows, &SheetRows::vary_wanted, &desk, &Desk::vary_wanted);
    QObject::connect(panel, &WindPanel::refused, &desk,
                     [&desk](const QString& sentence) { Q_EMIT desk.refused(in_words(sentence)); });
    QObject::connect(&PhaseFocus::shared(), &PhaseFocus::changed, &desk.section, qOverload<>(&QWidget::update));
    auto* hand = new CoilHand(
        desk.document, [&section = desk.section] { section.update(); }, panel);
    return {.side = panel, .foot = new Belt(desk.document, PhaseFocus::shared()), .tool = hand};
}

const Register<BenchKind> wind{{"wind", 20, "Wind", "the layout of the coils and their conductors", make}};

} // namespace
} // namespace mavlo::app
