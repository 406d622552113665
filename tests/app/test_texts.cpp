// Every text on every screen: in words, not in the names of files; nothing cut where the window is small; every
// field with a name for those who hear it.

#include "app/window_fixture.h"
#include "night.h"
#include "screen_texts.h"
#include "shell/core_words.h"
#include "test_program.h"

#include <QHash>
#include <QRegularExpression>
#include <QTranslator>
#include <set>

using namespace mavlo;
using namespace mavlo::app;

namespace {

/// What only files and programs say.
QString raw_part(const QString& text) {
    static const QRegularExpression raw(
        QStringLiteral("\\b[A-Za-z0-9]+_[A-Za-z0-9_]+\\b"                     // torque_mean
                       "|\\b[a-z]+(?:\\.[a-z][a-z_]+)+\\b(?!\\.mavlo)"        // stator.slot.opening
                       "|\\b(?:degC|Ohm|N\\.m|kg\\.m2|V\\.s|mm2|m2|m3)\\b")); // units as files have them
    const auto match = raw.match(text);
    return match.hasMatch() ? match.captured() : QString();
}

/// Every word of the catalogues with accents and 40 % more of it: what stays plain is in none of them.
class PseudoLanguage : public QTranslator {
  public:
    bool isEmpty() const override { return false; }
    QString translate(const char*, const char* source, const char*, int) const override {
        QString text = QString::fromUtf8(source);
        const int letters = int(std::count_if(text.begin(), text.end(), [](QChar c) { return c.isLetter(); }));
        for (QChar& c : text) c = accented(c);
        return letters < 2 ? text : text + QString((letters * 2 + 4) / 5, QChar(0x0119));
    }

  private:
    static QChar accented(QChar c) {
        static const QHash<QChar, QChar> letters{{u'a', u'á'}, {u'e', u'é'}, {u'i', u'í'}, {u'o', u'ö'},
                                                 {u'u', u'ü'}, {u'A', u'Á'}, {u'E', u'É'}, {u'I', u'Í'},
                                                 {u'O', u'Ö'}, {u'U', u'Ü'}};
        return letters.value(c, c);
    }
};

/// Keeps what is asked of the core's catalogue.
class AskedWords : public QTranslator {
  public:
    bool isEmpty() const override { return false; }
    QString translate(const char* context, const char* source, const char*, int) const override {
        if (QByteArray(context) == "core") m_asked.insert(source);
        return {};
    }
    const std::set<std::string>& asked() const { return m_asked; }

  private:
    mutable std::set<std::string> m_asked;
};

/// A word of its own that no catalogue has: letters, but none with an accent.
bool is_plain(const QString& text) {
    static const QRegularExpression word(QStringLiteral("[A-Za-z]{4,}"));
    static const QRegularExpression accent(QStringLiteral("[áéíöüÁÉÍÖÜę]"));
    return text.contains(word) && !text.contains(accent);
}

} // namespace

class TestTexts : public QObject {
    Q_OBJECT

    static void walk(WindowFixture& f, const std::function<void(const QString& screen)>& look) {
        for (const char* bench : {"draw", "wind", "probe", "ask", "weigh"}) {
            f.window->show_bench(bench);
            QCoreApplication::processEvents();
            look(QString::fromLatin1(bench));
            for (QPushButton* tab : f.window->findChildren<QPushButton*>()) {
                const bool is_tab = tab->objectName().startsWith(QStringLiteral("part:")) ||
                                    tab->objectName().startsWith(QStringLiteral("weigh:")) ||
                                    tab->objectName().startsWith(QStringLiteral("wind:"));
                if (!is_tab || !tab->isVisible() || !tab->isEnabled()) continue;
                tab->click();
                QCoreApplication::processEvents();
                look(QString::fromLatin1(bench) + QLatin1Char(' ') + tab->text());
            }
            if (std::string(bench) != "ask") continue;
            auto& ask = f.window->part<AskBench>();
            for (const QuestionKind& kind : question_kinds()) {
                QuestionCard* card = ask.card(kind.name);
                if (!card || !card->applies()) continue;
                ask.choose(kind.name);
                if (auto* more = f.window->findChild<QPushButton*>(QStringLiteral("more:") +
                                                                   QString::fromStdString(kind.name));
                    more && more->isVisible() && !more->isChecked())
                    more->click();
                QCoreApplication::processEvents();
                look(QStringLiteral("ask ") + QString::fromStdString(kind.name));
            }
            ask.choose({});
        }
        f.window->show_start();
        QCoreApplication::processEvents();
        look(QStringLiteral("start"));
    }

