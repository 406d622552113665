// Every demo out as a drawing and back in: whole, a pitch of each part, half of one.

#include "drawing/pitch.h"
#include "drawing/section.h"
#include "figure/current_wave.h"
#include "figure/machine_model.h"
#include "figure/park.h"
#include "project/project.h"
#include "shape/dxf/writer.h"
#include "support.h"
#include "test_program.h"

#include <QTemporaryDir>
#include <fstream>

using namespace mavlo;

namespace {

const char* const demos[] = {"observatory", "ferry", "fan", "mill", "pump", "hoist"};

Design demo(const QString& name) {
    return read_project(std::string(MAVLO_SOURCE "/demo/") + name.toStdString() + ".mavlo")
        ->variants.front()
        .design;
}

ImportedDrawing read_back(const Machine& machine, Shown shown) {
    const QTemporaryDir folder;
    const std::string file = folder.filePath("section.dxf").toStdString();
    const SectionPieces section = section_pieces(machine, shown);
    std::ofstream(file, std::ios::binary) << dxf_text(section.pieces, section.layers);
    ImportOptions options;
    options.stator = true;
    options.outer_rotor = machine.outer_rotor();
    auto drawing = import_drawing(file, options);
    if (!drawing) qFatal("%s", to_string(drawing.problems().front()).c_str());
    return std::move(*drawing);
}

} // namespace

class TestRoundTrip : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_pitch_of_each_part_is_the_whole_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<bool>("half");
        for (const char* name : demos)
            for (bool half : {false, true})
                QTest::addRow("%s, %s", name, half ? "half a pitch" : "a pitch")
                    << QString::fromLatin1(name) << half;
    }
    void a_pitch_of_each_part_is_the_whole() {
        QFETCH(QString, name);
        QFETCH(bool, half);
        const Machine m = machine_of(demo(name));
        const ImportedDrawing whole = read_back(m, Shown::Whole),
                              part = read_back(m, half ? Shown::Half : Shown::Pitch);
        for (const ImportedDrawing* d : {&whole, &part}) {
            QCOMPARE(d->part(DrawnSide::Rotor)->portion.pitches, m.poles);
            QCOMPARE(d->part(DrawnSide::Stator)->portion.pitches, m.slots);
        }
        // As much of every material in a whole turn; half a slot's conductor is one piece with the other half.
        int compared = 0;
        for (const auto& [role, all] : whole.whole) {
            if (!part.whole.contains(role)) continue;
            ++compared;
            CLOSE(part.whole.at(role).area / all.area, 1, 1e-6);
        }
        QVERIFY(compared >= 2 && part.whole.contains(Role::Iron));
        QCOMPARE(part.whole.contains(Role::Magnet), whole.whole.contains(Role::Magnet));
        if (whole.whole.contains(Role::Magnet))
            QCOMPARE(part.whole.at(Role::Magnet).count, whole.whole.at(Role::Magnet).count);
    }
    void the_machine_turns_as_before_data() { a_pitch_of_each_part_is_the_whole_data(); }
    void the_machine_turns_as_before() {
        QFETCH(QString, name);
        QFETCH(bool, half);
        Design design = demo(name);
        const Machine m = machine_of(design);
        const ImportedDrawing drawing = read_back(m, half ? Shown::Half : Shown::Pitch);
        for (DrawnSide side : {DrawnSide::Rotor, DrawnSide::Stator}) {
            auto next = with_part(design, drawing, side);
            if (!next) QFAIL(to_string(next.problems().front()).c_str());
            design = std::move(*next);
        }
        Project project = *read_project(std::string(MAVLO_SOURCE "/demo/") + name.toStdString() + ".mavlo");
        const auto built = build_machine(design, project.materials);
        if (!built) QFAIL(to_string(built.problems().front()).c_str());
        const auto torque = [](const Machine& machine) {
            const double angle = 0.11 / machine.poles;
            const auto current =
                rated_wave(machine).at(electrical_angle(machine, angle), machine.winding.layout.lags);
            return FieldSolver(*prepare_field(machine, {Quality::Normal})).solve(angle, current)->torque;
        };
        const double before = torque(*build_machine(demo(name), project.materials));
        CLOSE(torque(*built) / before, 1, 0.01); // of one position, on another mesh
    }
};
MAVLO_TEST(round_trip, TestRoundTrip, Nothing)
#include "test_round_trip.moc"
