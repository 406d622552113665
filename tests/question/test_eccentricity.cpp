// A rotor off centre: its pull against the smooth machine's own theory, what must hold of it by symmetry, and
// the questions on it.

#include "figure/gap_stress.h"
#include "figure/sample.h"
#include "figure/spectrum.h"
#include "machine/displacement.h"
#include "machine/off_centre.h"
#include "quantity/constants.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

#include <QtTest>

using namespace mavlo;

namespace {

struct Solved {
    std::shared_ptr<const MachineModel> model;
    FieldSolution field;
    Point pull() const { return rotor_pull(*model, field); }
};

/// The machine's field with its rotor displaced, without current.
Solved displaced(const Design& design, Point by, double angle = 0, Quality quality = Quality::Draft,
                 Eccentricity kind = Eccentricity::Static) {
    ModelOptions options{quality};
    options.displaces_rotor = kind == Eccentricity::Dynamic;
    options.displacement = options.displaces_rotor ? beside_axis(by) : off_centre(by);
    const Machine machine = whole_with_room(machine_of(design), kind);
    const auto model = prepare_field(machine, options);
    if (!model) qFatal("%s", to_string(model.problems().front()).c_str());
    FieldSolver solver(*model);
    auto field = solver.solve(angle, PortValues(std::size_t(machine.winding.phases), 0.0));
    if (!field) qFatal("%s", to_string(field.problems().front()).c_str());
    return {*model, std::move(*field)};
}

Answer ask_eccentricity(const Design& design, std::map<std::string, std::string> with) {
    Ask ask;
    ask.design = design;
    ask.quality = Quality::Draft;
    ask.with = std::move(with);
    const auto answer = ask_question("eccentricity", ask);
    if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
    return *answer;
}

std::string told(double a, double b) {
    return std::to_string(a) + " against " + std::to_string(b);
}

} // namespace

class TestEccentricity : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void pull_of_a_smooth_machine();
    void outer_rotor();
    void room_changes_nothing();
    void straight_in_the_displacement();
    void same_wherever_to();
    void one_energy();
    void one_that_turns_is_one_that_stands_data();
    void one_that_turns_is_one_that_stands();
    void question();
    void question_of_one_that_turns();
    void scattered_machines();
    void mistakes();
};

/// Between smooth iron that is far more permeable than air, the radial field H_m cos(m theta) at a bore of
/// radius R over a distance ln(R/r) = l to the rotor's iron, of magnets as permeable as air: the displaced bore
/// is a potential of zero on R - e cos(theta), to first order a source e cos(theta) H on R itself. It drives
/// waves of m +- 1 with n coth(n l)/R, and the stress mu0 H^2/2 of both waves together pulls with
///   F = pi/2 mu0 L e sum_m H_m^2 (1 + 1/2 sum_{n = m +- 1} n coth(n l)).
void TestEccentricity::pull_of_a_smooth_machine() {
    const Design design = design_of({{"stator.slot.kind", "none"},
                                     {"rotor.poles", "8"},
                                     {"gap", "2 mm"},
                                     {"stator.steel", "linear(100000)"},
                                     {"rotor.steel", "linear(100000)"},
                                     {"rotor.magnet.grade", "magnet(1.2 T, 1.0)"},
                                     {"rotor.magnet.thickness", "4 mm"}});
    const double e = 0.1e-3;
    const Solved middle = displaced(design, {}, 0, Quality::Normal),
                 off = displaced(design, {e, 0}, 0, Quality::Normal);
    const Machine& m = middle.model->machine;
    const double bore = m.stator_radius(), l = std::log(bore / (m.rotor_radius() - 4e-3));
    // The field at the bore, from the waves in the exact gap grown to there as if the magnets were no source.
    const double radius = middle.model->gap().middle_radius();
    const auto ring = middle.model->gap().ring(gap_traces(*middle.model, middle.field), radius, 1024);
    const auto radial = harmonics(ring.radial), tangential = harmonics(ring.tangential);
    double force = 0;
    for (int order = m.pole_pairs(); order < 100; order += 2 * m.pole_pairs()) {
        const auto k = std::size_t(order);
        const double x = order * std::log(bore / radius);
        const double h =
            std::abs(radial[k] * std::cosh(x) - std::complex(0.0, 1.0) * tangential[k] * std::sinh(x)) *
            radius / bore / mu0;
        double waves = 1;
        for (int n : {order - 1, order + 1}) waves += 0.5 * n / std::tanh(n * l);
        force += pi / 2 * mu0 * m.stack_length * e * h * h * waves;
    }
    const Point pull = off.pull();
    QVERIFY2(std::abs(pull.x / force - 1) < 0.005, told(pull.x, force).c_str());
    QVERIFY(std::abs(pull.y) < 0.01 * pull.x);
    QVERIFY(norm(middle.pull()) < 1e-3 * pull.x);
}

