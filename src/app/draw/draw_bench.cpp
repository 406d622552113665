// Draw: the machine's dimensions on its drawing and on the sheet beside it.

#include "sheet/sheet.h"
#include "shell/bench.h"

namespace mavlo::app {
namespace {

void offer_close_up(Desk& desk) {
    QPushButton* chip = desk.chips.add("draw", QObject::tr("close-up"));
    chip->setObjectName(QStringLiteral("close_up"));
    chip->setToolTip(
        QObject::tr("One slot over one pole, with its dimensions (C, or a double click on a part)"));
    QObject::connect(chip, &QPushButton::clicked, &desk.section, &SectionView::set_close_up);
    QObject::connect(&desk.section, &SectionView::close_up_changed, chip, &QPushButton::setChecked);
}

BenchView make(Desk& desk) {
    auto* sheet = new Sheet(desk.document);
    SectionView* section = &desk.section;
    QObject::connect(sheet, &Sheet::hovered, section, &SectionView::set_hot);
    QObject::connect(sheet, &Sheet::part_chosen, section, &SectionView::set_selected);
    QObject::connect(section, &SectionView::hot_changed, sheet, &Sheet::set_hot);
    QObject::connect(section, &SectionView::part_selected, sheet, &Sheet::show_part);
    offer_close_up(desk);
    return {.side = sheet, .editable = true};
}

const Register<BenchKind> draw{{"draw", 10, "Draw", "the section, its dimensions and materials", make}};

} // namespace
} // namespace mavlo::app
