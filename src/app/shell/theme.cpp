#include "shell/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

Theme make(bool dark) {
    Theme t;
    t.dark = dark;
    auto pick = [dark](const char* light, const char* dim) {
        return QColor(QLatin1String(dark ? dim : light));
    };
    t.paper = pick("#F6F4EF", "#171D22");
    t.sheet = pick("#FFFFFF", "#20282E");
    t.ink = pick("#1F2A33", "#E8E6E0");
    t.soft = pick("#5C6871", "#A3AFB7");
    t.line = pick("#D9D5CB", "#364048");
    t.accent = pick("#A04A1A", "#E8945C");
    t.field = pick("#F4F2ED", "#2A333A");
    t.stator_iron = pick("#C7D0D6", "#4A5862");
    t.rotor_iron = pick("#B4BFC7", "#3E4B54");
    t.shaft = pick("#E6E1D8", "#2B333A");
    t.bar = pick("#D3BE93", "#7C6C48");
    t.slot = pick("#FBFAF7", "#20282E");
    t.filled = pick("#E2D8BE", "#4B4637");
    t.north_out = pick("#3E7C86", "#5FA3AE");
    t.north_in = pick("#A77CA8", "#C39AC4");
    t.good = pick("#2E7D5B", "#5DB58C");
    t.caution = QColor(0xD9, 0xA4, 0x41);
    t.phase = {QColor(0xE6, 0x9F, 0x00), QColor(0x56, 0xB4, 0xE9), QColor(0x00, 0x9E, 0x73),
               QColor(0xCC, 0x79, 0xA7), QColor(0x00, 0x72, 0xB2), QColor(0xD5, 0x5E, 0x00),
               QColor(0xB8, 0xA8, 0x2C), QColor(0x8C, 0x8C, 0x8C), QColor(0x6A, 0x5A, 0xA0)};
    return t;
}

Theme& current() {
    static Theme t = make(false);
    return t;
}

QString family() {
    return QFontDatabase::families().contains(QStringLiteral("Inter")) ? QStringLiteral("Inter")
                                                                       : QFont().family();
}

QFont font_of(int pixels) {
    QFont font(family());
    font.setPixelSize(pixels);
    return font;
}

QColor mixed(const QColor& a, const QColor& b, double share) {
    auto part = [share](int x, int y) { return int(x + (y - x) * share); };
    return {part(a.red(), b.red()), part(a.green(), b.green()), part(a.blue(), b.blue())};
}

constexpr double tinted = 0.14; ///< share of the accent in what is chosen

/// Relative luminance of a colour of the screen (IEC 61966-2-1).
double luminance(const QColor& colour) {
    const auto linear = [](double c) { return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4); };
    return 0.2126 * linear(colour.redF()) + 0.7152 * linear(colour.greenF()) + 0.0722 * linear(colour.blueF());
}

} // namespace

QColor Theme::tint(double share) const {
    return mixed(sheet, accent, share);
}

QColor Theme::return_side(int phase_index) const {
    return mixed(phase[std::size_t(phase_index)], dark ? QColor(0x20, 0x28, 0x2E) : QColor(Qt::white), 0.45);
}

std::array<QColor, 4> Theme::grounds() const {
    return {paper, sheet, field, tint(tinted)};
}

QColor Theme::written(const QColor& colour) const {
    const auto is_read = [this](const QColor& words) {
        const auto on = grounds();
        return std::all_of(on.begin(), on.end(),
                           [&](const QColor& ground) { return contrast(words, ground) >= least_contrast; });
    };
    double share = 0;
    while (share < 1 && !is_read(mixed(colour, ink, share))) share += 0.05;
    return mixed(colour, ink, std::min(share, 1.0));
}

double contrast(const QColor& a, const QColor& b) {
    const double of_a = luminance(a), of_b = luminance(b);
    return (std::max(of_a, of_b) + 0.05) / (std::min(of_a, of_b) + 0.05);
}

const Theme& theme() {
    return current();
}

void set_theme(bool dark) {
    current() = make(dark);
    QPalette palette;
    const Theme& t = current();
    palette.setColor(QPalette::Window, t.sheet);
    palette.setColor(QPalette::Base, t.sheet);
    palette.setColor(QPalette::AlternateBase, t.paper);
    palette.setColor(QPalette::Text, t.ink);
    palette.setColor(QPalette::WindowText, t.ink);
    palette.setColor(QPalette::Button, t.sheet);
    palette.setColor(QPalette::ButtonText, t.ink);
    palette.setColor(QPalette::Highlight, t.accent);
    palette.setColor(QPalette::HighlightedText, t.sheet);
    palette.setColor(QPalette::PlaceholderText, t.soft);
    palette.setColor(QPalette::ToolTipBase, t.sheet);
    palette.setColor(QPalette::ToolTipText, t.ink);
    QApplication::setPalette(palette);
    QApplication::setFont(body_font());
    qApp->setStyleSheet(style_sheet());
}

