// From a specification: what is typed, the proposals that come up, and one that opens as a drawing.

#include "quantity/constants.h"
#include "start/specification_dialog.h"
#include "study/sizing.h"
#include "test_program.h"
#include "window_fixture.h"

using namespace mavlo;
using namespace mavlo::app;

class TestSpecification : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// Torque, voltage and temperature of a proposal are those that were asked for, by its own fields.
    void a_sized_machine_keeps_its_specification() {
        Specification s;
        s.torque = 5;
        s.speed = 2500 * rpm;
        s.dc_voltage = 320;
        s.outer_diameter = 0.16;
        const auto sized = size_design(s, new_project("surface")->in_hand().design, {});
        QVERIFY(sized);
        QVERIFY2(sized->fits, sized->words.c_str());
        QVERIFY(sized->outer_diameter <= 0.16 * 1.0001);
        CLOSE(*sized->figures["torque_mean"] / 5, 1, 0.031);
        QVERIFY(*sized->figures["voltage_share"] <= 1);
        const double hot = *sized->figures["temperature_winding_highest"];
        QVERIFY2(hot > 90 && hot <= 155, qPrintable(QString::number(hot)));
        // The design that is handed on is that of the figures.
        const auto machine = build_machine(sized->design, {});
        QVERIFY(machine);
        CLOSE(machine->rating.speed / rpm, 2500, 1e-6);
        CLOSE(2 * machine->section.outer_radius(), sized->outer_diameter, 1e-9);
        CLOSE(*machine->rating.torque, 5, 1e-9);
        const Answer load = [&] {
            Ask ask;
            ask.design = sized->design;
            ask.quality = Quality::Draft;
            ask.with = {{"points", "24"}};
            return *ask_question("load", ask);
        }();
        CLOSE(*load.figure("torque_mean") / 5, 1, 0.06);
        // Twice the torque wants a heavier machine.
        s.torque = 10;
        s.outer_diameter.reset();
        const auto more = size_design(s, new_project("surface")->in_hand().design, {});
        QVERIFY(more && more->fits);
        QVERIFY(*more->figures["active_mass"] > 1.2 * *sized->figures["active_mass"]);
    }
    void what_cannot_be_is_said() {
        const Design shape = new_project("surface")->in_hand().design;
        Specification s;
        s.torque = 50;
        s.speed = 1500 * rpm;
        s.dc_voltage = 400;
        s.outer_diameter = 0.1;
        s.length = 0.05;
        const auto small = size_design(s, shape, {});
        QVERIFY(small && !small->fits);
        QVERIFY(small->words.find("not enough") != std::string::npos);
        s.torque = -1;
        QVERIFY(!size_design(s, shape, {}));
        s.torque = 1;
        s.speed = 0;
        QVERIFY(!size_design(s, shape, {}));
        for (double speed : {100.0, 1500.0, 20000.0}) {
            s.speed = speed * rpm;
            for (const std::string& name : shapes_for(s)) QVERIFY2(new_project(name), name.c_str());
        }
    }
    void a_proposal_is_typed_and_opened() {
        WindowFixture f;
        SpecificationDialog dialog;
        dialog.show();
        const auto field = [&](const char* name) { return dialog.findChild<QLineEdit*>(QLatin1String(name)); };
        auto* state = dialog.findChild<QLabel*>("spec:state");
        auto* run = dialog.findChild<QPushButton*>("spec:propose");
        WindowFixture::replace(field("spec:torque"), QStringLiteral("two"));
        QTest::mouseClick(run, Qt::LeftButton);
        QVERIFY2(!dialog.findChild<QFrame*>(QStringLiteral("proposal:vee")), qPrintable(state->text()));
        QVERIFY(state->text().size() > 20);
        WindowFixture::replace(field("spec:torque"), QStringLiteral("2,5")); // a comma is a point
        // Enter has begun it.
        QVERIFY(QTest::qWaitFor([&] { return dialog.findChild<QPushButton*>(QStringLiteral("open:vee")); },
                                120000));
        Design opened;
        connect(&dialog, &SpecificationDialog::design_wanted, this,
                [&](const QString&, const Design& design) { opened = design; });
        QTest::mouseClick(dialog.findChild<QPushButton*>(QStringLiteral("open:vee")), Qt::LeftButton);
        QCOMPARE(opened.text("rating.torque"), std::string("2.5 N.m"));
        f.document().open_design(QStringLiteral("sized"), opened);
        QVERIFY(f.document().is_good());
        QCOMPARE(f.document().project().name, std::string("sized"));
        QVERIFY(QTest::qWaitFor([&] { return dialog.is_idle(); }, 120000));
    }
};
MAVLO_TEST(specification, TestSpecification, Windows)
#include "test_specification.moc"
