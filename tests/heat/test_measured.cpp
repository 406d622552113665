// Resistances that were measured take the place of computed ones: the same value changes nothing, another one
// lets through what it says.

#include "heat/film.h"
#include "heat/long_section.h"
#include "heat/machine_heat.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

using Texts = std::initializer_list<std::pair<const char*, std::string>>;

struct Built {
    std::shared_ptr<const MachineModel> model;
    CoolingData cooling;
    std::unique_ptr<MachineHeatModel> heat() const {
        auto made = MachineHeatModel::of(model, cooling, 150);
        if (!made) qFatal("%s", to_string(made.problems().front()).c_str());
        return std::move(*made);
    }
};

Built built(const Texts& texts) {
    Design design = design_of({{"stator.slot.liner", "0.25 mm"}});
    for (const auto& [path, text] : texts) design.texts[path] = text;
    const auto machine = build_machine(design, {});
    if (!machine) qFatal("%s", to_string(machine.problems().front()).c_str());
    auto model = prepare_field(*machine, {Quality::Draft});
    if (!model) qFatal("%s", to_string(model.problems().front()).c_str());
    auto cooling = cooling_of(*machine, {});
    if (!cooling) qFatal("%s", to_string(cooling.problems().front()).c_str());
    return {*model, *cooling};
}

HeatLosses losses() {
    HeatLosses out;
    out.slots = 60;
    out.ends = 30;
    out.watts = {{LossPart::IronStator, 20}, {LossPart::IronRotor, 4}, {LossPart::Bearings, 2}};
    return out;
}

/// W/K of all terms of this name from one side to the other; 0: there is none.
double conductance(MachineHeatModel& model, const std::string& term) {
    double sum = 0;
    for (const auto& t : model.system().terms())
        if (t.name == term) sum += t.coefficient * t.extent;
    return sum;
}

const char* const ways[] = {
    "stack to housing",          "winding to stack",          "winding along the copper",
    "end windings to inner air", "end windings to housing",   "stator's ends to inner air",
    "magnets to rotor",          "rotor's ends to inner air", "rotor to shaft",
    "shaft to bearings",         "bearings to end shields",   "housing to end shields",
    "inner air to housing",      "inner air to end shields",  "housing to coolant",
    "end shields to ambient"};

} // namespace

class TestMeasured : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void the_same_value_changes_nothing_data() {
        QTest::addColumn<QString>("way");
        for (const char* way : ways) QTest::newRow(way) << way;
    }
    void the_same_value_changes_nothing() {
        QFETCH(QString, way);
        static const Built machine = built({{"housing.kind", "jacket"},
                                            {"cooling.kind", "flow"},
                                            {"thermal.end_filling", "potting compound"}});
        const std::string name = way.toStdString();
        const auto model = machine.heat();
        const auto computed = model->steady(losses());
        QVERIFY(bool(computed));
        const double own = conductance(*model, name);
        QVERIFY(own > 0);

        Built with = machine;
        with.cooling.measured[name] = 1 / own;
        const auto same = with.heat()->steady(losses());
        for (const auto& [part, kelvin] : computed->mean) CLOSE(same->mean.at(part), kelvin, 1e-3);

        // A way that is all but closed carries what its difference of temperatures says.
        with.cooling.measured[name] = 1e5;
        const auto closed = with.heat();
        const auto hot = closed->steady(losses());
        const auto flows = closed->ways(*hot);
        for (const HeatWay& w : *flows)
            if (w.name == name) QVERIFY2(w.flow < 0.05, qPrintable(QString::number(w.flow)));
        CLOSE(conductance(*closed, name), 1e-5, 1e-12);
    }
    void a_cage_has_its_own() {
        const Built machine = built({{"stator.slots", "36"},
                                     {"rotor.kind", "cage"},
                                     {"rotor.poles", "4"},
                                     {"rotor.bars", "28"},
                                     {"gap", "0.3 mm"},
                                     {"thermal.cage_to_rotor", "0.5 K/W"},
                                     {"thermal.cage_to_air", "3 K/W"}});
        const auto model = machine.heat();
        QVERIFY(bool(model->steady(losses())));
        CLOSE(conductance(*model, "cage to rotor"), 2, 1e-12);
        CLOSE(conductance(*model, "cage's ends to inner air"), 1 / 3.0, 1e-12);
        QVERIFY(!model->has(HeatPart::Magnets));
        CLOSE(conductance(*model, "magnets to rotor"), 0, 0);
    }
    /// Two thirds of the way from the middle of the stack to its end lie in sheets that conduct badly across.
    void faces_of_a_stack() {
        const Built machine = built({{"machine.stack_length", "60 mm"}});
        const auto model = machine.heat();
        double area = 0;
        for (int group : {0, 1}) area += 2 * model->stator().volume(group) / 0.06;
        const Substance& steel = *machine.model->machine.substance("stator.steel");
        const double film = stirred_air(150 * machine.model->machine.rotor_radius()),
                     across = steel.material.stack_conductivity(steel.stacking);
        QVERIFY(across < 0.3 * steel.material.thermal_conductivity);
        CLOSE(conductance(*model, "stator's ends to inner air") / (area / (1 / film + 0.06 / 6 / across)), 1,
              1e-9);
    }
    /// The shaft's end cools as a pin in the literature: an infinite one by sqrt(h P k A).
    void a_shafts_end() {
        const double r = 0.01, k = 52, ambient = 313.15;
        const double one = turning_pin(r, 0.05, k, 150, ambient), two = turning_pin(r, 0.1, k, 150, ambient),
                     endless = turning_pin(r, 5, k, 150, ambient);
        QVERIFY(one < two && two < endless);
        // tanh m(L + r/2) from the three: m by one, the other two must follow.
        const double m = std::atanh(one / endless) / (0.05 + r / 2);
        CLOSE(two / endless, std::tanh(m * (0.1 + r / 2)), 1e-9);
        CLOSE(endless / (m * k * pi * r * r), 1, 1e-6);
        const auto cooler = built({{"shaft.free_length", "60 mm"}}).heat()->steady(losses()),
                   none = built({}).heat()->steady(losses());
        QVERIFY(cooler->mean.at(HeatPart::Shaft) < none->mean.at(HeatPart::Shaft));
        CLOSE(cooler->to_ambient / cooler->loss, 1, 1e-9);
    }
    void bearings_by_their_size() {
        const Built small = built({{"bearing.mean_diameter", "30 mm"}}),
                    large = built({{"bearing.mean_diameter", "60 mm"}});
        CLOSE(conductance(*small.heat(), "bearings to end shields"), 4 / ball_bearing(0.03, 150).resistance,
              1e-9);
        CLOSE(conductance(*large.heat(), "bearings to end shields"), 4 / ball_bearing(0.06, 150).resistance,
              1e-9);
        const auto better = built({{"shaft.material", "aluminium"}});
        // Between middle of shaft and bearing its section conducts: 52 against some 200 W/(m K).
        QVERIFY(conductance(*better.heat(), "shaft to bearings") >
                1.2 * conductance(*built({}).heat(), "shaft to bearings"));
    }
};
MAVLO_TEST(measured, TestMeasured, Nothing)
#include "test_measured.moc"
