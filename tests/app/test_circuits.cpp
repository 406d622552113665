// The design's own circuits on the desktop: typed, drawn, told what is wrong and where, undone.

#include "app/window_fixture.h"
#include "circuit/netlist.h"
#include "circuits/circuit_dialog.h"
#include "test_program.h"

#include <QTextBlock>
#include <QtTest>

using namespace mavlo;
using namespace mavlo::app;

class TestCircuits : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void nodes_and_columns();
    void typed_and_undone();
    void mistakes_are_told();
    void renamed_and_removed();
};

void TestCircuits::nodes_and_columns() {
    const auto network =
        read_netlist("V1 plus 0 48\nR1 plus u 1\nL1 u 0 1m\nR2 plus v 1\nL2 v 0 1m\nD1 0 plus\n");
    QVERIFY(bool(network));
    const SchematicLayout layout = layout_of(*network);
    QCOMPARE(layout.columns, 6);
    const auto row = [&](const char* name) {
        for (std::size_t n = 0; n < network->nodes.size(); ++n)
            if (network->nodes[n] == name) return layout.nodes[n].row;
        return -1;
    };
    // The supply on top, the ground below, and both middles side by side on one line.
    QCOMPARE(row("plus"), 0);
    QCOMPARE(row("u"), row("v"));
    QCOMPARE(row("0"), 2);
    QCOMPARE(layout.rows, 3);
    // No two nodes of a row lie over each other, whatever the netlist.
    const auto ring = read_netlist("R1 a b 1\nR2 b c 1\nR3 c a 1\nR4 a 0 1\nR5 c 0 1\n");
    QVERIFY(bool(ring));
    const SchematicLayout other = layout_of(*ring);
    for (std::size_t a = 0; a < other.nodes.size(); ++a)
        for (std::size_t b = 0; b < a; ++b)
            QVERIFY(other.nodes[a].row != other.nodes[b].row || other.nodes[a].last < other.nodes[b].first ||
                    other.nodes[b].last < other.nodes[a].first);
}

void TestCircuits::typed_and_undone() {
    WindowFixture f;
    f.window->show_circuits();
    QVERIFY(f.child<QLabel>("circuit_says")->text().contains(QStringLiteral("No circuit yet")));
    QTest::mouseClick(f.child("circuit_new"), Qt::LeftButton);
    QCOMPARE(f.document().design().circuits.size(), std::size_t(1));
    auto* says = f.child<QLabel>("circuit_says");
    QVERIFY2(says->text().contains(QStringLiteral("9 elements")), qPrintable(says->text()));
    auto* schematic = f.child<NetworkSchematic>("network_schematic");
    QVERIFY(!schematic->place_of("s1").isNull());
    auto* list = f.child<QPlainTextEdit>("netlist");
    list->moveCursor(QTextCursor::End);
    QTest::keyClicks(list, QStringLiteral("C1 plus 0 470u"));
    QVERIFY(QTest::qWaitFor(
        [&] { return f.document().design().circuits.at("circuit1").find("C1 plus") != std::string::npos; },
        5000));
    QVERIFY(!schematic->place_of("c1").isNull());
    // A click on the drawing goes to its line.
    QTest::mouseClick(schematic, Qt::LeftButton, {}, schematic->place_of("d1").toPoint());
    QVERIFY(list->textCursor().block().text().startsWith(QStringLiteral("D1")));
    f.document().undo_stack().undo();
    QVERIFY(!list->toPlainText().contains(QStringLiteral("C1 plus")));
    f.document().undo_stack().undo();
    QVERIFY(f.document().design().circuits.empty());
}

void TestCircuits::mistakes_are_told() {
    WindowFixture f;
    f.window->show_circuits();
    QTest::mouseClick(f.child("circuit_new"), Qt::LeftButton);
    auto* list = f.child<QPlainTextEdit>("netlist");
    auto* says = f.child<QLabel>("circuit_says");
    const auto type = [&](const char* text) {
        list->setFocus();
        list->selectAll();
        QTest::keyClicks(list, QString::fromLatin1(text));
        return says->text();
    };
    QVERIFY2(type("R1 a 0 many").contains(QStringLiteral("is no number")), qPrintable(says->text()));
    QVERIFY(says->text().contains(QStringLiteral("line 1")));
    QCOMPARE(list->extraSelections().size(), qsizetype(1));
    const std::string kept = f.document().design().circuits.at("circuit1");
    QVERIFY(kept.find("many") == std::string::npos); // what cannot be read does not enter the design
    QVERIFY(!type("R1 a b 1").isEmpty());
    QVERIFY2(says->text().contains(QStringLiteral("ground")) || says->text().contains(QStringLiteral("node")),
             qPrintable(says->text()));
}

void TestCircuits::renamed_and_removed() {
    WindowFixture f;
    f.window->show_circuits();
    QTest::mouseClick(f.child("circuit_new"), Qt::LeftButton);
    f.type("circuit_name", QStringLiteral("chopper"));
    QVERIFY(f.document().design().circuits.contains("chopper"));
    QCOMPARE(f.child<QListWidget>("circuit_names")->currentItem()->text(), QStringLiteral("chopper"));
    QTest::mouseClick(f.child("circuit_remove"), Qt::LeftButton);
    QVERIFY(f.document().design().circuits.empty());
}

MAVLO_TEST(circuits, TestCircuits, Windows)
#include "test_circuits.moc"
