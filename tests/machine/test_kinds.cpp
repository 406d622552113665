// A kind is one file: what registers itself is found wherever kinds are listed.

#include "machine/slots/slot_form.h"
#include "machine/tile_kind.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

Result<SlotContour> square(const TileFrame& frame, const SlotValues& v) {
    const double half = v.number("opening") / 2, depth = v.number("side");
    SlotContour out;
    const double angle = std::asin(half / frame.gap_radius);
    out.steps = {{polar(frame.gap_radius, angle)}, {frame.at(depth, half)}, {frame.at(depth, 0)}};
    out.cut_step = 1;
    out.cuts = {frame.at(depth / 2, half)};
    out.hints = {{out.steps.front().to, half}};
    return out;
}

const RegisterSlot test_slot{
    "test-square",
    "An open rectangle, for a test.",
    parameter::in_group(
        "Stator", "Slots", 101,
        {parameter::length("stator.slot.opening", "4 mm", "Width", "b", "Width of the open slot.", 0.1, 100),
         parameter::length("stator.slot.side", "12 mm", "Side", "a", "Depth of the open slot.", 0.1, 100),
         parameter::length("stator.slot.liner", "0 mm", "Liner", "s", "Thickness of the liner.", 0, 1)}),
    square,
    [](const TileFrame&, const SlotValues&) { return std::vector<DimensionMark>{}; },
    50};

const RegisterQuestion test_question{{"test-answer",
                                      "No current",
                                      "A test's answer",
                                      "Says what a test wants to hear.",
                                      {},
                                      [](const Machine&, const Inputs&) { return 0; },
                                      [](QuestionContext& c) -> Problems {
                                          c.answer.figures = {{"poles", double(c.machine.poles), "1"}};
                                          return {};
                                      },
                                      99,
                                      {}}};

} // namespace

class TestKinds : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_slot_of_ones_own_is_found_and_works() {
        const auto names = find_parameter("stator.slot.kind")->choices();
        QVERIFY(std::find(names.begin(), names.end(), "test-square") != names.end());
        const Parameter* side =
            find_parameter("stator.slot.side"); // what sheet, terminal and documents are made of
        QVERIFY(side && side->page == "Stator" && side->group == "Slots");
        const Design d = design_of({{"stator.slot.kind", "test-square"}, {"stator.slot.side", "10 mm"}});
        QVERIFY(is_used(d, "stator.slot.side") && !is_used(d, "stator.slot.tooth_width"));
        QVERIFY(!is_used(Design{}, "stator.slot.side"));
        const Machine m = machine_of(d);
        CLOSE(m.winding.slot_area, 4e-3 * 10e-3, 1e-6);
        Ask ask;
        ask.design = d;
        ask.quality = Quality::Draft;
        QVERIFY(bool(ask_question("cogging", ask)));
    }
    void a_question_of_ones_own_is_asked() {
        const auto& all = question_kinds();
        QVERIFY(
            std::any_of(all.begin(), all.end(), [](const QuestionKind& k) { return k.name == "test-answer"; }));
        const auto answer = ask_question("test-answer", {});
        QVERIFY(bool(answer));
        CLOSE(*answer->figure("poles"), 10, 0);
    }
    void a_misspelt_path_fails_loudly() {
        const Values v = *resolve(Design{});
        QVERIFY_EXCEPTION_THROWN((void)v.number("stator.slot.dept"), std::logic_error);
        QVERIFY_EXCEPTION_THROWN((void)v.number("rotor.pocket.angle"),
                                 std::logic_error); // not used by this rotor
        QVERIFY_EXCEPTION_THROWN((void)v.word("stator.slot.knd"), std::logic_error);
    }
    void formulas_may_name_what_follows() {
        const Values v = *resolve(design_of({{"gap", "= 0.02 * gap_diameter"}, {"rating.speed", "100 rpm"}}));
        CLOSE(v.number("gap"), 0.02 * 54e-3, 1e-12);
        const Values outer =
            *resolve(design_of({{"machine.topology", "outer-rotor"}, {"gap", "= 0.01 * gap_diameter"}}));
        CLOSE(outer.number("gap"), 0.01 * 100e-3, 1e-12);
    }
    void names_are_unique_and_sorted() {
        const auto names = kind_names(Side::Rotor);
        QVERIFY(names.size() >= 9 && kind_names(Side::Stator).size() >= 5);
        QCOMPARE(names.front(), std::string("surface"));
    }
    void needs_say_what_is_missing() {
        Ask ask;
        ask.design.texts["rotor.kind"] = "salient";
        const auto cogging = ask_question("cogging", ask);
        QVERIFY(!cogging && cogging.problems().front().path == "rotor.kind");
        ask.design.texts = {{"stator.slot.kind", "none"}};
        ask.quality = Quality::Draft;
        const auto idle = ask_question("no-load", ask);
        QVERIFY(bool(idle));
        QVERIFY(!idle->figure("flux_linkage_peak") && idle->curve("gap_flux_density_radial"));
    }
};
MAVLO_TEST(kinds, TestKinds, Nothing)
#include "test_kinds.moc"
