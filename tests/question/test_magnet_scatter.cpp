// Magnets that differ from each other: slopes against what must hold for all of them together and against
// fields of their own, and the question on it.

#include "figure/machine_model.h"
#include "figure/magnet_slopes.h"
#include "figure/spectrum.h"
#include "quantity/constants.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

#include <QtTest>

using namespace mavlo;

namespace {

Design surface_magnets(std::initializer_list<std::pair<const char*, std::string>> more = {}) {
    Design design = design_of({{"stator.slots", "12"}, {"rotor.poles", "10"}, {"gap", "1 mm"}});
    for (const auto& [path, text] : more) design.texts[path] = text;
    return design;
}

std::shared_ptr<const MachineModel> whole_model(const Design& design, ModelOptions options = {}) {
    options.quality = Quality::Normal;
    return *prepare_field(machine_of(design, {.whole = true}), options);
}

struct Slopes {
    double torque;
    std::vector<MagnetSlope> magnets;
};

Slopes slopes_at(const std::shared_ptr<const MachineModel>& model, double angle) {
    FieldSolver solver(model);
    const auto field = solver.solve(angle, {});
    const auto adjoint = solver.adjoints(*field, {torque_slope(*model, *field)});
    return {field->torque, MagnetSlopes(*model)(*field, adjoint->front())};
}

double sum(const Slopes& slopes, double MagnetSlope::*of) {
    double all = 0;
    for (const MagnetSlope& m : slopes.magnets) all += m.*of;
    return all;
}

Answer scatter_of(const Design& design, std::map<std::string, std::string> with) {
    Ask ask;
    ask.design = design;
    ask.quality = Quality::Draft;
    ask.with = std::move(with);
    const auto answer = ask_question("magnet-scatter", ask);
    if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
    return *answer;
}

} // namespace

class TestMagnetScatter : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void all_stronger_alike();
    void all_moved_alike();
    void one_weaker();
    void a_short_turn_tells_the_next();
    void more_cogging_with_every_slot();
    void nothing_off_is_all_alike();
    void held_by_steel();
    void mistakes();
};

/// Without saturation the torque goes with the square of all remanence (Euler's theorem).
void TestMagnetScatter::all_stronger_alike() {
    const auto model =
        whole_model(surface_magnets({{"stator.steel", "linear(inf)"}, {"rotor.steel", "linear(inf)"}}));
    const double period = 2 * pi / 60;
    for (double share : {0.13, 0.31}) {
        const Slopes s = slopes_at(model, share * period);
        QCOMPARE(int(s.magnets.size()), 10);
        QVERIFY(std::abs(sum(s, &MagnetSlope::strength) / (2 * s.torque) - 1) < 1e-5);
    }
}

/// Magnets on a round yoke that all move by an angle are a rotor that has turned by it.
void TestMagnetScatter::all_moved_alike() {
    ModelOptions fine;
    fine.extra_factor = 0.5;
    const auto model = whole_model(surface_magnets(), fine);
    QVERIFY(MagnetSlopes(*model).may_move());
    constexpr int points = 8;
    const double period = 2 * pi / 60;
    std::vector<double> torque, moved;
    for (int i = 0; i < points; ++i) {
        const Slopes s = slopes_at(model, period * i / points);
        torque.push_back(s.torque);
        moved.push_back(sum(s, &MagnetSlope::place));
    }
    const auto turned = derivative(torque, period);
    const double largest = *std::max_element(turned.begin(), turned.end());
    for (std::size_t i = 0; i < points; ++i) QVERIFY(std::abs(moved[i] - turned[i]) < 0.05 * largest);
}

/// One magnet's slope against fields with that magnet alone weaker and stronger.
void TestMagnetScatter::one_weaker() {
    const Design design = surface_magnets();
    const auto model = whole_model(design);
    const double angle = 0.03, off = 0.002;
    const auto torque_with = [&](int magnet, double change) {
        std::vector<double> share(model->elements.size(), 1.0);
        for (std::size_t e = 0; e < share.size(); ++e)
            if (model->part(model->elements[e]).magnet == magnet) share[e] += change;
        ModelOptions options;
        options.remanence_share = std::make_shared<const std::vector<double>>(std::move(share));
        FieldSolver solver(whole_model(design, options));
        return solver.solve(angle, {})->torque;
    };
    const Slopes s = slopes_at(model, angle);
    double largest = 0;
    for (const MagnetSlope& m : s.magnets) largest = std::max(largest, std::abs(m.strength));
    for (int magnet : {0, 3, 7}) {
        const double difference = (torque_with(magnet, off) - torque_with(magnet, -off)) / (2 * off);
        QVERIFY(std::abs(s.magnets[std::size_t(magnet)].strength - difference) < 2e-3 * largest);
    }
}

