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
        {"Ctrl+1 … Ctrl+5", "Draw, Wind, Probe, Ask, Weigh"},
        {"Ctrl+N", "the start page: starting shapes, slots and poles, recent projects, demos"},
        {"Ctrl+O, Ctrl+S, Ctrl+Shift+S", "open, save, save as"},
        {"Ctrl+I", "a rotor or stator from a DXF drawing"},
        {"Ctrl+E", "the section to a file: drawing (DXF), picture (SVG, PDF, PNG), mesh and field (VTU)"},
        {"Ctrl+T", "the dimensions of a data sheet, in its own order and words"},
        {"Ctrl+K", "the design's own circuits, as lists of elements with their schematic"},
        {"Ctrl+M", "the shelf of materials: curves, losses, magnets; own copies can be changed"},
        {"Ctrl+Z, Ctrl+Shift+Z", "undo, redo: every change of the project"},
        {"Ctrl+D", "light or dark"},
        {"F1, Shift+F1", "explains what is under the cursor; this page"},
        {"Ctrl+Q", "quit"},
        {"Tab, Shift+Tab", "go through fields, cards and buttons"},
        {"in a field: Enter, Esc",
         "take what was typed, or go back to what was. Units may be typed (0.5 in, 7.5 deg); a text that "
         "starts with = is a formula, e.g. = stator.bore_diameter / 8"},
        {"on the section: ← →", "turn the rotor by 1°, with Shift by 0.1°; Home: back to 0"},
        {"Ctrl+0", "the whole section"},
        {"on the section: + − 0",
         "zoom in, out, whole section; the wheel zooms at the cursor, dragging the ground moves it"},
        {"on the section in Draw: C, or a double click on a part",
         "the close-up: one slot over one pole with its dimensions; Esc or a click on the small plan goes "
         "back"},
        {"while drawing a shape (Draw, page Shapes)",
         "clicks snap to ends, middles, centres, tangents, lines, 15° and the grid; a length (8), a length at "
         "an angle "
         "(8<30), coordinates (12, 3) or steps (@4, 2) may be typed; A: an arc, Backspace: a corner back, "
         "Enter: close, "
         "Esc: leave. A chosen shape's corners are dragged, Del removes it"},
        {"on a part in Draw",
         "click: its sheet, and its material to change; on the section P and Shift+P take the "
         "next part and the one before"},
        {"on a dimension", "drag it, or click and type"},
        {"on the ring", "drag to turn the rotor"},
        {"on the current pad: arrows, 0",
         "move the current by 2 % of the largest (with Shift 10 %), or switch it off"},
        {"on a plot", "wheel zooms, dragging moves, double-click shows all, the cursor reads values"},
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
