// mavlo: the desktop.

#include "ask/ask_bench.h"
#include "sheet/page_tabs.h"
#include "shell/application.h"
#include "shell/core_words.h"
#include "shell/main_window.h"
#include "shell/theme.h"

#include <QApplication>
#include <QComboBox>
#include <QCommandLineParser>
#include <QDialog>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QPushButton>
#include <QSaveFile>
#include <QScreen>
#include <QSettings>
#include <QSpinBox>
#include <QTextStream>
#include <QThread>
#include <QTranslator>
#include <algorithm>
#include <clocale>

using namespace mavlo::app;

namespace {

/// Lets the program work until its figures stand, then saves the window as a picture.
int take_screenshot(MainWindow& window, const QString& file) {
    QElapsedTimer timer;
    timer.start();
    int quiet = 0;
    while (timer.elapsed() < 60000 && quiet < 6) {
        QCoreApplication::processEvents(QEventLoop::AllEvents, 50);
        QThread::msleep(20);
        quiet = window.is_idle() ? quiet + 1 : 0;
    }
    QWidget* shown = &window; // or the dialog over it
    for (QDialog* dialog : window.findChildren<QDialog*>())
        if (dialog->isVisible()) shown = dialog;
    if (shown->grab().save(file)) return 0;
    QTextStream(stderr) << "The picture " << file
                        << " cannot be written; check the folder and the free space.\n";
    return 1;
}

bool fill_field(MainWindow& window, const QString& name, const QString& text) {
    if (auto* edit = window.findChild<QLineEdit*>(name)) {
        edit->setText(text);
    } else if (auto* box = window.findChild<QComboBox*>(name)) {
        if (const int of_data = box->findData(text); of_data >= 0)
            box->setCurrentIndex(of_data);
        else
            box->setCurrentText(text);
    } else if (auto* number = window.findChild<QSpinBox*>(name)) {
        number->setValue(text.toInt());
    } else {
        return false;
    }
    return true;
}

/// And lets the program work until it has nothing left to do.
bool press_button(MainWindow& window, const QString& name) {
    auto* button = window.findChild<QAbstractButton*>(name);
    if (!button) return false;
    button->click();
    for (int quiet = 0; quiet < 10; quiet = window.is_idle() ? quiet + 1 : 0) {
        QCoreApplication::processEvents(QEventLoop::AllEvents, 50);
        QThread::msleep(20);
    }
    return true;
}

QString bench_list() {
    QStringList names;
    for (const std::string& name : mavlo::registry<BenchKind>().names()) names << QString::fromStdString(name);
    return names.join(QStringLiteral(", "));
}

std::optional<QSize> size_of(const QString& text) {
    const auto parts = text.split('x');
    bool ok_width = false, ok_height = false;
    if (parts.size() != 2) return std::nullopt;
    const QSize size(parts[0].toInt(&ok_width), parts[1].toInt(&ok_height));
    if (!ok_width || !ok_height || size.width() < 320 || size.height() < 240 || size.width() > 16000 ||
        size.height() > 16000)
        return std::nullopt;
    return size;
}

int complain(const QString& sentence) {
    QTextStream(stderr) << sentence << "\n";
    return 2;
}

int write_core_words(const QString& name) {
    QSaveFile file(name);
    const QByteArray text = mavlo::app::catalogue_of(mavlo::app::core_words());
    if (file.open(QIODevice::WriteOnly) && file.write(text) == text.size() && file.commit()) return 0;
    return complain(QStringLiteral("%1 could not be written: %2.").arg(name, file.errorString()));
}

} // namespace

