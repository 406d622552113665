// Draw: the machine's dimensions on its drawing and on the sheet beside it.

#include "draw/disc_space.h"
#include "draw/disc_view.h"
#include "draw/long_section_view.h"
#include "draw/shapes/shape_panel.h"
#include "sheet/sheet.h"
#include "shell/bench.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

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

/// A click on a drawn shape takes it in hand.
SectionTool* offer_shapes(Desk& desk, Sheet& sheet) {
    auto* tool = new SketchTool(desk.document, desk.section, &sheet);
    auto* panel = new ShapePanel(desk.document, *tool, &sheet);
    sheet.add_page(QObject::tr("Shapes"), panel);
    QObject::connect(&desk.section, &SectionView::part_selected, tool,
                     [tool, panel, &sheet](const std::string& region) {
                         const auto at = region.find(".shapes.");
                         tool->select(at == std::string::npos ? std::string() : region.substr(at + 8));
                         if (at != std::string::npos) sheet.show_page_of(panel);
                     });
    return tool;
}

/// Axial machines have their discs under the section; one part is in hand in all of them.
void offer_discs(Desk& desk, Sheet& sheet, QWidget& foot) {
    auto* row = new QHBoxLayout;
    row->setSpacing(0);
    auto* discs = new DiscView(desk.document, &foot);
    row->addWidget(discs, 1);
    auto* space = new DiscSpace(desk.document, &foot);
    row->addWidget(space);
    QObject::connect(discs, &DiscView::discs_changed, space, &DiscSpace::set_discs);
    space->set_discs(discs->discs());
    static_cast<QVBoxLayout*>(foot.layout())->addLayout(row);
    QObject::connect(discs, &DiscView::part_chosen, &desk.section, &SectionView::set_selected);
    QObject::connect(discs, &DiscView::part_chosen, &sheet, &Sheet::show_part);
    QObject::connect(&desk.section, &SectionView::part_selected, discs, &DiscView::set_selected);
    QObject::connect(&sheet, &Sheet::part_chosen, discs, &DiscView::set_selected);
}

/// The housing stands round the section and the cut along the axis under it while the page of the cooling is in
/// hand.
QWidget* offer_long_section(Desk& desk, Sheet& sheet) {
    auto* foot = new QWidget;
    auto* layout = new QVBoxLayout(foot);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* view = new LongSectionView(desk.document, foot);
    layout->addWidget(view);
    view->hide();
    QObject::connect(&sheet, &Sheet::page_shown, view, [view, section = &desk.section](const QString& title) {
        const bool cooling = title == QStringLiteral("Cooling");
        view->setVisible(cooling);
        section->set_housing(cooling);
    });
    QObject::connect(&sheet, &Sheet::hovered, view, &LongSectionView::set_hot);
    QObject::connect(view, &LongSectionView::hot_changed, &sheet, &Sheet::set_hot);
    offer_discs(desk, sheet, *foot);
    return foot;
}

BenchView make(Desk& desk) {
    auto* sheet = new Sheet(desk.document);
    SectionView* section = &desk.section;
    QObject::connect(sheet, &Sheet::hovered, section, &SectionView::set_hot);
    QObject::connect(sheet, &Sheet::vary_wanted, &desk, &Desk::vary_wanted);
    QObject::connect(section, &SectionView::vary_wanted, &desk, &Desk::vary_wanted);
    QObject::connect(&desk, &Desk::place_wanted, sheet, &Sheet::show_row);
    QObject::connect(sheet, &Sheet::part_chosen, section, &SectionView::set_selected);
    QObject::connect(section, &SectionView::hot_changed, sheet, &Sheet::set_hot);
    QObject::connect(section, &SectionView::part_selected, sheet, &Sheet::show_part);
    offer_close_up(desk);
    QWidget* foot = offer_long_section(desk, *sheet);
    return {.side = sheet, .foot = foot, .tool = offer_shapes(desk, *sheet), .editable = true};
}

const Register<BenchKind> draw{{"draw", 10, "Draw", "the section, its dimensions and materials", make}};

} // namespace
} // namespace mavlo::app