void TestEccentricity::outer_rotor() {
    const Design design = design_of({{"machine.topology", "outer-rotor"}});
    const Machine m = machine_of(design);
    const double e = 0.1 * m.gap;
    const Solved off = displaced(design, {0, e});
    // To where the gap is narrow, which a rotor outside has on the other side of its own axis.
    QVERIFY(off.pull().y > 1);
    QVERIFY(std::abs(off.pull().x) < 0.05 * off.pull().y);
}

/// The layer of air and the whole machine give the torque that the sector with its exact gap gives.
void TestEccentricity::room_changes_nothing() {
    const Design design = design_of({{"stator.slots", "12"}, {"rotor.poles", "10"}});
    const double angle = 0.02;
    const auto sector = *prepare_field(machine_of(design), {Quality::Normal});
    FieldSolver solver(sector);
    const double torque = solver.solve(angle, PortValues(3, 0.0))->torque;
    const Solved room = displaced(design, {}, angle, Quality::Normal);
    QVERIFY2(std::abs(room.field.torque - torque) < 0.05 * std::abs(torque),
             told(room.field.torque, torque).c_str());
    QVERIFY(norm(room.pull()) < 1e-3);
}

void TestEccentricity::straight_in_the_displacement() {
    const Design design = design_of({{"stator.slots", "12"}, {"rotor.poles", "8"}, {"gap", "1 mm"}});
    const double once = displaced(design, {0.05e-3, 0}).pull().x,
                 twice = displaced(design, {0.1e-3, 0}).pull().x,
                 back = displaced(design, {-0.1e-3, 0}).pull().x;
    QVERIFY2(std::abs(twice / once - 2) < 0.02, told(twice, once).c_str());
    QVERIFY2(std::abs(back / twice + 1) < 1e-3, told(back, twice).c_str());
}

/// A machine that repeats four times round: neither pull nor torque knows where the rotor is displaced to.
void TestEccentricity::same_wherever_to() {
    const Design design = design_of({{"stator.slots", "12"}, {"rotor.poles", "8"}, {"gap", "1 mm"}});
    const double angle = 0.05, e = 0.05e-3, turn = 0.7;
    const Solved middle = displaced(design, {}, angle), one = displaced(design, {e, 0}, angle),
                 other = displaced(design, polar(e, turn), angle);
    const Point turned = rotated(other.pull(), -turn);
    QVERIFY2(norm(turned - one.pull()) < 5e-3 * norm(one.pull()), told(turned.x, one.pull().x).c_str());
    const double first = one.field.torque - middle.field.torque,
                 second = other.field.torque - middle.field.torque;
    QVERIFY2(std::abs(second / first - 1) < 0.05, told(first, second).c_str());
}

/// Pull and torque are slopes of one energy, so that d pull/d angle = d torque/d displacement; here what both
/// make over a period of the slots. Nine slots and eight poles repeat nowhere: there neither is nought.
void TestEccentricity::one_energy() {
    const Design design = design_of({{"stator.slots", "9"}, {"rotor.poles", "8"}, {"gap", "1 mm"}});
    const double e = 0.05e-3, period = 2 * pi / 72;
    constexpr int steps = 6;
    double by_torque = 0;
    for (int k = 0; k < steps; ++k) {
        const double angle = period * (k + 0.5) / steps;
        const double more = displaced(design, {0, e}, angle, Quality::Normal).field.torque,
                     less = displaced(design, {0, -e}, angle, Quality::Normal).field.torque;
        by_torque += (more - less) / (2 * e) * period / steps;
    }
    const double by_pull = displaced(design, {}, period, Quality::Normal).pull().y -
                           displaced(design, {}, 0, Quality::Normal).pull().y;
    QVERIFY2(std::abs(by_torque / by_pull - 1) < 0.03, told(by_torque, by_pull).c_str());
}

