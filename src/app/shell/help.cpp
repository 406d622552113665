// F1: every key and what the hand can do.

#include "shell/main_window.h"

#include <QDialog>
#include <QTextBrowser>

namespace mavlo::app {

void MainWindow::show_help() {
    struct Line {
        const char *keys, *what;
    };
    static constexpr Line lines[] = {
        {QT_TR_NOOP("Ctrl+1 … Ctrl+5"), QT_TR_NOOP("Draw, Wind, Probe, Ask, Weigh")},
        {QT_TR_NOOP("Ctrl+N"),
         QT_TR_NOOP("the start page: starting shapes, slots and poles, recent projects, demos")},
        {QT_TR_NOOP("Ctrl+O, Ctrl+S, Ctrl+Shift+S"), QT_TR_NOOP("open, save, save as")},
        {QT_TR_NOOP("Ctrl+I"), QT_TR_NOOP("a rotor or stator from a DXF drawing")},
        {QT_TR_NOOP("Ctrl+E"),
         QT_TR_NOOP("the section to a file: drawing (DXF), picture (SVG, PDF, PNG), mesh and field (VTU)")},
        {QT_TR_NOOP("Ctrl+T"), QT_TR_NOOP("the dimensions of a data sheet, in its own order and words")},
        {QT_TR_NOOP("Ctrl+K"),
         QT_TR_NOOP("the design's own circuits, as lists of elements with their schematic")},
        {QT_TR_NOOP("Ctrl+M"),
         QT_TR_NOOP("the shelf of materials: curves, losses, magnets; own copies can be changed")},
        {QT_TR_NOOP("Ctrl+Z, Ctrl+Shift+Z"), QT_TR_NOOP("undo, redo: every change of the project")},
        {QT_TR_NOOP("Ctrl+D"), QT_TR_NOOP("light or dark")},
        {QT_TR_NOOP("F1, Shift+F1"), QT_TR_NOOP("explains what is under the cursor; this page")},
        {QT_TR_NOOP("Ctrl+Q"), QT_TR_NOOP("quit")},
        {QT_TR_NOOP("Tab, Shift+Tab"), QT_TR_NOOP("go through fields, cards and buttons")},
        {QT_TR_NOOP("in a field: Enter, Esc"),
         QT_TR_NOOP(
             "take what was typed, or go back to what was. Units may be typed (0.5 in, 7.5 deg); a text that "
             "starts with = is a formula, e.g. = stator.bore_diameter / 8")},
        {QT_TR_NOOP("on the section: ← →"),
         QT_TR_NOOP("turn the rotor by 1°, with Shift by 0.1°; Home: back to 0")},
        {QT_TR_NOOP("Ctrl+0"), QT_TR_NOOP("the whole section")},
        {QT_TR_NOOP("on the section: + − 0"),
         QT_TR_NOOP(
             "zoom in, out, whole section; the wheel zooms at the cursor, dragging the ground moves it")},
        {QT_TR_NOOP("on the section in Draw: C, or a double click on a part"),
         QT_TR_NOOP(
             "the close-up: one slot over one pole with its dimensions; Esc or a click on the small plan goes "
             "back")},
        {QT_TR_NOOP("while drawing a shape (Draw, page Shapes)"),
         QT_TR_NOOP(
             "clicks snap to ends, middles, centres, tangents, lines, 15° and the grid; a length (8), a length "
             "at "
             "an angle "
             "(8<30), coordinates (12, 3) or steps (@4, 2) may be typed; A: an arc, Backspace: a corner back, "
             "Enter: close, "
             "Esc: leave. A chosen shape's corners are dragged, Del removes it")},
        {QT_TR_NOOP("on a part in Draw"),
         QT_TR_NOOP("click: its sheet, and its material to change; on the section P and Shift+P take the "
                    "next part and the one before")},
        {QT_TR_NOOP("on a dimension"), QT_TR_NOOP("drag it, or click and type")},
        {QT_TR_NOOP("on the ring"), QT_TR_NOOP("drag to turn the rotor")},
        {QT_TR_NOOP("on the current pad: arrows, 0"),
         QT_TR_NOOP("move the current by 2 % of the largest (with Shift 10 %), or switch it off")},
        {QT_TR_NOOP("on a plot"),
         QT_TR_NOOP("wheel zooms, dragging moves, double-click shows all, the cursor reads values")},
    };
    QString html = QStringLiteral("<h3>%1</h3><table cellpadding='5'>").arg(tr("Keys and hints"));
    for (const Line& line : lines)
        html += QStringLiteral("<tr><td><b>%1</b></td><td>%2</td></tr>").arg(tr(line.keys), tr(line.what));
    auto* dialog = new QDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setObjectName(QStringLiteral("help"));
    dialog->setWindowTitle(tr("Keys and hints"));
    dialog->resize(720, 560);
    auto* layout = new QVBoxLayout(dialog);
    auto* text = new QTextBrowser(dialog);
    text->setHtml(html + QStringLiteral("</table>"));
    layout->addWidget(text);
    dialog->show();
}

} // namespace mavlo::app
