// What matters and tolerances: slopes against differences on far finer meshes, spreads against their causes.

#include "night.h"
#include "project/project.h"
#include "question/key_figure_choice.h"
#include "question/question.h"
#include "question/spread.h"
#include "support.h"
#include "test_program.h"

#include <QtTest>
#include <numbers>

using namespace mavlo;

namespace {

Answer answer_to(const char* question, const Design& design, std::map<std::string, std::string> with) {
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    auto answer = ask_question(question, ask);
    if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
    return std::move(*answer);
}

Design small_machine() {
    return design_of({{"stator.slots", "12"}, {"rotor.poles", "10"}, {"gap", "1 mm"}});
}

double slope_in(const Answer& answer, const std::string& figure, const std::string& path) {
    const Curve* curve = answer.curve(figure);
    for (std::size_t k = 0; curve && k < curve->labels.size(); ++k)
        if (curve->labels[k] == path) return curve->y[k];
    return std::nan("");
}

/// A figure of a full question at another value of a dimension.
double figure_at(const char* question, const char* figure, const char* path, double value,
                 std::map<std::string, std::string> with) {
    const Design design = at_value(small_machine(), *find_parameter(path), value);
    Ask ask;
    ask.design = design;
    ask.with = std::move(with);
    ask.quality = std::string_view(question) == "cogging" ? Quality::Fine : Quality::Normal;
    const auto answer = ask_question(question, ask);
    if (!answer) qFatal("%s", to_string(answer.problems().front()).c_str());
    return *answer->figure(figure);
}

} // namespace

class TestChoosing : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void stack_length_is_exact();
    void slopes_of_fine_meshes_data();
    void slopes_of_fine_meshes();
    void largest_first();
    void figures_of_a_whole_question();
    void one_sided_at_a_limit();
    void slopes_in_doubt();
    void mistakes_data();
    void mistakes();
    void spread_follows_the_slope();
    void standard_values_do_not_go_along();
    void causes_of_a_line();
    void limits_are_counted();
    void key_figures_are_the_tell_tales();
};

void TestChoosing::stack_length_is_exact() {
    // Two-dimensional fields: linkage, torque and EMF go with the length.
    const Answer answer = answer_to("what-matters", small_machine(), {{"dimensions", "machine.stack_length"}});
    for (const char* figure : {"torque_mean", "back_emf_line_rms", "cogging_peak_to_peak"}) {
        const Curve* share = answer.curve(std::string(figure) + "_share");
        QVERIFY(share);
        QVERIFY2(std::abs(share->y.front() - 1) < 1e-4, figure);
    }
}

void TestChoosing::slopes_of_fine_meshes_data() {
    QTest::addColumn<QByteArray>("question");
    QTest::addColumn<QByteArray>("figure");
    QTest::addColumn<QByteArray>("path");
    QTest::newRow("EMF over the gap") << QByteArray("no-load") << QByteArray("back_emf_line_rms")
                                      << QByteArray("gap");
    QTest::newRow("torque over the gap")
        << QByteArray("load") << QByteArray("torque_mean") << QByteArray("gap");
    if (!by_night()) return;
    QTest::newRow("cogging over the mouth")
        << QByteArray("cogging") << QByteArray("cogging_peak_to_peak") << QByteArray("stator.slot.opening");
    QTest::newRow("torque over the magnet")
        << QByteArray("load") << QByteArray("torque_mean") << QByteArray("rotor.magnet.thickness");
}

void TestChoosing::slopes_of_fine_meshes() {
    QFETCH(QByteArray, question);
    QFETCH(QByteArray, figure);
    QFETCH(QByteArray, path);
    const Machine machine = machine_of(small_machine());
    const double value = machine.values.number(path.toStdString()), step = 0.03 * value;
    std::map<std::string, std::string> with;
    if (question != "no-load") with["points"] = question == "load" ? "12" : "24";
    const double up = figure_at(question, figure, path, value + step, with),
                 down = figure_at(question, figure, path, value - step, with),
                 wanted = (up - down) / (2 * step);
    const Answer answer = answer_to("what-matters", small_machine(),
                                    {{"dimensions", path.toStdString()}, {"figures", figure.toStdString()}});
    const double got = slope_in(answer, figure.toStdString(), path.toStdString());
    qInfo("%g against %g", got, wanted);
    QVERIFY(std::abs(got - wanted) < 0.1 * std::abs(wanted));
}

