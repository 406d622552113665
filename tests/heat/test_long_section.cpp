// The cut along the axis: what is where, and that dragging a dimension's end by some way changes it by its
// factor times that.

#include "heat/long_section.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

LongSection section_of(std::initializer_list<std::pair<const char*, std::string>> texts) {
    const auto machine = build_machine(design_of(texts), {});
    if (!machine) qFatal("%s", to_string(machine.problems().front()).c_str());
    return long_section(*machine, *cooling_of(*machine, {}));
}

const LongSection::Dimension* find(const LongSection& section, const std::string& path) {
    for (const LongSection::Dimension& d : section.dimensions)
        if (d.path == path) return &d;
    return nullptr;
}

} // namespace

class TestLongSection : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void dimensions_measure_what_they_name_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<QString>("path");
        const std::pair<const char*, const char*> rows[] = {{"round", "housing.length"},
                                                            {"round", "housing.thickness"},
                                                            {"round", "housing.shield_thickness"},
                                                            {"round", "machine.stack_length"},
                                                            {"round", "winding.overhang"},
                                                            {"ribbed", "housing.rib_height"},
                                                            {"jacket", "housing.channel_height"},
                                                            {"jacket", "housing.channel_width"},
                                                            {"round", "rotor.shaft_diameter"},
                                                            {"round", "bearing.mean_diameter"},
                                                            {"round", "bearing.width"},
                                                            {"round", "shaft.free_length"}};
        for (const auto& [kind, path] : rows) QTest::newRow(path) << kind << path;
    }
    void dimensions_measure_what_they_name() {
        QFETCH(QString, kind);
        QFETCH(QString, path);
        const std::string own = path.toStdString();
        const auto at = [&](double mm) {
            return section_of({{"housing.kind", kind.toStdString()},
                               {own.c_str(), QString::number(mm).toStdString() + " mm"}});
        };
        const double value = own == "housing.length"         ? 120
                             : own == "machine.stack_length" ? 50
                             : own.ends_with("_diameter")    ? 25
                                                             : 6,
                     more = 1;
        const LongSection before = at(value), after = at(value + more);
        const auto *a = find(before, own), *b = find(after, own);
        QVERIFY(a && b);
        CLOSE(a->value, value * 1e-3, 1e-9);
        CLOSE(b->value - a->value, more * 1e-3, 1e-9);
        // Its far end moves by the change over the factor, against its foot where that is fixed.
        const double way = a->is_axial() ? b->z1 - a->z1 : b->r1 - a->r1;
        const double foot = a->is_axial() ? b->z0 - a->z0 : b->r0 - a->r0;
        CLOSE(std::abs(a->factor) == 2 ? a->factor * way : a->factor * (way - foot), more * 1e-3, 1e-9);
    }
    void nothing_overlaps_the_shaft_but_its_bearings() {
        const LongSection section = section_of({{"housing.kind", "ribbed"}});
        using Kind = LongSection::Kind;
        double shaft = 0, top = 0;
        for (const auto& b : section.bodies) {
            if (b.kind == Kind::Shaft) shaft = b.r + b.height;
            if (b.kind == Kind::Rib) top = b.r + b.height;
        }
        QVERIFY(shaft > 0);
        CLOSE(section.radius, top, 1e-12);
        for (const auto& b : section.bodies)
            if (b.kind != Kind::Shaft) QVERIFY(b.r >= shaft - 1e-12);
    }
    void an_outer_rotor_and_a_cage() {
        const LongSection outer = section_of({{"machine.topology", "outer-rotor"},
                                              {"stator.outer_diameter", "100 mm"},
                                              {"stator.bore_diameter", "40 mm"}});
        QVERIFY(find(outer, "machine.stack_length") && !find(outer, "housing.length"));
        const LongSection cage = section_of({{"stator.slots", "36"},
                                             {"rotor.kind", "cage"},
                                             {"rotor.poles", "4"},
                                             {"rotor.bars", "28"},
                                             {"gap", "0.3 mm"}});
        QVERIFY(find(cage, "rotor.ring.thickness"));
        int rings = 0;
        for (const auto& b : cage.bodies) rings += b.kind == LongSection::Kind::Bars && b.both_ends;
        QCOMPARE(rings, 1);
    }
};
MAVLO_TEST(long_section, TestLongSection, Nothing)
#include "test_long_section.moc"