bool system_is_dark() {
    return QPalette().color(QPalette::Window).lightness() < 110;
}

QFont body_font() {
    return font_of(13);
}
QFont small_font() {
    return font_of(12);
}

QFont figure_font(int pixels) {
    QFont font = font_of(pixels);
    font.setWeight(QFont::DemiBold);
    return font;
}

QString style_sheet() {
    const Theme& t = theme();
    QString css = QStringLiteral(R"(
QWidget { color: @ink; }
QMainWindow, QDialog { background: @sheet; }
QLabel[soft="true"] { color: @soft; font-size: 12px; }
QLabel[title="true"] { font-size: 18px; font-weight: 600; }
QLabel[group="true"] { color: @soft; font-weight: 600; font-size: 12px; }
QLabel[caution="true"] { color: @ink; font-size: 12px; }
QLineEdit { background: @field; border: 1px solid @line; border-radius: 4px; padding: 3px 7px; selection-background-color: @accent; }
QLineEdit:focus { border: 1px solid @accent; background: @sheet; }
QLineEdit[wrong="true"] { border: 1px solid @caution; background: @wash; }
QComboBox { background: @field; border: 1px solid @line; border-radius: 4px; padding: 3px 7px; }
QComboBox:focus { border: 1px solid @accent; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(:/icons/down.svg); width: 12px; height: 12px; }
QComboBox QAbstractItemView { background: @sheet; border: 1px solid @line; selection-background-color: @tint; selection-color: @ink; outline: none; }
QListWidget, QTreeView, QPlainTextEdit { border: 1px solid @line; border-radius: 4px; }
QListView::indicator, QTreeView::indicator, QCheckBox::indicator { width: 13px; height: 13px; border: 1px solid @soft; border-radius: 3px; background: @field; }
QListView::indicator:checked, QTreeView::indicator:checked, QCheckBox::indicator:checked { background: @accent; border-color: @accent; image: url(:/icons/check.svg); }
QPushButton { background: transparent; border: 1px solid @line; border-radius: 12px; padding: 4px 14px; }
QWidget#chips QPushButton { background: @paper; }
QWidget#chips QPushButton:checked { background: @tint; }
QLabel[ground="true"] { background: @paper; border-radius: 4px; padding: 2px 4px; }
QPushButton:hover { border-color: @soft; }
QPushButton:focus { border-color: @accent; }
QPushButton:checked { background: @tint; border-color: @accent; color: @accent; }
QPushButton:disabled { color: @soft; }
QPushButton[main="true"] { background: @accent; border-color: @accent; color: @sheet; font-weight: 600; }
QPushButton[main="true"]:disabled { background: transparent; border-color: @line; color: @soft; font-weight: 400; }
QPushButton[narrow="true"] { padding: 3px 8px; font-size: 12px; border-radius: 10px; }
QPushButton[flat="true"] { border: none; padding: 4px 6px; }
QPushButton[soft="true"] { color: @soft; font-size: 12px; padding: 0 4px; }
QPushButton[flat="true"]:hover { color: @accent; }
QPushButton[flat="true"]:focus { color: @accent; }
QPushButton::menu-indicator { image: none; width: 0; }
QMenu { background: @sheet; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 5px 24px 5px 12px; border-radius: 4px; }
QMenu::item:selected { background: @tint; }
QMenu::item:disabled { color: @soft; }
QMenu::separator { height: 1px; background: @line; margin: 4px 8px; }
QToolTip { background: @sheet; color: @ink; border: 1px solid @line; padding: 4px; }
QScrollArea { border: none; background: transparent; }
QScrollBar:vertical { background: transparent; width: 8px; }
QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 24px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar:horizontal { background: transparent; height: 8px; }
QScrollBar::handle:horizontal { background: @line; border-radius: 4px; min-width: 24px; }
QTableWidget { background: @sheet; border: none; gridline-color: @line; }
QHeaderView::section { background: @sheet; color: @soft; border: none; border-bottom: 1px solid @line; padding: 6px; font-size: 12px; }
QTextBrowser { background: @sheet; border: none; }
)");
    const std::pair<const char*, QColor> colours[] = {
        {"@ink", t.ink},         {"@sheet", t.sheet},       {"@soft", t.soft},
        {"@line", t.line},       {"@field", t.field},       {"@accent", t.accent},
        {"@caution", t.caution}, {"@tint", t.tint(tinted)}, {"@wash", mixed(t.sheet, t.caution, 0.15)},
        {"@paper", t.paper}};
    for (const auto& [name, colour] : colours) css.replace(QLatin1String(name), colour.name());
    return css;
}

} // namespace mavlo::app