void TestEccentricity::one_that_turns_is_one_that_stands_data() {
    QTest::addColumn<QString>("topology");
    QTest::addColumn<bool>("torque"); // whether the displacement makes more of it than the meshes differ by
    QTest::newRow("inner rotor") << "inner-rotor" << true;
    QTest::newRow("outer rotor") << "outer-rotor" << false;
}

/// At one instant nobody sees whether a displacement turns; but torque counts about the axis that the rotor
/// turns about, the stator's or its own, which the pull parts by its lever.
void TestEccentricity::one_that_turns_is_one_that_stands() {
    QFETCH(QString, topology);
    QFETCH(bool, torque);
    const Design design = design_of({{"machine.topology", topology.toStdString()},
                                     {"stator.slots", "9"},
                                     {"rotor.poles", "8"},
                                     {"gap", "1 mm"}});
    const double angle = 0.3, e = 0.1e-3, towards = 1.97;
    const auto of = [&](Point by, Eccentricity kind) {
        return displaced(design, by, angle, Quality::Normal, kind);
    };
    const Point by = polar(e, towards + angle);
    // Each mesh has its own pull and torque in the middle.
    const Solved stands = of(by, Eccentricity::Static), turns = of(polar(e, towards), Eccentricity::Dynamic),
                 still = of({}, Eccentricity::Static), turned = of({}, Eccentricity::Dynamic);
    const Point pull = stands.pull() - still.pull(), other = turns.pull() - turned.pull();
    QVERIFY2(norm(other - pull) < 0.03 * norm(pull), told(norm(other - pull), norm(pull)).c_str());
    const double by_standing = stands.field.torque - still.field.torque,
                 by_turning = turns.field.torque - turned.field.torque, lever = cross(by, stands.pull());
    qInfo("pull %.4g, %.4g N; torque %.4g, %.4g and by its lever %.4g N.m", norm(pull), norm(other), by_turning,
          by_standing, lever);
    if (!torque) return;
    QVERIFY(std::abs(lever) > 0.05 * std::abs(by_standing));
    QVERIFY2(std::abs(by_turning / (by_standing + lever) - 1) < 0.04,
             (told(by_turning, by_standing) + ", lever " + std::to_string(lever)).c_str());
}

void TestEccentricity::question_of_one_that_turns() {
    const auto both = [](const Design& design, const char* points) {
        return std::pair{
            ask_eccentricity(design, {{"eccentricity", "10 %"}, {"points", points}}),
            ask_eccentricity(design, {{"eccentricity", "10 %"}, {"points", points}, {"kind", "dynamic"}})};
    };
    // Where the machine repeats four times round it pulls alike.
    const auto [stands, turns] =
        both(design_of(
                 {{"stator.slots", "12"}, {"rotor.poles", "8"}, {"gap", "0.8 mm"}, {"rating.current", "10 A"}}),
             "24");
    QCOMPARE(turns.effort.solves, stands.effort.solves);
    QVERIFY2(std::abs(*turns.figure("pull_mean") / *stands.figure("pull_mean") - 1) < 0.02,
             told(*turns.figure("pull_mean"), *stands.figure("pull_mean")).c_str());
    QVERIFY(std::abs(*turns.figure("pull_across_mean")) < 0.05 * *turns.figure("pull_mean"));
    QVERIFY(turns.sentence.find("turns with it") != std::string::npos);
    // Elsewhere a whole turn is looked at.
    const auto [fixed, round] =
        both(design_of({{"stator.slots", "6"}, {"rotor.poles", "4"}, {"rating.current", "0 A"}}), "12");
    QCOMPARE(round.effort.solves, 2 * fixed.effort.solves);
    QCOMPARE(round.curve("torque")->x.back(), 360.0 - 360.0 / 24);
    QVERIFY2(std::abs(*round.figure("pull_mean") / *fixed.figure("pull_mean") - 1) < 0.05,
             told(*round.figure("pull_mean"), *fixed.figure("pull_mean")).c_str());
}