void TestChoosing::largest_first() {
    const Answer answer = answer_to("what-matters", small_machine(), {{"figures", "torque_mean"}});
    const Curve *share = answer.curve("torque_mean_share"), *doubt = answer.curve("torque_mean_share_error");
    QVERIFY(share && doubt);
    QVERIFY(share->y.size() >= 6);
    QCOMPARE(share->labels.size(), share->y.size());
    for (std::size_t k = 1; k < share->y.size(); ++k)
        QVERIFY(std::abs(share->y[k]) <= std::abs(share->y[k - 1]) + 1e-12);
    for (double d : doubt->y) QVERIFY(d >= 0);
    QVERIFY(answer.sentence.find("Most moves torque") == 0);
    const auto back = answer_from_json(answer_to_json(answer));
    QVERIFY(bool(back));
    QCOMPARE(back->curve("torque_mean_share")->labels, share->labels);
    QVERIFY(answer_to_csv(answer).find("\nmachine.stack_length,") != std::string::npos);
}

void TestChoosing::figures_of_a_whole_question() {
    if (!by_night()) QSKIP("at night");
    // Fields and EMF go with the length as they do among the key figures; the gap's slope is the full answer's.
    const Answer answer = answer_to("what-matters", small_machine(),
                                    {{"of", "no-load"},
                                     {"figures", "back_emf_phase_fundamental, back_emf_line_rms"},
                                     {"dimensions", "machine.stack_length, gap"}});
    QCOMPARE(answer.figures.size(), std::size_t(4)); // with the two counts of dimensions
    const Curve* share = answer.curve("back_emf_phase_fundamental_share");
    QVERIFY(share);
    QCOMPARE(share->labels.front(), std::string("machine.stack_length"));
    QVERIFY(std::abs(share->y.front() - 1) < 1e-4);
    const double value = machine_of(small_machine()).values.number("gap"), step = 0.03 * value;
    const double up = figure_at("no-load", "back_emf_phase_fundamental", "gap", value + step,
                                {{"points", "48"}}),
                 down = figure_at("no-load", "back_emf_phase_fundamental", "gap", value - step,
                                  {{"points", "48"}});
    const double got = slope_in(answer, "back_emf_phase_fundamental", "gap"), wanted = (up - down) / (2 * step);
    QVERIFY2(std::abs(got - wanted) < 0.03 * std::abs(wanted),
             qPrintable(QStringLiteral("%1 %2").arg(got).arg(wanted)));
    Ask ask;
    ask.design = small_machine();
    ask.with = {{"of", "no-load"}, {"figures", "torque"}, {"dimensions", "gap"}};
    const auto refused = ask_question("what-matters", ask);
    QVERIFY(!refused);
    QVERIFY(refused.problems().front().sentence.find("has no figure \"torque\"; it has: ") !=
            std::string::npos);
}

void TestChoosing::one_sided_at_a_limit() {
    const MachineMaker make = [](const Design& d) -> Result<Machine> {
        auto machine = build_machine(d);
        if (machine && machine->gap < 1e-3 - 1e-12) return Problem{"gap", "Too small."};
        return machine;
    };
    const Design design = small_machine();
    const auto steps = dimension_steps(design, *make(design), make, 0.01, {"gap"});
    const auto same = [] { return Result<MeshSizes>(MeshSizes{{}, 1}); };
    QVERIFY(bool(steps));
    QVERIFY(steps->front().up && !steps->front().down);
    const auto found = sensitivity_of(design, make, *steps, {{}, 1.28}, same, 0, {});
    QVERIFY(bool(found));
    QVERIFY(found->dimensions.front().one_sided);
    const Answer both = answer_to("what-matters", design, {{"dimensions", "gap"}});
    const double one = found->dimensions.front().slopes.at("torque_mean").value,
                 two = slope_in(both, "torque_mean", "gap");
    QVERIFY(std::abs(one - two) < 0.02 * std::abs(two));
}