  private Q_SLOTS:
    void words_not_identifiers_and_fields_with_names_data() { shapes(); }
    void words_not_identifiers_and_fields_with_names() {
        QFETCH(QString, shape);
        WindowFixture f(qPrintable(shape));
        QStringList found;
        walk(f, [&](const QString& screen) {
            for (const ScreenText& text : screen_texts(*f.window)) {
                if (text.text.endsWith(QStringLiteral(".mavlo"))) continue; // a file's own name
                if (const QString raw = raw_part(text.text); !raw.isEmpty())
                    found << screen + QStringLiteral(": ") + text.where + QStringLiteral(": ") + raw +
                                 QStringLiteral(" in ") + text.text.left(90);
            }
            for (const QWidget* widget : nameless(*f.window))
                found << screen + QStringLiteral(": no name: ") + widget->metaObject()->className() +
                             QLatin1Char(' ') + widget->objectName();
        });
        found.removeDuplicates();
        tell(found);
    }
    /// WCAG 2.1, 1.4.3: 4.5 to 1. Black on white is 21, a colour on itself 1.
    void words_can_be_read_on_every_ground() {
        CLOSE(contrast(Qt::black, Qt::white), 21, 1e-9);
        CLOSE(contrast(QColor(0x77, 0x77, 0x77), Qt::white), 4.478,
              1e-3); // the standard's own example of just not
        QStringList found;
        for (const bool dark : {false, true}) {
            set_theme(dark);
            const Theme& t = theme();
            std::vector<QColor> words{t.ink, t.soft, t.accent, t.written(t.good), t.written(t.caution)};
            for (const QColor& phase : t.phase) words.push_back(t.written(phase));
            for (const QColor& word : words)
                for (const QColor& ground : t.grounds())
                    if (contrast(word, ground) < 4.5)
                        found << word.name() + QStringLiteral(" on ") + ground.name();
            if (contrast(t.sheet, t.accent) < 4.5) found << QStringLiteral("the main button");
        }
        set_theme(false);
        tell(found);
    }
    void nothing_is_cut_in_a_small_window() {
        WindowFixture f;
        f.window->resize(1024, 672);
        QCoreApplication::processEvents();
        QVERIFY2(f.window->width() <= 1024 && f.window->height() <= 700, "the window does not become so small");
        tell(cut(f));
    }
    void nothing_is_cut_in_a_longer_language() {
        PseudoLanguage language;
        QCoreApplication::installTranslator(&language);
        QStringList found;
        {
            WindowFixture f("vee");
            f.window->resize(1280, 772);
            QCoreApplication::processEvents();
            found = cut(f);
        }
        QCoreApplication::removeTranslator(&language);
        tell(found);
    }
    /// What is the user's own, a material's or a unit stays as it is; so do sentences that the core composes.
    void all_words_are_in_the_catalogues() {
        PseudoLanguage language;
        QCoreApplication::installTranslator(&language);
        WindowFixture f("vee");
        // The project's and the variant's names, words of inputs that are typed as they are, and forms of
        // files.
        std::set<std::string> own{"auto",
                                  "base ▾",
                                  "base",
                                  "New machine",
                                  "CSV",
                                  "JSON",
                                  "HDF5",
                                  "winding=100 °C, housing=70 °C",
                                  "Liner on steel, Stack in housing"};
        for (const auto& [name, material] : shipped_materials()) own.insert(name);
        QStringList found;
        walk(f, [&](const QString& screen) {
            for (const ScreenText& text : screen_texts(*f.window)) {
                if (!is_plain(text.text) || own.contains(text.text.toStdString())) continue;
                // Projects by their own names.
                if (text.where == QStringLiteral("left_behind") ||
                    text.where.startsWith(QStringLiteral("recent:")))
                    continue;
                if (text.text.endsWith(QStringLiteral(".mavlo"))) continue;
                found << text.where + QStringLiteral(": ") + text.text.left(70) + QStringLiteral("   (") +
                             screen + ')';
            }
        });
        QCoreApplication::removeTranslator(&language);
        found.removeDuplicates();
        for (const QString& line : found) qWarning("%s", qPrintable(line));
        QVERIFY(found.isEmpty());
    }

    /// Who translates gets every word of the core that the screens of any machine show.
    void a_translator_gets_all_words_of_the_core_data() { shapes(); }
    void a_translator_gets_all_words_of_the_core() {
        QFETCH(QString, shape);
        AskedWords asked;
        QCoreApplication::installTranslator(&asked);
        {
            WindowFixture f(qPrintable(shape));
            walk(f, [](const QString&) {});
        }
        QCoreApplication::removeTranslator(&asked);
        QVERIFY(asked.asked().size() > 300);
        const auto words = core_words();
        // Titles with the rating in them are composed; symbols are the same in all languages.
        static const QRegularExpression composed(QStringLiteral("[0-9]|^[^A-Za-z]*[A-Za-z]?[^A-Za-z]+[A-Z]?$"));
        QStringList missing;
        for (const std::string& word : asked.asked())
            if (!words.contains(word) && !QString::fromStdString(word).contains(composed))
                missing << QString::fromStdString(word).left(90);
        tell(missing);
        const QByteArray catalogue = catalogue_of({"Air gap", "a < b & c"});
        QVERIFY(catalogue.contains("<source>Air gap</source>") && catalogue.contains("a &lt; b &amp; c"));
    }

  private:
    static QStringList cut(WindowFixture& f) {
        QStringList found;
        walk(f, [&](const QString& screen) {
            const auto before = cut_texts(*f.window);
            QTest::qWait(20); // what has just changed is laid out anew
            for (const QWidget* widget : cut_texts(*f.window))
                if (std::find(before.begin(), before.end(), widget) != before.end())
                    found << screen + QStringLiteral(": ") + widget->metaObject()->className() +
                                 QLatin1Char(' ') + widget->objectName() + QLatin1Char(' ') +
                                 shown_text(*widget).left(60);
        });
        found.removeDuplicates();
        return found;
    }
    static void tell(const QStringList& found) {
        for (const QString& line : found) qWarning("%s", qPrintable(line));
        QVERIFY(found.isEmpty());
    }
    static void shapes() {
        static const std::set<std::string> sorts{"vee", "salient", "cage", "axial", "linear"};
        QTest::addColumn<QString>("shape");
        for (const StartingShape& shape : starting_shapes())
            if (by_night() || sorts.contains(shape.name))
                QTest::newRow(shape.name.c_str()) << QString::fromStdString(shape.name);
    }
};
MAVLO_TEST(texts, TestTexts, Windows)
#include "test_texts.moc"