void TestEccentricity::question() {
    const Design design = design_of(
        {{"stator.slots", "12"}, {"rotor.poles", "8"}, {"gap", "0.8 mm"}, {"rating.current", "10 A"}});
    const Answer small = ask_eccentricity(design, {{"eccentricity", "0.04 mm"}, {"points", "24"}}),
                 large = ask_eccentricity(design, {{"eccentricity", "20 %"}, {"points", "24"}});
    QCOMPARE(*large.figure("eccentricity"), 0.16e-3);
    QCOMPARE(*large.figure("gap_least"), 0.64e-3);
    QVERIFY(*small.figure("rotor_pull_peak_centred") < 1e-3);
    QVERIFY(*small.figure("pull_mean") > 1);
    QVERIFY(std::abs(*large.figure("pull_stiffness") / *small.figure("pull_stiffness") - 1) < 0.05);
    QVERIFY(std::abs(*large.figure("pull_mean") / *small.figure("pull_mean") - 4) < 0.2);
    // The sixth part of a period that is solved tells all of it.
    QCOMPARE(large.curve("pull_to_narrow_side")->y.size(), std::size_t(24));
    QCOMPARE(large.effort.solves, 8);
    QVERIFY(std::abs(*large.figure("torque_mean") / *large.figure("torque_mean_centred") - 1) < 0.02);
}

void TestEccentricity::scattered_machines() {
    const auto scatter = [](const char* eccentricity, const char* others) {
        Ask ask;
        ask.design = design_of({{"stator.slots", "12"}, {"rotor.poles", "8"}, {"gap", "1 mm"}});
        ask.quality = Quality::Draft;
        ask.with = {
            {"eccentricity", eccentricity}, {"strength", others}, {"direction", "0 deg"}, {"place", "0 deg"}};
        const auto answer = ask_question("magnet-scatter", ask);
        if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
        return *answer;
    };
    const Answer none = scatter("0 mm", "0"), some = scatter("30 %", "0"), both = scatter("30 %", "0.02");
    QVERIFY(!none.figure("cogging_by_eccentricity"));
    QCOMPARE(*some.figure("cogging_by_eccentricity"), *some.figure("cogging_scattered_high"));
    QVERIFY(*some.figure("cogging_scattered_high") != *none.figure("cogging_scattered_high"));
    QVERIFY(*both.figure("cogging_scattered_high") > *some.figure("cogging_scattered_high"));
    QVERIFY(*some.figure("rotor_pull_high") > 1);
    // Draws of two axes: 19 in 20 lie within 2.45 standard deviations (Rayleigh), a third of the tolerance
    // each.
    const Answer off =
        ask_eccentricity(design_of({{"stator.slots", "12"}, {"rotor.poles", "8"}, {"gap", "1 mm"}}),
                         {{"eccentricity", "20 %"}, {"current", "0 A"}, {"points", "36"}});
    const double wanted = *off.figure("pull_stiffness") * 0.1e-3 * std::sqrt(-2 * std::log(0.05));
    QVERIFY2(std::abs(*some.figure("rotor_pull_high") / wanted - 1) < 0.06,
             told(*some.figure("rotor_pull_high"), wanted).c_str());
}

void TestEccentricity::mistakes() {
    Ask ask;
    ask.design = design_of({{"gap", "1 mm"}});
    ask.with = {{"eccentricity", "0.6 mm"}};
    const auto far = ask_question("eccentricity", ask);
    QVERIFY(!far);
    QVERIFY(far.problems().front().sentence.find("half the gap") != std::string::npos);
    QVERIFY(!ask_question("magnet-scatter", ask));
    ask.with = {{"eccentricity", "-1 mm"}};
    QVERIFY(!ask_question("eccentricity", ask));
    ask.with = {{"current", "10 %"}};
    const auto share = ask_question("eccentricity", ask);
    QVERIFY(!share);
    QVERIFY(share.problems().front().sentence.find("share of nothing") != std::string::npos);
}

MAVLO_TEST(eccentricity, TestEccentricity, Nothing)
#include "test_eccentricity.moc"