/// A mesh far too coarse leaves what the tip's depth does to cogging in doubt; it is asked again on a finer one
/// and then is what a fine mesh says, within what is told.
void TestChoosing::slopes_in_doubt() {
    if (!by_night()) QSKIP("at night");
    const MachineMaker make = [](const Design& d) { return build_machine(d); };
    const Design design = small_machine();
    std::vector<std::string> paths{"stator.slot.tip_depth"};
    if (by_night()) paths.emplace_back("gap");
    const auto steps = dimension_steps(design, *make(design), make, 0.01, paths);
    QVERIFY(bool(steps));
    const auto sizing = find_sizing(*make(design), Quality::Normal, promise_of(Quality::Normal), 0, {});
    QVERIFY(bool(sizing));
    int asked = 0;
    const auto slopes = [&](double factor, double finer) {
        const auto better = [&asked, &sizing, finer] {
            ++asked;
            return Result<MeshSizes>(MeshSizes{*sizing, finer});
        };
        return sensitivity_of(design, make, *steps, {*sizing, factor}, better, 0, {});
    };
    const auto coarse = slopes(3, 0.85);
    QCOMPARE(asked, 1);
    const auto fine = by_night() ? slopes(0.6, 0.4) : slopes(0.8, 0.6);
    QVERIFY(coarse && fine);
    for (std::size_t k = 0; k < steps->size(); ++k) {
        const Slope got = coarse->dimensions[k].slopes.at("cogging_peak_to_peak"),
                    wanted = fine->dimensions[k].slopes.at("cogging_peak_to_peak");
        QVERIFY2(std::abs(got.value - wanted.value) < got.error + wanted.error,
                 qPrintable(QStringLiteral("%1 %2 %3").arg(got.value).arg(wanted.value).arg(got.error)));
    }
}

void TestChoosing::mistakes_data() {
    QTest::addColumn<QByteArray>("question");
    QTest::addColumn<QByteArray>("key");
    QTest::addColumn<QByteArray>("text");
    QTest::addColumn<QByteArray>("says");
    QTest::newRow("figure") << QByteArray("what-matters") << QByteArray("figures") << QByteArray("torque")
                            << QByteArray("There is no key figure \"torque\"");
    QTest::newRow("dimension") << QByteArray("what-matters") << QByteArray("dimensions") << QByteArray("gapp")
                               << QByteArray("gapp is no parameter");
    QTest::newRow("question") << QByteArray("what-matters") << QByteArray("of") << QByteArray("tolerances")
                              << QByteArray("There is no question \"tolerances\" with figures of one machine");
    QTest::newRow("no dimension") << QByteArray("what-matters") << QByteArray("dimensions")
                                  << QByteArray("stator.slots") << QByteArray("is no dimension");
    QTest::newRow("spread") << QByteArray("tolerances") << QByteArray("spread") << QByteArray("gap")
                            << QByteArray("is no PATH=HALF-WIDTH");
    QTest::newRow("width") << QByteArray("tolerances") << QByteArray("spread") << QByteArray("gap=3 A")
                           << QByteArray("is no tolerance here");
    QTest::newRow("limit") << QByteArray("tolerances") << QByteArray("limits") << QByteArray("torque_mean 3")
                           << QByteArray("is no limit");
}

void TestChoosing::mistakes() {
    QFETCH(QByteArray, question);
    QFETCH(QByteArray, key);
    QFETCH(QByteArray, text);
    QFETCH(QByteArray, says);
    Ask ask;
    ask.design = small_machine();
    ask.with[key.toStdString()] = text.toStdString();
    const auto answer = ask_question(question.toStdString(), ask);
    QVERIFY(!answer);
    QVERIFY2(answer.problems().front().sentence.find(says.toStdString()) != std::string::npos,
             answer.problems().front().sentence.c_str());
}

