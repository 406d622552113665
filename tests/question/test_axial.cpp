// Axial machines as flat slices: against series, their rotary twins, virtual work, and questions of all kinds.

#include "asked.h"
#include "figure/axial_curvature.h"
#include "figure/gap_stress.h"
#include "figure/machine_model.h"
#include "machine/axial.h"
#include "night.h"
#include "support.h"
#include "test_program.h"

#include <numbers>
#include <random>

using namespace mavlo;

namespace {

constexpr double pi = std::numbers::pi;

std::string mm(double metres) {
    return QString::number(metres * 1e3, 'g', 12).toStdString() + " mm";
}
std::string degrees(double radians) {
    return QString::number(radians * 180 / pi, 'g', 12).toStdString() + " deg";
}
std::string plain(double value) {
    return QString::number(value, 'g', 12).toStdString();
}

void take_magnets(Design& design, const nlohmann::json& inputs) {
    const auto& magnet = inputs["magnet"];
    auto& t = design.texts;
    const std::string mu = plain(magnet["mu_r"]);
    t["rotor.magnet.grade"] = "magnet(" + plain(magnet["Br"]) + " T, " + mu + ")";
    t["rotor.magnet.between"] = "linear(" + mu + ")";
    t["rotor.magnet.thickness"] = mm(magnet["thickness"]);
    t["rotor.magnet.magnetisation"] = "parallel";
    const std::string shape = magnet["shape"];
    t["rotor.magnet.outline"] = shape;
    if (shape == "sector")
        t["rotor.magnet.arc"] = plain(double(magnet["arc_angle"]) * double(inputs["p"]) / pi);
    if (shape == "rectangle") t["rotor.magnet.width"] = mm(magnet["width"]);
    if (shape == "round") t["rotor.magnet.diameter"] = mm(magnet["diameter"]);
}

/// Sheets of coil are made as thin and narrow as matters no more.
void take_coils(Design& design, const nlohmann::json& inputs) {
    const auto& coil = inputs["coil"];
    auto& t = design.texts;
    const double given = coil["axial_thickness"], thickness = given > 0 ? given : 2e-4, gap = inputs["gap"];
    const bool coreless = inputs["config"] == "two_rotors_coreless";
    t["gap"] = mm(coreless ? (gap - thickness) / 2 : gap - thickness);
    t["stator.slot.kind"] = "gap-winding";
    t["winding.side_thickness"] = mm(thickness);
    t["winding.turns"] = plain(coil["turns"]);
    t["winding.layers"] = "2";
    if (coil.contains("side_width"))
        t["winding.side_width"] = mm(coil["side_width"]);
    else
        t["winding.side_angle"] = double(coil["side_angle"]) > 0 ? degrees(coil["side_angle"]) : "0.4 deg";
    const int coils = inputs["coils"];
    const double pitch = 2 * pi / coils, span = coil["span"];
    t["stator.slots"] = plain(coils);
    t["winding.span"] = plain(std::max(1.0, std::round(span / pitch)));
    if (span > pitch * (1 - 1e-6))
        t["winding.sharing"] = "stacked";
    else
        t["winding.coil_span"] = degrees(span);
}

Design reference_design(const nlohmann::json& inputs) {
    Design design = design_of({{"rotor.steel", "linear(inf)"},
                               {"stator.steel", "linear(inf)"},
                               {"rotor.stacking_factor", "1"},
                               {"stator.stacking_factor", "1"},
                               {"machine.inner_diameter", mm(2 * double(inputs["R_coil_in"]))},
                               {"machine.outer_diameter", mm(2 * double(inputs["R_coil_out"]))},
                               {"rotor.poles", plain(2 * int(inputs["p"]))},
                               {"rating.speed", plain(inputs["speed_rpm"]) + " rpm"},
                               {"rating.current", plain(inputs["current_peak"]) + " A"},
                               {"rating.advance", "0 deg"}});
    const std::string config = inputs["config"];
    auto& t = design.texts;
    t["machine.topology"] = config == "single"        ? "axial-one-rotor"
                            : config == "two_stators" ? "axial-two-stators"
                                                      : "axial-two-rotors";
    if (config == "two_rotors_coreless") t["stator.core"] = "none";
    if (config == "two_rotors_yokeless") t["stator.core"] = "teeth";
    take_magnets(design, inputs);
    take_coils(design, inputs);
    return design;
}

Design disc(std::initializer_list<std::pair<const char*, std::string>> more) {
    Design design = design_of({{"machine.topology", "axial-one-rotor"}, {"stator.slot.kind", "parallel-slot"}});
    for (const auto& [path, text] : more) design.texts[path] = text;
    return design;
}

} // namespace

