// Slots that are off each by itself: what all of them together do is what one dimension of the machine does.

#include "figure/spectrum.h"
#include "night.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "question/asked.h"
#include "support.h"
#include "test_program.h"

#include <numeric>

using namespace mavlo;

namespace {

Design machine() {
    Design design = new_project("surface")->variants.front().design;
    design.texts["stator.slot.opening"] = "3 mm";
    return design;
}

const std::map<std::string, std::string> some{{"points", "16"}, {"machines", "200"}};

const Answer& scattered() {
    static const Answer answer = asked(machine(), "stator-scatter", some);
    return answer;
}

/// What every slot off alike does, of what the first one does: slot k sees the rotor k pitches before.
std::vector<double> of_all_slots(const std::vector<double>& first, int slots, int tiles) {
    const int n = int(first.size()), step = n * tiles / slots;
    std::vector<double> sum(first.size(), 0.0);
    for (int k = 0; k < slots; ++k)
        for (int i = 0; i < n; ++i) sum[std::size_t(i)] += first[std::size_t(((i - k * step) % n + n) % n)];
    return sum;
}

double largest(const std::vector<double>& values) {
    double most = 0;
    for (double v : values) most = std::max(most, std::abs(v));
    return most;
}

} // namespace

class TestStatorScatter : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    /// All slots moved along the gap turn the stator: the torque is that of the rotor turned back. A mouth's
    /// edges go with its middle by (1 - s^2)^2, s their share of half a pitch.
    void all_slots_moved_alike_turn_the_stator() {
        const Machine m = machine_of(machine());
        const std::vector<double>& torque = scattered().curve("torque")->y;
        const std::vector<double> moved = of_all_slots(scattered().curve("influence_of_10_um_place")->y,
                                                       m.slots, m.poles),
                                  slope = derivative(torque, 2 * pi / m.poles);
        const double edge = 1.5e-3 / m.stator_radius() / (pi / m.slots), goes = std::pow(1 - edge * edge, 2);
        std::vector<double> wanted = slope;
        for (double& t : wanted) t *= -goes * 1e-5 / m.stator_radius();
        qInfo("largest %.4g, wanted %.4g", largest(moved), largest(wanted));
        CLOSE(relative_difference(moved, wanted), 0, 0.1);
    }
    /// All mouths wider alike: the slope of the cogging over the opening, from machines of other openings.
    void all_mouths_wider_alike_are_another_opening() {
        const Machine m = machine_of(machine());
        const auto torque_at = [&](const char* opening) {
            Design design = machine();
            design.texts["stator.slot.opening"] = opening;
            return asked(design, "cogging", {{"points", "16"}}, Quality::Normal).curve("torque")->y;
        };
        const std::vector<double> less = torque_at("2.9 mm"), more = torque_at("3.1 mm"),
                                  all = of_all_slots(scattered().curve("influence_of_10_um_mouth")->y, m.slots,
                                                     m.poles);
        std::vector<double> wanted, first(all.begin(), all.begin() + 16);
        for (std::size_t i = 0; i < less.size(); ++i) wanted.push_back((more[i] - less[i]) / 0.2e-3 * 1e-5);
        qInfo("largest %.4g, wanted %.4g", largest(first), largest(wanted));
        CLOSE(relative_difference(first, wanted), 0, 0.2); // 6 % on a normal mesh
    }
    void slots_that_differ_cog_more_than_slots_alike() {
        const Answer& a = scattered();
        QVERIFY(of(a, "cogging_scattered_high") > of(a, "cogging_scattered_median"));
        QVERIFY(of(a, "cogging_scattered_high") > of(a, "cogging_peak_to_peak"));
        // A slot that is off alone cogs as often as poles pass it, which slots alike do not.
        const Curve &alike = *a.curve("torque_spectrum"), &off = *a.curve("torque_scattered_spectrum");
        QVERIFY(off.y.front() > 20 * alike.y.front());
        CLOSE(off.x.front(), machine_of(machine()).poles, 0);
    }
    /// Where the machine repeats six times, a bore with two waves changes nothing that is straight in it.
    void an_oval_bore_shows_where_the_machine_repeats_twice_at_most() {
        if (!by_night()) QSKIP("at night");
        std::map<std::string, std::string> oval{{"opening", "0 mm"}, {"place", "0 mm"}, {"oval", "0.1 mm"}};
        oval.insert({"machines", "50"});
        oval.insert({"points", "4"});
        const Answer twice = asked(machine(), "stator-scatter", oval),
                     six = asked(new_project("bar")->variants.front().design, "stator-scatter", oval);
        QVERIFY(of(twice, "cogging_by_oval_bore") > 1.05 * of(twice, "cogging_peak_to_peak"));
        CLOSE(of(six, "cogging_by_oval_bore") / of(six, "cogging_peak_to_peak"), 1, 0.02);
    }
    void what_cannot_be_is_said() {
        Ask ask;
        ask.design = machine();
        ask.quality = Quality::Draft;
        ask.with = {{"opening", "0 mm"}, {"place", "0 mm"}, {"oval", "0 mm"}};
        auto answer = ask_question("stator-scatter", ask);
        QVERIFY(!answer && answer.problems().front().path == "--with opening");
        ask.with = {{"oval", "50 mm"}};
        answer = ask_question("stator-scatter", ask);
        QVERIFY(!answer && answer.problems().front().path == "--with oval");
    }
};
MAVLO_TEST(stator_scatter, TestStatorScatter, EventLoop)
#include "test_stator_scatter.moc"