/// The question solves one of the five short turns in a slot's pitch of 12 slots and 10 poles; its curve of one
/// magnet over the whole pitch must be what fields at its positions say.
void TestMagnetScatter::a_short_turn_tells_the_next() {
    const Design design = surface_magnets();
    const Answer a = scatter_of(design, {{"points", "8"}});
    QCOMPARE(a.effort.solves, 8);
    const Curve& curve = *a.curve("influence_of_1_percent_strength");
    QCOMPARE(curve.x.size(), 40);
    const auto model = whole_model(design);
    const double largest = *std::max_element(curve.y.begin(), curve.y.end());
    for (std::size_t i : {3, 11, 26, 38}) {
        const Slopes s = slopes_at(model, curve.x[i] * pi / 180);
        QVERIFY(std::abs(0.01 * s.magnets.front().strength - curve.y[i]) < 0.03 * largest);
    }
}

void TestMagnetScatter::more_cogging_with_every_slot() {
    const Answer a = scatter_of(surface_magnets(), {{"direction", "3 deg"}, {"strength", "0.06"}});
    const double alike = *a.figure("cogging_peak_to_peak"), high = *a.figure("cogging_scattered_high");
    QVERIFY(high > 1.1 * alike);
    QVERIFY(*a.figure("cogging_scattered_median") < high);
    for (const char* one : {"cogging_by_strength", "cogging_by_direction", "cogging_by_place"}) {
        QVERIFY(*a.figure(one) > alike);
        QVERIFY(*a.figure(one) < high);
    }
    // With all alike the lowest wave is the sixtieth of a turn; the slots' own comes with what is off.
    const auto wave = [&](const char* name, double order) {
        for (const Curve& c : a.curves)
            for (std::size_t k = 0; c.name == name && k < c.x.size(); ++k)
                if (c.x[k] == order) return c.y[k];
        return -1.0;
    };
    QVERIFY(wave("torque_scattered_spectrum", 12) > 20 * wave("torque_spectrum", 12));
    QVERIFY(wave("torque_spectrum", 60) > 20 * wave("torque_spectrum", 12));
}

void TestMagnetScatter::nothing_off_is_all_alike() {
    const Answer a =
        scatter_of(surface_magnets(), {{"strength", "0"}, {"direction", "0 deg"}, {"place", "0 deg"}});
    QCOMPARE(*a.figure("cogging_scattered_high"), *a.figure("cogging_peak_to_peak"));
    QVERIFY(!a.figure("share_within_limits"));
    const auto with = [](const char* seed) {
        return std::map<std::string, std::string>{{"seed", seed}, {"limit", "0.05 N.m"}};
    };
    const Answer one = scatter_of(surface_magnets(), with("3")),
                 again = scatter_of(surface_magnets(), with("3")),
                 other = scatter_of(surface_magnets(), with("4"));
    QCOMPARE(*one.figure("cogging_scattered_high"), *again.figure("cogging_scattered_high"));
    QVERIFY(*one.figure("cogging_scattered_high") != *other.figure("cogging_scattered_high"));
    const double share = *one.figure("share_within_limits");
    QVERIFY(share >= 0 && share <= 1);
}

void TestMagnetScatter::held_by_steel() {
    const Answer a = scatter_of(surface_magnets({{"rotor.kind", "bar"}}), {});
    QVERIFY(!a.figure("cogging_by_place"));
    QVERIFY(a.sentence.find("place is left out") != std::string::npos);
    QVERIFY(*a.figure("cogging_scattered_high") > *a.figure("cogging_peak_to_peak"));
}

void TestMagnetScatter::mistakes() {
    Ask ask;
    ask.design = surface_magnets({{"rotor.kind", "barriers"}});
    QVERIFY(!ask_question("magnet-scatter", ask));
    ask.design = surface_magnets();
    ask.with = {{"strength", "-1"}};
    QVERIFY(!ask_question("magnet-scatter", ask));
}

MAVLO_TEST(magnet_scatter, TestMagnetScatter, Nothing)
#include "test_magnet_scatter.moc"