int main(int argc, char** argv) {
    const bool no_display =
        qEnvironmentVariableIsEmpty("DISPLAY") && qEnvironmentVariableIsEmpty("WAYLAND_DISPLAY");
    if (no_display && qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) qputenv("QT_QPA_PLATFORM", "offscreen");
    mavlo::app::Application app(argc, argv);
    // Qt took the desktop's locale; libraries that read and write files shall not.
    std::setlocale(LC_NUMERIC, "C");
    QApplication::setOrganizationName(QStringLiteral("mavlo"));
    QApplication::setApplicationName(QStringLiteral("mavlo"));
    QApplication::setApplicationVersion(QStringLiteral(MAVLO_VERSION));
    QApplication::setStyle(QStringLiteral("Fusion"));
    QCommandLineParser parser;
    parser.setApplicationDescription(
        QStringLiteral("Design of electric motors: the cross-section is the document."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("PROJECT"), QStringLiteral("project file (.mavlo)"));
    parser.addOptions(
        {{QStringLiteral("bench"), bench_list(), QStringLiteral("NAME"), QStringLiteral("draw")},
         {QStringLiteral("screenshot"), QStringLiteral("save the window as PNG and quit"),
          QStringLiteral("OUT.png")},
         {QStringLiteral("size"), QStringLiteral("size of the window"), QStringLiteral("WxH"),
          QStringLiteral("1280x800")},
         {QStringLiteral("question"), QStringLiteral("question shown on Ask"), QStringLiteral("NAME")},
         {QStringLiteral("with"), QStringLiteral("an input of that question; may be given again"),
          QStringLiteral("KEY=VALUE")},
         {QStringLiteral("ask"), QStringLiteral("ask it, and wait for the answer before the picture")},
         {QStringLiteral("plot"), QStringLiteral("plot of the answer shown on Ask, e.g. \"Plane of currents\""),
          QStringLiteral("NAME")},
         {QStringLiteral("overlay"), QStringLiteral("switch an overlay of the section, e.g. \"loss density\""),
          QStringLiteral("NAME")},
         {QStringLiteral("variant"), QStringLiteral("go to a variant"), QStringLiteral("NAME")},
         {QStringLiteral("page"),
          QStringLiteral("page of the sheet beside the section, e.g. Shapes or, on Wind, Conductor"),
          QStringLiteral("NAME")},
         {QStringLiteral("import"), QStringLiteral("show a DXF drawing as it is understood"),
          QStringLiteral("DRAWING.dxf")},
         {QStringLiteral("material"), QStringLiteral("show the shelf at a material"), QStringLiteral("NAME")},
         {QStringLiteral("circuits"), QStringLiteral("show the design's own circuits")},
         {QStringLiteral("fill"), QStringLiteral("put a text into a field by its name; may be given again"),
          QStringLiteral("FIELD=TEXT")},
         {QStringLiteral("press"), QStringLiteral("press a button by its name and wait; may be given again"),
          QStringLiteral("BUTTON")},
         {QStringLiteral("core-words"), QStringLiteral("write the core's words for a translator and quit"),
          QStringLiteral("OUT.ts")},
         {QStringLiteral("close-up"), QStringLiteral("show the close-up of Draw")},
         {QStringLiteral("theme"), QStringLiteral("light or dark"), QStringLiteral("NAME")}});
    parser.process(app);
    if (parser.isSet(QStringLiteral("core-words")))
        return write_core_words(parser.value(QStringLiteral("core-words")));
    const std::string bench = parser.value(QStringLiteral("bench")).toStdString();
    if (!mavlo::registry<BenchKind>().find(bench))
        return complain(QStringLiteral("--bench: there is no bench \"%1\"; there are %2.")
                            .arg(parser.value(QStringLiteral("bench")), bench_list()));
    const auto size = size_of(parser.value(QStringLiteral("size")));
    if (!size) return complain(QStringLiteral("--size: a size such as 1280x800 is wanted."));
    const bool screenshot = parser.isSet(QStringLiteral("screenshot"));
    const QString wanted = parser.value(QStringLiteral("theme"));
    set_theme(wanted.isEmpty()
                  ? !screenshot && QSettings().value(QStringLiteral("dark"), system_is_dark()).toBool()
                  : wanted == QStringLiteral("dark"));
    // The desktop's language, where somebody has translated the window.
    QTranslator language;
    if (language.load(QLocale(), QStringLiteral("mavlo"), QStringLiteral("_"),
                      QString::fromStdString(mavlo::data_folder()) + QStringLiteral("/translations")))
        QApplication::installTranslator(&language);
    MainWindow window;
    // A picture has the size asked for; a window fits its screen.
    window.resize(screenshot ? *size : size->boundedTo(window.screen()->availableSize()));
    window.show();
    if (!parser.positionalArguments().isEmpty() && !window.open_file(parser.positionalArguments().first()) &&
        screenshot)
        return complain(window.notice());
    if (parser.isSet(QStringLiteral("variant")))
        window.document().choose_variant(parser.value(QStringLiteral("variant")));
    window.show_bench(bench);
    if (parser.isSet(QStringLiteral("page"))) {
        const QString page = parser.value(QStringLiteral("page"));
        const auto tabs = window.findChildren<PageTabs*>();
        if (std::none_of(tabs.begin(), tabs.end(),
                         [&](PageTabs* t) { return t->isVisible() && t->show_page_named(page); }))
            return complain(QStringLiteral("--page: there is no page of this name."));
    }
    if (parser.isSet(QStringLiteral("import"))) window.import_part(parser.value(QStringLiteral("import")));
    if (parser.positionalArguments().isEmpty() && !parser.isSet(QStringLiteral("bench"))) window.show_start();
    if (parser.isSet(QStringLiteral("material")))
        window.show_materials(parser.value(QStringLiteral("material")).toStdString());
    if (parser.isSet(QStringLiteral("question"))) {
        const std::string question = parser.value(QStringLiteral("question")).toStdString();
        QuestionCard* card = window.part<AskBench>().card(question);
        if (!card) return complain(QStringLiteral("--question: there is no question of this name."));
        for (const QString& input : parser.values(QStringLiteral("with")))
            if (!card->set_input(input.section('=', 0, 0).toStdString(), input.section('=', 1)))
                return complain(QStringLiteral("--with: this question takes no such input."));
        window.part<AskBench>().choose(question);
        if (parser.isSet(QStringLiteral("ask"))) {
            window.part<AskBench>().ask(question);
            while (!window.part<AskBench>().is_idle())
                QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        }
    }
    if (parser.isSet(QStringLiteral("plot")))
        window.findChild<QComboBox*>(QStringLiteral("plot_choice"))
            ->setCurrentText(parser.value(QStringLiteral("plot")));
    if (parser.isSet(QStringLiteral("overlay"))) {
        auto* chip = window.findChild<QPushButton*>(QStringLiteral("overlay:") +
                                                    parser.value(QStringLiteral("overlay")));
        if (!chip) return complain(QStringLiteral("--overlay: there is no overlay of this name."));
        chip->click();
    }
    if (parser.isSet(QStringLiteral("circuits"))) window.show_circuits();
    // In the order they were given: a button may make the field that is filled next.
    QMap<QString, int> done;
    for (const QString& option : parser.optionNames()) {
        const QString value = parser.values(option).value(done[option]++);
        if (option == QStringLiteral("fill") &&
            !fill_field(window, value.section('=', 0, 0), value.section('=', 1)))
            return complain(QStringLiteral("--fill: there is no field %1.").arg(value.section('=', 0, 0)));
        if (option == QStringLiteral("press") && !press_button(window, value))
            return complain(QStringLiteral("--press: there is no button %1.").arg(value));
    }
    if (parser.isSet(QStringLiteral("close-up"))) window.section().set_close_up(true);
    if (screenshot) return take_screenshot(window, parser.value(QStringLiteral("screenshot")));
    return QApplication::exec();
}
