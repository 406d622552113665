// On which side of q the best current lies: machines with L_d > L_q have it towards +d.

#include "project/project.h"
#include "quantity/constants.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

Answer answer(const char* shape, const char* question, std::map<std::string, std::string> with) {
    Ask ask;
    ask.design = new_project(shape)->variants.front().design;
    ask.quality = Quality::Draft;
    ask.with = std::move(with);
    auto found = ask_question(question, ask);
    if (!found) qFatal("%s: %s", question, to_string(found.problems().front()).c_str());
    return std::move(*found);
}

std::string text(double value, const char* unit) {
    return QStringLiteral("%1 %2").arg(value, 0, 'g', 12).arg(QString::fromLatin1(unit)).toStdString();
}

} // namespace

class TestSides : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void salient_poles_take_current_towards_d() {
        const Answer found = answer("reluctance-salient", "current-for-torque", {{"torque", "20 N.m"}});
        const double current = *found.figure("current"), advance = *found.figure("advance");
        QVERIFY(advance < -20 && advance > -70);
        // The field itself, over a whole period.
        const Answer load =
            answer("reluctance-salient", "load",
                   {{"current", text(current, "A")}, {"advance", text(advance, "deg")}, {"points", "60"}});
        CLOSE(*load.figure("torque_mean"), 20, 5e-3 * 20);
        // On the other side it brakes just as much: the machine without magnets has no sign of d of its own.
        const Answer image =
            answer("reluctance-salient", "load",
                   {{"current", text(current, "A")}, {"advance", text(-advance, "deg")}, {"points", "60"}});
        CLOSE(*image.figure("torque_mean"), -20, 5e-3 * 20);
    }
    void the_whole_range_is_found_on_that_side() {
        const Answer best =
            answer("reluctance-salient", "best-angle", {{"currents", "100 %"}, {"points", "24"}});
        QVERIFY(*best.figure("best_advance") < 0);
        const Answer range =
            answer("reluctance-salient", "speed-range", {{"map_steps", "8"}, {"speeds", "300:1500:600 rpm"}});
        // A map of eight steps a side bends a little off the fields.
        CLOSE(*range.figure("max_torque"), *best.figure("torque_best"), 2e-2 * *best.figure("torque_best"));
        const Curve* id = range.curve("id");
        QVERIFY(id && *std::max_element(id->y.begin(), id->y.end()) > 0);
        for (double d : id->y) QVERIFY(d >= 0);
    }
    void barriers_and_magnets_inside_take_it_against_d() {
        QVERIFY(*answer("vee", "best-angle", {{"currents", "100 %"}, {"points", "12"}}).figure("best_advance") >
                0);
        const Answer barriers = answer("reluctance", "best-angle", {{"currents", "100 %"}, {"points", "12"}});
        QVERIFY(*barriers.figure("best_advance") > 0 && *barriers.figure("torque_best") > 0);
    }
};
MAVLO_TEST(sides, TestSides, Nothing)
#include "test_sides.moc"