class TestAxial : public QObject {
    Q_OBJECT

    static void each_reference() {
        QTest::addColumn<int>("index");
        const auto data = reference("axial_slices.json");
        // By day one with sectors and one with rounds.
        for (int k = 0; k < int(data["cases"].size()); ++k)
            if (by_night() || k == 0 || k == 4)
                QTest::newRow(data["cases"][std::size_t(k)]["inputs"]["name"].get<std::string>().c_str()) << k;
    }
    static nlohmann::json this_reference() {
        QFETCH(int, index);
        return reference("axial_slices.json")["cases"][std::size_t(index)];
    }

  private Q_SLOTS:
    void chosen_slices_agree_with_the_series_data() { each_reference(); }
    void chosen_slices_agree_with_the_series() {
        const auto c = this_reference();
        const Design design = reference_design(c["inputs"]);
        const Answer idle = asked(design, "no-load", {{"points", "48"}}, Quality::Normal),
                     loaded = asked(design, "load", {{"points", "48"}}, Quality::Normal);
        qInfo("linkage %.2e, EMF %.2e, torque %.2e off",
              of(idle, "flux_linkage_peak") / double(c["many"]["flux_linkage"]) - 1,
              of(idle, "back_emf_phase_rms") / double(c["many"]["emf_rms"]) - 1,
              of(loaded, "torque_mean") / double(c["many"]["torque_mean"]) - 1);
        CLOSE(of(idle, "flux_linkage_peak"), double(c["many"]["flux_linkage"]),
              1e-3 * double(c["many"]["flux_linkage"]));
        CLOSE(of(idle, "back_emf_phase_rms"), double(c["many"]["emf_rms"]),
              1e-3 * double(c["many"]["emf_rms"]));
        CLOSE(of(loaded, "torque_mean"), double(c["many"]["torque_mean"]),
              1e-3 * double(c["many"]["torque_mean"]));
    }
    void even_rings_agree_with_the_series_data() {
        QTest::addColumn<int>("index");
        QTest::addColumn<QString>("rings");
        if (by_night()) QTest::newRow("sectors, one ring") << 0 << "1";
        QTest::newRow("sectors, three rings") << 0 << "3";
        QTest::newRow("rounds, five rings") << 4 << "5";
    }
    void even_rings_agree_with_the_series() {
        QFETCH(QString, rings);
        const auto c = this_reference();
        const auto& wanted = c["rings"][rings.toStdString()];
        Design design = reference_design(c["inputs"]);
        design.texts["machine.slice_places"] = "even";
        design.texts["machine.slices"] = rings.toStdString();
        const Answer idle = asked(design, "no-load", {{"points", "48"}}, Quality::Fine),
                     loaded = asked(design, "load", {{"points", "48"}}, Quality::Fine);
        CLOSE(of(idle, "flux_linkage_peak"), double(wanted["flux_linkage"]),
              1e-4 * double(wanted["flux_linkage"]));
        CLOSE(of(idle, "back_emf_phase_rms"), double(wanted["emf_rms"]), 1e-4 * double(wanted["emf_rms"]));
        CLOSE(of(loaded, "torque_mean"), double(wanted["torque_mean"]), 1e-4 * double(wanted["torque_mean"]));
    }
    void what_slices_leave_out_agrees_with_the_field_in_space_data() { each_reference(); }
    void what_slices_leave_out_agrees_with_the_field_in_space() {
        const auto c = this_reference();
        const Machine machine = machine_of(reference_design(c["inputs"]));
        for (const int order : {1, 3}) {
            const double wanted = c["ratio_3d"][std::to_string(order)],
                         found = linkage_in_three_dimensions(machine, order).value_or(0);
            qInfo("order %d: %.5f, wanted %.5f", order, found, wanted);
            CLOSE(found, wanted, 2e-3 * std::abs(wanted));
        }
    }