void TestChoosing::spread_follows_the_slope() {
    // One narrow tolerance: the deviation is the slope's times the dimension's own.
    const Design design = small_machine();
    const Answer spread = answer_to("tolerances", design, {{"spread", "gap=0.03 mm"}, {"machines", "40"}});
    const Answer slope = answer_to("what-matters", design, {{"dimensions", "gap"}});
    const double wanted = std::abs(slope_in(slope, "back_emf_line_rms", "gap")) * 0.01e-3,
                 got = *spread.figure("back_emf_line_rms_deviation");
    QVERIFY2(std::abs(got - wanted) < 0.05 * wanted, qPrintable(QStringLiteral("%1 %2").arg(got).arg(wanted)));
    QVERIFY(std::abs(spread.curve("back_emf_line_rms_causes")->y.front() - 1) < 0.01);
    QVERIFY(*spread.figure("back_emf_line_rms_low") < *spread.figure("back_emf_line_rms"));
    QVERIFY(*spread.figure("back_emf_line_rms_high") > *spread.figure("back_emf_line_rms"));
}

/// A standard value that hangs on another dimension is a number on the sheet; a formula of the design's own is
/// meant.
void TestChoosing::standard_values_do_not_go_along() {
    const Design free = small_machine();
    const Machine machine = machine_of(free);
    const auto deviation = [&](const Design& design) {
        return *answer_to("tolerances", design,
                          {{"spread", "stator.bore_diameter=0.4 mm"},
                           {"machines", "10"},
                           {"figures", "back_emf_line_rms"}})
                    .figure("back_emf_line_rms_deviation");
    };
    Design numbers = free, meant = free;
    for (const char* path : {"rotor.magnet.thickness", "stator.slot.opening", "stator.slot.tooth_width"}) {
        QVERIFY(free.text(path).starts_with('='));
        numbers = at_value(std::move(numbers), *find_parameter(path, free), machine.values.number(path));
        meant.texts[path] = free.text(path);
    }
    const double wanted = deviation(numbers);
    QVERIFY(wanted > 0);
    QVERIFY2(std::abs(deviation(free) / wanted - 1) < 1e-6,
             qPrintable(QString::number(deviation(free) / wanted)));
    QVERIFY(std::abs(deviation(meant) / wanted - 1) > 0.01);
}

void TestChoosing::causes_of_a_line() {
    std::vector<std::vector<double>> draws;
    std::vector<double> values;
    for (int i = 0; i < 400; ++i) {
        draws.push_back({std::sin(1.0 * i), std::sin(1.7 * i + 1)});
        values.push_back(5 + 2 * draws.back()[0] + draws.back()[1]);
    }
    const auto causes = causes_of(draws, values);
    QVERIFY(std::abs(causes[0] - 0.8) < 0.01);
    QVERIFY(std::abs(causes[1] - 0.2) < 0.01);
}

void TestChoosing::limits_are_counted() {
    // The remanence alone: the EMF is nearly proportional, so half of the machines lie above the nominal value.
    const Design design = small_machine();
    const double nominal = *answer_to("key-figures", design, {}).figure("back_emf_line_rms");
    const Answer answer =
        answer_to("tolerances", design,
                  {{"spread", "remanence=3 %"},
                   {"limits", QStringLiteral("back_emf_line_rms>=%1").arg(nominal, 0, 'g', 12).toStdString()},
                   {"machines", "60"}});
    QVERIFY(std::abs(*answer.figure("share_within_limits") - 0.5) < 0.05);
    QVERIFY(std::abs(*answer.figure("back_emf_line_rms_deviation") / nominal - 0.01) < 0.0015);
}

void TestChoosing::key_figures_are_the_tell_tales() {
    const Machine machine = machine_of(small_machine());
    const auto model = prepare_field(machine, quick_mesh());
    const auto figures = quick_figures(*model, 1, {});
    const Answer answer = answer_to("key-figures", small_machine(), {});
    for (const auto& [name, value] : figures->values) QCOMPARE(answer.figure(name), std::optional(value));
    const double r = machine.section.outer_radius();
    QCOMPARE(*answer.figure("active_volume"), std::numbers::pi * r * r * machine.stack_length);
}

MAVLO_TEST(choosing, TestChoosing, Nothing)
#include "test_choosing.moc"
