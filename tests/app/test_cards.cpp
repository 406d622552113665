// The cards of Ask on every kind of machine: what each costs or why it cannot be asked, its inputs, and how its
// answers live with variants, undo and what was asked before.

#include "app/window_fixture.h"
#include "night.h"
#include "test_program.h"

#include <QComboBox>
#include <set>

using namespace mavlo;
using namespace mavlo::app;

class TestCards : public QObject {
    Q_OBJECT

    static QString price_of(WindowFixture& f, const std::string& question) {
        return f.child<QLabel>(("price:" + question).c_str())->text();
    }
    /// Asks with these inputs and waits.
    static const Answer* asked(WindowFixture& f, const std::string& question,
                               const std::map<std::string, QString>& inputs) {
        auto& bench = f.window->part<AskBench>();
        bench.choose(question);
        for (const auto& [key, text] : inputs)
            if (!bench.card(question)->set_input(key, text)) qFatal("no input %s", key.c_str());
        bench.ask(question);
        if (!f.settle()) qFatal("%s does not end", question.c_str());
        return bench.answer(question);
    }

  private Q_SLOTS:
    void every_card_has_a_price_or_a_reason_data() {
        QTest::addColumn<QString>("shape");
        for (const StartingShape& shape : starting_shapes())
            if (is_tried(shape.name)) QTest::newRow(shape.name.c_str()) << QString::fromStdString(shape.name);
    }
    void every_card_has_a_price_or_a_reason() {
        QFETCH(QString, shape);
        WindowFixture f(shape.toLatin1().constData());
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        int priced = 0;
        for (const QuestionKind& kind : registry<QuestionKind>().all()) {
            QuestionCard* card = bench.card(kind.name);
            if (!card) continue; // no card of its own
            bench.choose(kind.name);
            QCoreApplication::processEvents();
            const QString price = price_of(f, kind.name);
            auto* button = f.child<QPushButton>(("ask:" + kind.name).c_str());
            QVERIFY2(!price.isEmpty(), kind.name.c_str());
            const bool has_price = price.contains(QStringLiteral("field"));
            if (button->isEnabled()) {
                QVERIFY2(has_price, qPrintable(QString::fromStdString(kind.name) + ": " + price));
                ++priced;
            } else {
                QVERIFY2(price.endsWith(QLatin1Char('.')),
                         qPrintable(QString::fromStdString(kind.name) + ": " + price));
                QVERIFY(price.size() > 15);
            }
            QCOMPARE(int(card->state()), int(AnswerState::None));
        }
        QVERIFY2(priced >= 5, qPrintable(QString::number(priced)));
    }
    void inputs_say_what_they_are() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        for (const QuestionKind& kind : registry<QuestionKind>().all()) {
            if (!bench.card(kind.name)) continue;
            bench.choose(kind.name);
            for (const QuestionInput& input : kind.inputs) {
                const std::string name = "input:" + kind.name + ":" + input.key;
                auto* field = f.window->findChild<QWidget*>(QString::fromStdString(name));
                if (!field) {
                    // One word alone is nothing to choose.
                    QVERIFY2(input.kind == InputKind::Choice && input.choices().size() == 1, name.c_str());
                    continue;
                }
                QVERIFY2(field->toolTip().size() > 5 && field->toolTip().endsWith(QLatin1Char('.')),
                         name.c_str());
                QVERIFY2(!input.label.empty(), name.c_str());
                if (auto* choice = qobject_cast<QComboBox*>(field)) {
                    QCOMPARE(std::size_t(choice->count()), input.choices().size());
                    QVERIFY2(choice->currentData().toString().toStdString() == input.standard, name.c_str());
                }
            }
        }
    }
    void the_price_follows_what_is_typed() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        bench.choose("cogging");
        const auto fields = [&] { return price_of(f, "cogging").section(QLatin1Char(' '), 0, 0).toInt(); };
        bench.card("cogging")->set_input("points", QStringLiteral("24"));
        const int few = fields();
        bench.card("cogging")->set_input("points", QStringLiteral("96"));
        // The period's ends are known by symmetry: half of it, without them.
        QCOMPARE(few, 24 / 2 - 1);
        QCOMPARE(fields(), 96 / 2 - 1);
        bench.card("cogging")->set_input("points", QStringLiteral("many"));
        QVERIFY(price_of(f, "cogging").endsWith(QLatin1Char('.')));
        QVERIFY(!f.child<QPushButton>("ask:cogging")->isEnabled());
        bench.card("cogging")->set_input("points", QString());
        QVERIFY(fields() > 0 && f.child<QPushButton>("ask:cogging")->isEnabled());
        QVERIFY(!bench.card("cogging")->set_input("weather", QStringLiteral("1")));
    }
    void one_card_is_unfolded_at_a_time() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        for (const char* name : {"cogging", "load", "no-load"}) {
            QuestionCard* card = bench.card(name);
            QTest::mouseClick(card, Qt::LeftButton, {}, QPoint(30, 15));
            int unfolded = 0;
            for (const QuestionKind& kind : registry<QuestionKind>().all())
                if (bench.card(kind.name) &&
                    f.child<QPushButton>(("ask:" + kind.name).c_str())->isVisibleTo(bench.card(kind.name)))
                    ++unfolded;
            QCOMPARE(unfolded, 1);
            QVERIFY(f.child<QPushButton>((std::string("ask:") + name).c_str())->isVisibleTo(card));
        }
        // What is rarely wanted is behind a button.
        auto* more = f.child<QPushButton>("more:load");
        bench.choose("load");
        auto* hidden = f.child<QWidget>("input:load:skew_steps");
        QVERIFY(!hidden->isVisibleTo(bench.card("load")));
        QTest::mouseClick(more, Qt::LeftButton);
        QVERIFY(hidden->isVisibleTo(bench.card("load")));
        QTest::mouseClick(more, Qt::LeftButton);
        QVERIFY(!hidden->isVisibleTo(bench.card("load")));
    }
    void answers_belong_to_their_variant() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        QVERIFY(asked(f, "cogging", {{"points", QStringLiteral("8")}}));
        const double base = *bench.answer("cogging")->figure("cogging_peak_to_peak");
        f.document().add_variant(QStringLiteral("wide mouth"));
        f.document().set_text("stator.slot.opening", QStringLiteral("4 mm"));
        QVERIFY(!bench.answer("cogging") || bench.card("cogging")->state() == AnswerState::Stale);
        QVERIFY(asked(f, "cogging", {{"points", QStringLiteral("8")}}));
        const double wide = *bench.answer("cogging")->figure("cogging_peak_to_peak");
        QVERIFY(std::abs(wide / base - 1) > 0.05);
        f.document().choose_variant(QStringLiteral("base"));
        QCOMPARE(int(bench.card("cogging")->state()), int(AnswerState::Fresh));
        CLOSE(*bench.answer("cogging")->figure("cogging_peak_to_peak"), base, 0);
        // The other's lies ready to be laid over it.
        bench.choose("cogging");
        auto* others = f.child<QComboBox>("other_answer");
        bool offered = false;
        for (int k = 0; k < others->count(); ++k)
            offered |= others->itemText(k).contains(QStringLiteral("wide mouth"));
        QVERIFY(offered);
    }
    void what_was_asked_before_can_be_laid_over() {
        WindowFixture f;
        f.window->show_bench("ask");
        QVERIFY(asked(f, "load", {{"points", QStringLiteral("12")}, {"current", QStringLiteral("4")}}));
        const double less = *f.window->part<AskBench>().answer("load")->figure("torque_mean");
        QVERIFY(asked(f, "load", {{"current", QStringLiteral("8")}}));
        const double more = *f.window->part<AskBench>().answer("load")->figure("torque_mean");
        CLOSE(more / less, 2, 0.1);
        auto* others = f.child<QComboBox>("other_answer");
        QVERIFY(!others->isVisible()); // the scope comes first, which shows one run
        auto* plots = f.child<QComboBox>("plot_choice");
        plots->setCurrentIndex(1);
        QVERIFY(others->isVisible() && others->count() >= 2);
        const QImage before = f.window->part<AskBench>().answer_view().grab().toImage();
        others->setCurrentIndex(1);
        QCoreApplication::processEvents();
        QVERIFY(f.window->part<AskBench>().answer_view().grab().toImage() != before);
        // The same inputs again are the same answer.
        QVERIFY(asked(f, "load", {{"current", QStringLiteral("4")}}));
        CLOSE(*f.window->part<AskBench>().answer("load")->figure("torque_mean"), less, 0);
    }
    void one_switch_shows_lines_instead_of_phases() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto* lines = f.child<QPushButton>("lines");
        auto* plots = f.child<QComboBox>("plot_choice");
        const auto picture = [&] {
            QCoreApplication::processEvents();
            return f.window->part<AskBench>().answer_view().grab().toImage();
        };
        for (const auto& [question, phases] : {std::pair{"no-load", "Back-EMF"}, {"load", "Voltage"}}) {
            QVERIFY(asked(f, question, {{"points", QStringLiteral("12")}}));
            for (int k = 0; k < plots->count(); ++k)
                QVERIFY2(!plots->itemText(k).endsWith(QStringLiteral("line")), qPrintable(plots->itemText(k)));
            plots->setCurrentIndex(plots->findText(QStringLiteral("Flux linkage")));
            QVERIFY(!lines->isVisible());
            plots->setCurrentIndex(plots->findText(QString::fromLatin1(phases)));
            QVERIFY(lines->isVisible());
            QCOMPARE(lines->text(), QStringLiteral("Line voltages"));
            const QImage of_phases = picture();
            QTest::mouseClick(lines, Qt::LeftButton);
            QVERIFY(picture() != of_phases);
            QTest::mouseClick(lines, Qt::LeftButton);
        }
    }
    void a_design_that_cannot_be_built_is_not_asked() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        QVERIFY(asked(f, "cogging", {{"points", QStringLiteral("8")}}));
        f.document().set_text("stator.slot.depth", QStringLiteral("30 mm"));
        QVERIFY(!f.document().is_good());
        QVERIFY(bench.answer("cogging")); // still there to be read
        bench.ask("cogging");
        QVERIFY(f.settle());
        QVERIFY(bench.card("cogging")->state() != AnswerState::Fresh);
        f.document().undo_stack().undo();
        QCOMPARE(int(bench.card("cogging")->state()), int(AnswerState::Fresh));
    }
    void a_question_without_its_needs_says_which() {
        WindowFixture f("salient");
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        // No magnets: nothing cogs, and nothing is demagnetised.
        for (const char* name : {"cogging", "demagnetisation"}) {
            bench.choose(name);
            QCoreApplication::processEvents();
            QVERIFY2(!f.child<QPushButton>((std::string("ask:") + name).c_str())->isEnabled(), name);
            QVERIFY2(price_of(f, name).contains(QStringLiteral("magnet")), qPrintable(price_of(f, name)));
        }
        bench.choose("linkage-curves");
        QCoreApplication::processEvents();
        QVERIFY(f.child<QPushButton>("ask:linkage-curves")->isEnabled());
    }
    void the_large_figure_answers_and_the_rest_is_named() {
        WindowFixture f;
        f.window->show_bench("ask");
        QVERIFY(asked(f, "load", {{"points", QStringLiteral("12")}}));
        const Answer& answer = *f.window->part<AskBench>().answer("load");
        QTest::mouseClick(f.child("all_figures"), Qt::LeftButton);
        int shown = 0;
        for (const Figure& figure : answer.figures) {
            auto* label = f.window->findChild<QLabel*>(QString::fromStdString("figure:" + figure.name));
            if (!label) continue;
            ++shown;
            QVERIFY2(!label->text().contains(QLatin1Char('_')), qPrintable(label->text()));
        }
        QVERIFY(shown >= 8);
        auto* mean = f.child<QLabel>("figure:torque_mean");
        auto* small = f.child<QLabel>("figure:copper_loss");
        QVERIFY(mean->font().pixelSize() > small->font().pixelSize() ||
                mean->font().pointSizeF() > small->font().pointSizeF());
        // No raw keys anywhere on the screen of the answer.
        for (auto* label : f.window->part<AskBench>().answer_view().findChildren<QLabel*>())
            if (label->isVisible())
                QVERIFY2(!label->text().contains(QLatin1Char('_')), qPrintable(label->text()));
    }
};

MAVLO_TEST(cards, TestCards, Windows)
#include "test_cards.moc"