    /// Where the circumference is long against gap and magnets the round machine is the flat one.
    void a_disc_is_its_rotary_twin_of_large_radius() {
        constexpr double radius = 2, length = 0.04;
        const auto common = [&](Design& d) {
            for (const auto& [path, text] : std::initializer_list<std::pair<const char*, std::string>>{
                     {"stator.slots", "300"},
                     {"rotor.poles", "400"},
                     {"gap", "1 mm"},
                     {"stator.slot.kind", "parallel-slot"},
                     {"stator.slot.width", "18 mm"},
                     {"stator.slot.opening", "4 mm"},
                     {"stator.slot.depth", "20 mm"},
                     {"stator.slot.tip_depth", "2 mm"},
                     {"stator.slot.tip_angle", "0 deg"},
                     {"stator.slot.corner_radius", "0 mm"},
                     {"stator.slot.bottom", "flat"},
                     {"rotor.magnet.thickness", "5 mm"},
                     {"rotor.magnet.magnetisation", "parallel"},
                     {"rotor.magnet.arc", "0.8"},
                     {"rating.speed", "20 rpm"},
                     {"rating.current", "60 A"}})
                d.texts[path] = text;
        };
        Design round = design_of({{"machine.stack_length", mm(length)},
                                  {"stator.bore_diameter", mm(2 * (radius + 0.5e-3))},
                                  {"stator.outer_diameter", mm(2 * (radius + 0.5e-3 + 0.04))},
                                  {"stator.outer_boundary", "closed"},
                                  {"rotor.shaft_diameter", mm(2 * (radius - 0.5e-3 - 0.005 - 0.02))}});
        Design flat = disc({{"machine.inner_diameter", mm(2 * (radius - length / 2))},
                            {"machine.outer_diameter", mm(2 * (radius + length / 2))},
                            {"machine.slices", "1"},
                            {"stator.thickness", "40 mm"},
                            {"rotor.back_iron", "20 mm"}});
        common(round);
        common(flat);
        const std::map<std::string, std::string> with{{"points", "48"}};
        const Answer a = asked(round, "load", with, Quality::Normal),
                     b = asked(flat, "load", with, Quality::Normal);
        for (const char* figure : {"torque_mean", "flux_linkage_d", "flux_linkage_q"}) {
            qInfo("%s: %.6g round, %.6g flat", figure, of(a, figure), of(b, figure));
            CLOSE(of(b, figure), of(a, figure), 2e-3 * std::abs(of(a, figure)));
        }
        for (const char* figure : {"iron_loss_stator", "magnet_loss"}) {
            qInfo("%s: %.6g round, %.6g flat", figure, of(a, figure), of(b, figure));
            QVERIFY(of(a, figure) > 0);
            CLOSE(of(b, figure), of(a, figure), 1e-2 * of(a, figure));
        }
    }

    void torque_is_virtual_work_over_all_slices() {
        const Answer answer = asked(disc({{"rotor.magnet.outline", "rectangle"}}), "torque-check",
                                    {{"current", "15 A"}, {"angle", "3 deg"}}, Quality::Normal);
        QVERIFY(std::abs(of(answer, "torque_gap_field")) > 0.1);
        CLOSE(of(answer, "torque_virtual_work"), of(answer, "torque_gap_field"),
              1e-5 * std::abs(of(answer, "torque_gap_field")));
    }

