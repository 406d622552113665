// A skewed stack: one property of the design, the same in every question.

#include "night.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/asked.h"
#include "question/linkage_grid.h"
#include "support.h"
#include "test_program.h"

#include <cmath>

using namespace mavlo;

namespace {

Design bar(const char* skew, const char* form = "continuous", const char* side = "rotor") {
    Design design = new_project("bar")->variants.front().design;
    design.texts[std::string(side) + ".skew.angle"] = skew;
    design.texts[std::string(side) + ".skew.form"] = form;
    return design;
}

/// Two packets.
Design stepped() {
    Design design = bar("8 deg", "steps");
    design.texts["rotor.skew.steps"] = "2";
    return design;
}

} // namespace

class TestSkew : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void slices_of_forms() {
        SkewedStack stack;
        stack.rotor = {0.2, SkewForm::Vee, 1};
        double share = 0, mean = 0, square = 0;
        for (const Slice& s : stack.slices()) {
            share += s.share;
            mean += s.share * s.turn;
            square += s.share * s.turn * s.turn;
        }
        CLOSE(share, 1, 1e-13);
        CLOSE(mean, 0, 1e-13);
        CLOSE(square, 0.2 * 0.2 / 12, 1e-13); // even between both ends, as that of a straight one
        // Rotor and stator turned alike leave nothing.
        stack.rotor = stack.stator = {0.1, SkewForm::Continuous, 1};
        for (const Slice& s : stack.slices()) CLOSE(s.turn, 0, 1e-15);
        // Packets of both sides part the stack at every place where one of them turns.
        stack.rotor = {0.1, SkewForm::Steps, 2};
        stack.stator = {0.1, SkewForm::Steps, 3};
        QCOMPARE(stack.slices().size(), std::size_t(4));
        CLOSE(stack.slices().front().turn, -0.025 + 0.1 / 3, 1e-15);
    }
    /// A skew of one period of the cogging takes it away; what is left is the harmonics' own.
    void cogging_goes() {
        const Design straight = bar("0 deg"), skewed = bar("10 deg");
        const double before = of(asked(straight, "cogging", {{"points", "24"}}), "cogging_peak_to_peak"),
                     after = of(asked(skewed, "cogging", {{"points", "24"}}), "cogging_peak_to_peak");
        qInfo("cogging %.4f, skewed by a slot %.3g N.m", before, after);
        QVERIFY(before > 0.01 && after < 1e-6 * before);
        // For one answer it may be another.
        CLOSE(of(asked(skewed, "cogging", {{"points", "24"}, {"skew", "0 deg"}}), "cogging_peak_to_peak"),
              before, 1e-9);
    }
    void questions_agree_data() {
        QTest::addColumn<QString>("form");
        QTest::addColumn<QString>("side");
        QTest::newRow("continuous") << "continuous"
                                    << "rotor";
        if (by_night())
            QTest::newRow("vee, of the stator") << "vee"
                                                << "stator";
        QTest::newRow("steps") << "steps"
                               << "rotor";
    }
    /// load, flux-map and the EMF: torque, linkage and EMF within 0.3 %; in time by the same map.
    void questions_agree() {
        QFETCH(QString, form);
        QFETCH(QString, side);
        const Design design = bar("10 deg", form.toStdString().c_str(), side.toStdString().c_str());
        const Answer map =
            asked(design, "flux-map", {{"id", "-40, -20, 0 A"}, {"iq", "0, 20, 40, 60 A"}, {"points", "36"}});
        const double id = -20, iq = 40, current = std::hypot(id, iq), advance = std::atan2(-id, iq) * 180 / pi;
        const Answer load = asked(design, "load",
                                  {{"current", std::to_string(current) + " A"},
                                   {"advance", std::to_string(advance) + " deg"},
                                   {"points", "72"}});
        const double torque = map.map("torque")->z[2][1], d = map.map("flux_linkage_d")->z[2][1],
                     q = map.map("flux_linkage_q")->z[2][1];
        qInfo("torque %.5f by load, %.5f by map; linkages %.6f, %.6f and %.6f, %.6f", of(load, "torque_mean"),
              torque, of(load, "flux_linkage_d"), d, of(load, "flux_linkage_q"), q);
        CLOSE(torque / of(load, "torque_mean"), 1, 3e-3);
        CLOSE(d / of(load, "flux_linkage_d"), 1, 3e-3);
        CLOSE(q / of(load, "flux_linkage_q"), 1, 3e-3);
        const Answer idle = asked(design, "no-load", {{"points", "72"}});
        CLOSE(map.map("flux_linkage_d")->z[0][2] / of(idle, "flux_linkage_peak"), 1, 3e-3);
        // Straight poles give more.
        const Answer straight = asked(bar("0 deg"), "load",
                                      {{"current", std::to_string(current) + " A"},
                                       {"advance", std::to_string(advance) + " deg"},
                                       {"points", "72"}});
        QVERIFY(of(load, "torque_mean") < 0.995 * of(straight, "torque_mean"));
        QVERIFY(of(load, "torque_peak_to_peak") < 0.7 * of(straight, "torque_peak_to_peak"));
    }
    void in_time_agrees_with_load() {
        const Design design = bar("10 deg");
        const Answer run =
            asked(design, "in-time", {{"supply", "sine-voltage"}, {"points", "120"}, {"map_steps", "4"}});
        const double id = of(run, "id"), iq = of(run, "iq");
        const Answer load = asked(design, "load",
                                  {{"current", std::to_string(std::hypot(id, iq)) + " A"},
                                   {"advance", std::to_string(std::atan2(-id, iq) * 180 / pi) + " deg"},
                                   {"points", "72"}});
        qInfo("torque %.4f in time, %.4f by load", of(run, "torque_mean"), of(load, "torque_mean"));
        CLOSE(of(run, "torque_mean") / of(load, "torque_mean"), 1, 3e-3);
        const Answer wanted = asked(design, "current-for-torque", {{"torque", "40 N.m"}});
        const Answer check = asked(design, "load",
                                   {{"current", std::to_string(of(wanted, "current")) + " A"},
                                    {"advance", std::to_string(of(wanted, "advance")) + " deg"},
                                    {"points", "72"}});
        CLOSE(of(check, "torque_mean"), 40, 0.2);
    }
    /// Those that solve no field of a position have no skew to leave out; all others take it.
    void every_question_takes_it() {
        for (const QuestionKind& kind : registry<QuestionKind>().all())
            QVERIFY2(kind.skew || kind.name == "winding" || kind.name == "test-answer", kind.name.c_str());
    }
    /// Two packets: the mean of two straight machines whose currents lag and lead by what their poles do.
    void one_field_is_the_mean_of_its_slices() {
        const auto check = [](const Design& design, double angle, double advance) {
            return asked(design, "torque-check",
                         {{"current", "60 A"},
                          {"angle", std::to_string(angle) + " deg"},
                          {"advance", std::to_string(advance) + " deg"}});
        };
        const Answer skewed = check(stepped(), 3, 40), back = check(bar("0 deg"), 1, 40 + 3 * 2),
                     ahead = check(bar("0 deg"), 5, 40 - 3 * 2);
        for (const char* torque : {"torque_gap_field", "torque_virtual_work", "field_energy"})
            CLOSE(of(skewed, torque), (of(back, torque) + of(ahead, torque)) / 2, 2e-3 * of(skewed, torque));
    }
    /// With all alike they cog as `cogging` says, and differ less than straight ones do.
    void scattered_machines_are_skewed_too() {
        if (!by_night()) QSKIP("at night");
        const Design design = stepped(), straight = bar("0 deg");
        const auto cogging = [](const Design& of_design) {
            return of(asked(of_design, "cogging", {{"points", "24"}}), "cogging_peak_to_peak");
        };
        const double kept = cogging(design) / cogging(straight);
        for (const char* question : {"magnet-scatter", "stator-scatter"}) {
            const std::map<std::string, std::string> lot{{"machines", "40"}, {"points", "8"}};
            const Answer skewed = asked(design, question, lot), before = asked(straight, question, lot);
            qInfo("%s: alike %.5f, straight %.5f, kept %.4f; high %.4f against straight %.4f", question,
                  of(skewed, "cogging_peak_to_peak"), of(before, "cogging_peak_to_peak"), kept,
                  of(skewed, "cogging_scattered_high"), of(before, "cogging_scattered_high"));
            CLOSE(of(skewed, "cogging_peak_to_peak") / of(before, "cogging_peak_to_peak"), kept, 0.03);
            QVERIFY(of(skewed, "cogging_scattered_high") < of(before, "cogging_scattered_high"));
        }
    }
    void key_figures_are_the_stack_s() {
        for (const Design& design : {stepped(), bar("10 deg")}) {
            const Answer key = asked(design, "key-figures", {}),
                         load = asked(design, "load", {{"points", "48"}});
            CLOSE(of(key, "torque_mean") / of(load, "torque_mean"), 1, 0.01);
            CLOSE(of(key, "efficiency") / of(load, "efficiency"), 1, 0.005);
        }
        const double cogging = of(asked(stepped(), "cogging", {{"points", "24"}}), "cogging_peak_to_peak");
        CLOSE(of(asked(stepped(), "key-figures", {}), "cogging_peak_to_peak") / cogging, 1, 0.1);
    }
    /// Every part of the losses goes through the slices, the shares that are told of them too.
    void shares_of_the_iron_loss_are_told() {
        for (const Design& design : {bar("0 deg"), stepped()}) {
            const Answer load = asked(design, "load", {{"points", "36"}});
            QVERIFY(of(load, "iron_loss_biased") > 1e-4 && of(load, "iron_loss_biased") < 0.5);
        }
    }
    void a_displaced_rotor_of_packets() {
        if (!by_night()) QSKIP("at night");
        const std::map<std::string, std::string> with{{"points", "36"}};
        const Answer off = asked(stepped(), "eccentricity", with), load = asked(stepped(), "load", with),
                     straight = asked(bar("0 deg"), "eccentricity", with);
        CLOSE(of(off, "torque_mean_centred") / of(load, "torque_mean"), 1, 3e-3);
        QVERIFY(of(off, "torque_peak_to_peak_centred") < of(straight, "torque_peak_to_peak_centred"));
        CLOSE(of(off, "pull_stiffness") / of(straight, "pull_stiffness"), 1, 0.1);
    }
    /// A linkage that goes with the cosine keeps cos(p a) of it in two packets turned by a either way, from
    /// half a period that was solved.
    void linkages_of_packets() {
        const double period = pi / 4, a = 0.03;
        const int half = 9;
        LinkageGrid grid;
        grid.period = period;
        grid.even = true;
        grid.current = {1, 2};
        const double p = 2 * pi / period;
        grid.coenergy = grid.linkage = grid.torque = Eigen::MatrixXd::Zero(2, half);
        grid.others.assign(1, Eigen::MatrixXd::Zero(2, half));
        for (int j = 0; j < half; ++j) {
            grid.angle.push_back(-period / 2 + period / 2 * j / (half - 1));
            for (int k = 0; k < 2; ++k) {
                const double i = grid.current[std::size_t(k)], wave = std::cos(p * grid.angle.back());
                grid.linkage(k, j) = i * (3 + wave);
                grid.coenergy(k, j) = i * i / 2 * (3 + wave);
                grid.torque(k, j) = -i * i / 2 * p * std::sin(p * grid.angle.back());
            }
        }
        SkewedStack stack;
        stack.rotor = {4 * a, SkewForm::Steps, 2};
        const LinkageGrid skewed = skewed_grid(grid, stack);
        QCOMPARE(skewed.angle.size(), std::size_t(2 * (half - 1)));
        for (std::size_t j = 0; j < skewed.angle.size(); ++j) {
            const double kept = std::cos(p * a), angle = skewed.angle[j];
            CLOSE(skewed.linkage(1, Eigen::Index(j)), 2 * (3 + kept * std::cos(p * angle)), 1e-12);
            CLOSE(skewed.coenergy(0, Eigen::Index(j)), 0.5 * (3 + kept * std::cos(p * angle)), 1e-12);
            CLOSE(skewed.torque(1, Eigen::Index(j)), -2 * p * kept * std::sin(p * angle), 1e-11);
        }
    }
    /// By the map of one phase and on the fields, whose slices share what the bridges drive.
    void strokes_of_packets() {
        if (!by_night()) QSKIP("at night");
        Design design = new_project("salient")->variants.front().design;
        const std::map<std::string, std::string> with{{"map_currents", "8"},
                                                      {"map_positions", "13"},
                                                      {"method", "field"},
                                                      {"field_steps", "36"},
                                                      {"mode", "soft"}};
        const Answer straight = asked(design, "strokes", with);
        design.texts["rotor.skew.angle"] = "12 deg";
        design.texts["rotor.skew.form"] = "steps";
        design.texts["rotor.skew.steps"] = "2";
        const Answer skewed = asked(design, "strokes", with);
        qInfo("on the fields %.4f, by the map %.4f N.m; straight %.4f, %.4f", of(skewed, "torque_mean"),
              of(skewed, "torque_mean_by_map"), of(straight, "torque_mean"),
              of(straight, "torque_mean_by_map"));
        const double apart = of(straight, "torque_mean") / of(straight, "torque_mean_by_map");
        CLOSE(of(skewed, "torque_mean") / of(skewed, "torque_mean_by_map") / apart, 1, 0.02);
        QVERIFY(std::abs(of(skewed, "torque_mean") / of(straight, "torque_mean") - 1) > 0.03);
        QVERIFY(of(skewed, "iron_loss_stator") > 0 && of(skewed, "tooth_force_peak") > 0);
    }
    /// The slices' fields in time with the same currents, against the slices of static ones.
    void fields_in_time_share_the_slices_currents() {
        const Design design = stepped();
        const std::map<std::string, std::string> given{{"current", "30 A"}, {"advance", "30 deg"}};
        std::map<std::string, std::string> in_time = given, static_fields = given;
        in_time.insert({{"supply", "currents"}, {"method", "field"}, {"points", "72"}});
        static_fields.insert({"points", "72"});
        const Answer run = asked(design, "in-time", in_time), load = asked(design, "load", static_fields),
                     straight = asked(bar("0 deg"), "load", static_fields);
        qInfo("torque %.4f in time, %.4f by load, %.4f straight", of(run, "torque_mean"),
              of(load, "torque_mean"), of(straight, "torque_mean"));
        CLOSE(of(run, "torque_mean") / of(load, "torque_mean"), 1, 3e-3);
        CLOSE(of(run, "torque_peak_to_peak") / of(load, "torque_peak_to_peak"), 1, 0.05);
        CLOSE(of(run, "iron_loss_stator") / of(load, "iron_loss_stator"), 1, 0.03);
        QVERIFY(of(straight, "torque_mean") > 1.004 * of(load, "torque_mean"));
    }
    /// Small changes about a skewed working point: differences of the loads beside it.
    void inductances_are_slopes_of_the_skewed_linkages() {
        const Design design = stepped();
        const double current = 30, advance = 30, step = 1;
        const auto load = [&](double d, double q) {
            return asked(design, "load",
                         {{"current", std::to_string(std::hypot(d, q)) + " A"},
                          {"advance", std::to_string(std::atan2(-d, q) * 180 / pi) + " deg"},
                          {"points", "48"}});
        };
        const Dq at = current_vector(current, advance * pi / 180);
        const Answer l =
            asked(design, "inductances", {{"current", "30 A"}, {"advance", "30 deg"}, {"points", "48"}});
        const double by_q = (of(load(at.d, at.q + step), "flux_linkage_q") -
                             of(load(at.d, at.q - step), "flux_linkage_q")) /
                            (2 * step),
                     by_d = (of(load(at.d + step, at.q), "flux_linkage_d") -
                             of(load(at.d - step, at.q), "flux_linkage_d")) /
                            (2 * step);
        CLOSE(of(l, "inductance_q_incremental") / by_q, 1, 0.01);
        CLOSE(of(l, "inductance_d_incremental") / by_d, 1, 0.01);
    }
    /// The slice that is turned furthest sees the most current against its magnets.
    void magnets_of_the_worst_slice_lose_most() {
        const std::map<std::string, std::string> q{{"current", "60 A"}, {"advance", "45 deg"}};
        const Answer straight = asked(bar("0 deg"), "demagnetisation", q),
                     skewed = asked(stepped(), "demagnetisation", q);
        QVERIFY(of(skewed, "flux_density_least") < of(straight, "flux_density_least"));
        QVERIFY(skewed.sentence.find("skew") == std::string::npos);
    }
    void forces_are_the_stack_s() {
        const std::map<std::string, std::string> few{{"points", "48"}, {"time_orders", "8"}};
        const Answer skewed = asked(stepped(), "gap-forces", few),
                     load = asked(stepped(), "load", {{"points", "48"}});
        CLOSE(of(skewed, "torque_mean") / of(load, "torque_mean"), 1, 1e-3);
        QVERIFY(of(skewed, "tooth_force_peak_to_peak") <
                of(asked(bar("0 deg"), "gap-forces", few), "tooth_force_peak_to_peak"));
    }
};
MAVLO_TEST(skew, TestSkew, Nothing)
#include "test_skew.moc"
