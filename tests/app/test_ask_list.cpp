// Ask's list and overview: what applies, what is found by typing, what is known of a variant and what is stale.

#include "ask/overview.h"
#include "ask/pinned_answer.h"
#include "plot/qcustomplot_include.h"
#include "test_program.h"
#include "window_fixture.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPushButton>

using namespace mavlo;
using namespace mavlo::app;

class TestAskList : public QObject {
    Q_OBJECT

    static QString row(WindowFixture& f, const char* question) {
        return f.child<QLabel>((std::string("row:") + question).c_str())->text();
    }

  private Q_SLOTS:
    void what_does_not_apply_is_folded_with_its_reason() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        QCoreApplication::processEvents();
        QVERIFY(bench.card("cogging")->isVisible());
        for (const char* question : {"strokes", "slip-curves", "rating-plate"}) {
            QVERIFY2(!bench.card(question)->isVisible(), question);
            QVERIFY(!f.child((std::string("unfit:") + question).c_str())->isVisible());
        }
        int unfit = 0;
        for (const QuestionKind& kind : question_kinds())
            unfit += !unmet_needs(kind, f.document().built()->machine).empty();
        auto* fold = f.child<QPushButton>("unfit");
        QVERIFY(fold->text().startsWith(QString::number(unfit) + QLatin1Char(' ')));
        QTest::mouseClick(fold, Qt::LeftButton);
        auto* reason = f.child<QLabel>("unfit:strokes");
        QVERIFY(reason->isVisible());
        QVERIFY(reason->text().contains(QStringLiteral("switched by position")));
        QVERIFY(!f.child("unfit:cogging")->isVisible());
    }
    void inputs_that_do_not_apply_are_not_shown() {
        const auto shows = [](const char* shape) {
            WindowFixture f(shape);
            f.window->show_bench("ask");
            f.window->part<AskBench>().choose("load");
            QTest::mouseClick(f.child("more:load"), Qt::LeftButton);
            QCoreApplication::processEvents();
            return f.child("input:load:turn_on")->isVisible();
        };
        QVERIFY(!shows("surface"));
        QVERIFY(shows("salient"));
    }
    /// Torque and back-EMF under one cursor; each says what it is where the other is read.
    void two_answers_in_view_under_one_cursor() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        for (const char* question : {"no-load", "load"}) {
            bench.ask(question);
            QVERIFY(QTest::qWaitFor([&] { return bench.answer(question) && bench.is_idle(); }, 60000));
        }
        bench.choose("no-load");
        auto* plots = f.child<QComboBox>("plot_choice");
        plots->setCurrentIndex(plots->findText(QStringLiteral("Flux linkage")));
        QVERIFY(plots->currentIndex() >= 0);
        QTest::mouseClick(f.child("pin_answer"), Qt::LeftButton);
        auto* pinned = f.child<PinnedAnswer>("pinned");
        QVERIFY(pinned->isVisible());
        bench.choose("load");
        plots->setCurrentIndex(plots->findText(QStringLiteral("Torque")));
        QCoreApplication::processEvents();
        QVERIFY(pinned->isVisible());
        auto* canvas = bench.answer_view().plot().findChild<QCustomPlot*>();
        const QPointF middle = canvas->rect().center();
        QMouseEvent move(QEvent::MouseMove, middle, canvas->mapToGlobal(middle), Qt::NoButton, Qt::NoButton,
                         {});
        QCoreApplication::sendEvent(canvas, &move);
        QVERIFY2(pinned->plot().reading().contains(QStringLiteral("U: ")),
                 qPrintable(pinned->plot().reading()));
        QVERIFY(bench.answer_view().plot().reading().contains(QStringLiteral("torque")));
        QTest::mouseClick(f.child("pinned_drop"), Qt::LeftButton);
        QVERIFY(!pinned->isVisible() && f.child("export:csv")->isVisible());
    }
    /// What has a place is shown there, and told to those who hear the window.
    void where_an_answer_lies_is_drawn() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        const auto told = [&](const char* question) {
            bench.ask(question);
            if (!QTest::qWaitFor([&] { return bench.answer(question) && bench.is_idle(); }, 60000))
                return QString();
            auto* plots = f.child<QComboBox>("plot_choice");
            if (plots->itemText(0) == QStringLiteral("Scope")) plots->setCurrentIndex(1);
            auto* where = f.child("where");
            if (!where->isVisible()) return QString();
            const QImage picture = where->grab().toImage();
            int coloured = 0;
            for (int y = 0; y < picture.height(); y += 3)
                for (int x = 0; x < picture.width(); x += 3)
                    coloured += picture.pixelColor(x, y).hsvSaturation() > 120;
            return coloured > 60 ? where->accessibleDescription() : QStringLiteral("nothing drawn");
        };
        const QString lost = told("load");
        const double copper = *bench.answer("load")->figure("copper_loss");
        QVERIFY2(lost.contains(QStringLiteral("winding %1").arg(copper, 0, 'g', 4)), qPrintable(lost));
        QVERIFY2(told("demagnetisation").contains(QStringLiteral("over the knee")), "");
        const QString wave = told("gap-forces");
        QVERIFY2(wave.contains(QStringLiteral("periods round the gap")), qPrintable(wave));
        told("inductances");
        QVERIFY(!f.child("where")->isVisible()); // it lies nowhere
    }
    void found_by_typing() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        auto* find = f.child<QLineEdit>("find_question");
        QTest::mouseClick(find, Qt::LeftButton);
        QTest::keyClicks(find, QStringLiteral("back-emf"));
        QCoreApplication::processEvents();
        QVERIFY(bench.card("no-load")->isVisible());
        QVERIFY(!bench.card("cogging")->isVisible());
        QTest::keyClick(find, Qt::Key_Return);
        QCoreApplication::processEvents();
        QVERIFY(f.child("ask:no-load")->isVisible());
        find->clear();
        QCoreApplication::processEvents();
        QVERIFY(bench.card("cogging")->isVisible());
    }
    void a_first_visit_offers_where_to_begin() {
        WindowFixture f;
        QVERIFY(f.settle());
        f.window->show_bench("ask");
        QCoreApplication::processEvents();
        auto* page = f.child<Overview>("overview_page");
        QVERIFY(page->isVisible());
        const auto tiles = page->findChildren<AnswerTile*>();
        QCOMPARE(tiles.size(), 6);
        QVERIFY(!f.child("ask_stale")->isVisible());
        for (AnswerTile* tile : tiles)
            QVERIFY2(tile->accessibleDescription().contains(QStringLiteral("about")),
                     qPrintable(tile->objectName()));
        const std::string first = tiles.front()->objectName().toStdString().substr(5);
        QTest::mouseClick(tiles.front(), Qt::LeftButton);
        QCoreApplication::processEvents();
        QVERIFY(!page->isVisible());
        QVERIFY(f.child(("ask:" + first).c_str())->isVisible());
    }
    void what_is_stale_says_why_and_is_asked_again() {
        WindowFixture f;
        f.window->show_bench("ask");
        auto& bench = f.window->part<AskBench>();
        bench.card("cogging")->set_input("points", QStringLiteral("12"));
        bench.ask("cogging");
        bench.ask("winding");
        QVERIFY(f.settle());
        QTest::mouseClick(f.child("overview"), Qt::LeftButton);
        QCoreApplication::processEvents();
        QVERIFY(row(f, "cogging").contains(QStringLiteral("N·m")));
        auto* told = f.child<QLabel>("overview_told");
        QVERIFY2(told->text().contains(QStringLiteral("2 answers, all fresh")), qPrintable(told->text()));
        QVERIFY(!f.document().set_text("gap", QStringLiteral("0.9 mm")));
        QCoreApplication::processEvents();
        QVERIFY2(told->text().contains(QStringLiteral("2 stale")), qPrintable(told->text()));
        bench.choose("cogging");
        const auto state = f.window->findChildren<QLabel*>();
        const bool why = std::any_of(state.begin(), state.end(), [](const QLabel* l) {
            return l->isVisible() && l->text().contains(QStringLiteral("→ 0.9 mm"));
        });
        QVERIFY(why);
        QTest::mouseClick(f.child("overview"), Qt::LeftButton);
        auto* again = f.child<QPushButton>("ask_stale");
        QVERIFY(again->isVisible());
        QTest::mouseClick(again, Qt::LeftButton);
        QVERIFY(f.settle());
        QVERIFY2(told->text().contains(QStringLiteral("all fresh")), qPrintable(told->text()));
        QVERIFY(!again->isVisible());
        QVERIFY(f.child<Overview>("overview_page")->isVisible()); // it stays where it was pressed
    }
};
MAVLO_TEST(ask_list, TestAskList, Windows)
#include "test_ask_list.moc"