    /// Without current the pull is what the field's coenergy loses as the gap opens.
    void the_pull_along_the_shaft_is_the_slope_of_the_coenergy() {
        const auto model_with = [](double gap) {
            auto model =
                prepare_field(machine_of(disc({{"gap", mm(gap)}, {"machine.slices", "2"}})), {Quality::Fine});
            if (!model) qFatal("no model");
            return *model;
        };
        const double gap = 1e-3, step = 1e-5;
        const auto coenergy = [&](double g) {
            const auto field = FieldSolver(model_with(g)).solve(0.05, {0, 0, 0});
            return field ? field->coenergy : std::nan("");
        };
        const auto model = model_with(gap);
        const auto field = FieldSolver(model).solve(0.05, {0, 0, 0});
        QVERIFY(bool(field));
        const double slope = (coenergy(gap - step) - coenergy(gap + step)) / (2 * step),
                     pull = axial_pull(*model, *field);
        qInfo("pull %.6g N, slope of the coenergy %.6g N", pull, slope);
        QVERIFY(pull > 10);
        CLOSE(pull, slope, 2e-4 * pull);
    }
    void the_pull_and_its_stiffness_are_told() {
        const Answer answer = asked(disc({{"machine.slices", "1"}}), "axial-pull", {{"points", "8"}});
        QVERIFY(of(answer, "axial_pull_mean") > 10);
        QVERIFY(of(answer, "axial_pull_peak") >= of(answer, "axial_pull_mean"));
        QVERIFY(of(answer, "axial_stiffness") < 0); // it falls as the gap opens
        QVERIFY(!answer.figure("axial_stiffness_of_middle").has_value());
        QVERIFY(refused(design_of({}), "axial-pull", {}).find("axial and linear") != std::string::npos);
    }

    /// Two stators in series on magnets alone: each half is one stator before a mirror.
    void two_stators_link_twice_what_one_does_before_thick_magnets() {
        const auto common = std::map<std::string, std::string>{{"points", "24"}};
        Design two = disc({{"machine.topology", "axial-two-stators"},
                           {"rotor.core", "iron"},
                           {"rotor.steel", "linear(inf)"},
                           {"rotor.back_iron", "30 mm"},
                           {"machine.slices", "1"}}),
               one = disc(
                   {{"rotor.steel", "linear(inf)"}, {"rotor.back_iron", "15 mm"}, {"machine.slices", "1"}});
        const Answer a = asked(two, "load", common), b = asked(one, "load", common);
        CLOSE(of(a, "torque_mean"), 2 * of(b, "torque_mean"), 2e-3 * std::abs(of(a, "torque_mean")));
        CLOSE(of(a, "phase_resistance"), 2 * of(b, "phase_resistance"), 1e-9);
        CLOSE(of(a, "iron_loss_stator"), 2 * of(b, "iron_loss_stator"), 2e-2 * of(a, "iron_loss_stator"));
    }

    /// The smallest sector tells what the whole machine does, for each slice alike.
    void a_sector_is_as_good_as_the_whole() {
        const Design design = disc({{"rotor.magnet.outline", "round"}, {"machine.slices", "2"}});
        const auto solved = [&](bool whole) {
            const auto model = prepare_field(machine_of(design, {whole}), {Quality::Draft});
            const auto field = FieldSolver(*model).solve(0.03, {12, -4, -8});
            return std::pair(field->torque, field->flux_linkage);
        };
        const auto part = solved(false), whole = solved(true);
        CLOSE(part.first, whole.first, 1e-6 * std::abs(whole.first));
        QVERIFY(relative_difference(part.second, whole.second) < 1e-6);
    }

    void questions_of_all_kinds_are_answered_data() {
        QTest::addColumn<QString>("question");
        for (const char* question :
             {"cogging", "inductances", "demagnetisation", "short-circuit", "working-point"})
            if (by_night() || std::string_view(question).ends_with("ation") || question[0] == 'c')
                QTest::newRow(question) << question;
    }
    void questions_of_all_kinds_are_answered() {
        QFETCH(QString, question);
        std::map<std::string, std::string> with;
        if (question == QStringLiteral("working-point")) with["torque"] = "1 N.m";
        const Answer answer = asked(disc({{"machine.slices", "2"}, {"rotor.magnet.outline", "rectangle"}}),
                                    question.toStdString(), with);
        int known = 0;
        for (const Figure& figure : answer.figures)
            known += figure.value.has_value() && std::isfinite(*figure.value);
        QVERIFY2(known >= 2, qPrintable(question));
        QVERIFY(answer.sentence.find("flat slices") != std::string::npos);
    }
    void what_is_not_computed_yet_is_said() {
        for (const char* question : {"heat", "heat-up", "continuous-torque", "eccentricity", "gap-forces"})
            QVERIFY2(refused(disc({}), question, {}).find("axial") != std::string::npos, question);
    }

    void what_cannot_be_is_said_data() {
        QTest::addColumn<QString>("path");
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("where");
        QTest::newRow("no ring") << "machine.inner_diameter"
                                 << "130 mm"
                                 << "machine.outer_diameter";
        QTest::newRow("magnets overlap") << "rotor.magnet.width"
                                         << "60 mm"
                                         << "rotor.magnet.width";
        QTest::newRow("slots overlap") << "stator.slot.width"
                                       << "40 mm"
                                       << "stator.slot.width";
        QTest::newRow("round kind") << "rotor.kind"
                                    << "spoke"
                                    << "rotor.kind";
        QTest::newRow("coils outside") << "winding.coil_outer_diameter"
                                       << "200 mm"
                                       << "winding.coil_outer_diameter";
        QTest::newRow("rings not counted") << "machine.slice_places"
                                           << "even"
                                           << "machine.slices";
    }
    void what_cannot_be_is_said() {
        QFETCH(QString, path);
        QFETCH(QString, text);
        QFETCH(QString, where);
        Design design = disc({{"rotor.magnet.outline", "rectangle"}});
        design.texts[path.toStdString()] = text.toStdString();
        const auto machine = build_machine(design);
        QVERIFY(!machine);
        QVERIFY2(!sentence_at(machine.problems(), where.toStdString()).empty(),
                 to_string(machine.problems().front()).c_str());
    }

    void random_discs_are_solved_or_refused() {
        std::mt19937 random(7);
        const auto between = [&](double low, double high) {
            return low + (high - low) * double(random()) / double(std::mt19937::max());
        };
        const auto one_of = [&](std::initializer_list<const char*> words) {
            return std::string(*(words.begin() + random() % words.size()));
        };
        int solved = 0;
        const int count = qEnvironmentVariableIntValue("MAVLO_NIGHTLY") ? 1000 : 24;
        for (int k = 0; k < count; ++k) {
            const double outer = between(0.03, 0.4);
            const Design design =
                disc({{"machine.topology",
                       one_of({"axial-one-rotor", "axial-two-rotors", "axial-two-stators", "linear"})},
                      {"machine.sides", one_of({"one", "two-primaries", "two-secondaries"})},
                      {"machine.pole_pitch", mm(between(0.004, 0.1))},
                      {"gap.second", one_of({"auto", "auto", "0.7 mm", "3 mm"})},
                      {"machine.outer_diameter", mm(outer)},
                      {"machine.inner_diameter", mm(outer * between(0.2, 0.95))},
                      {"gap", mm(between(0.2e-3, 5e-3))},
                      {"stator.slots", std::to_string(3 * (1 + random() % 12))},
                      {"rotor.poles", std::to_string(2 * (1 + random() % 12))},
                      {"stator.slot.kind",
                       one_of({"parallel-slot", "radial", "gap-winding", "between-teeth", "none"})},
                      {"stator.core", one_of({"teeth", "yoke", "none"})},
                      {"rotor.core", one_of({"none", "iron"})},
                      {"rotor.magnet.outline", one_of({"sector", "rectangle", "round"})},
                      {"rotor.magnet.arc", plain(between(0.05, 1))},
                      {"rotor.magnet.pieces", std::to_string(1 + random() % 3)}});
            const auto machine = build_machine(design);
            if (!machine) {
                QVERIFY(!machine.problems().front().sentence.empty());
                continue;
            }
            const auto model = prepare_field(*machine, {Quality::Draft});
            if (!model) {
                QVERIFY2(model.problems().front().sentence.empty(),
                         to_string(model.problems().front()).c_str());
                continue;
            }
            const auto field =
                FieldSolver(*model).solve(0.1, PortValues(std::size_t(machine->winding.phases), 3.0));
            QVERIFY2(bool(field), "no field");
            QVERIFY(std::isfinite(field->torque) && field->energy > 0);
            ++solved;
        }
        qInfo("%d of %d solved", solved, count);
        QVERIFY(solved > count / 6);
    }
};
MAVLO_TEST(axial, TestAxial, Nothing)
#include "test_axial.moc"
