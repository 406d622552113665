// Colours, hashes, pictures and series by themselves.

#include "figure/palette.h"
#include "figure/picture.h"
#include "figure/spectrum.h"
#include "machine/hash.h"
#include "question/period.h"
#include "support.h"
#include "test_program.h"

#include <numbers>

using namespace mavlo;

namespace {

/// Relative luminance of an sRGB colour (IEC 61966-2-1).
double luminance(Rgb c) {
    auto linear = [](double v) {
        v /= 255;
        return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
    };
    return 0.2126 * linear(c.r) + 0.7152 * linear(c.g) + 0.0722 * linear(c.b);
}

} // namespace

class TestFigure : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void colours_darken_evenly() {
        double last = 2, lightest_step = 1, largest_step = 0;
        for (int i = 0; i <= 64; ++i) {
            const double lightness = std::cbrt(luminance(field_colour(i / 64.0)));
            QVERIFY(lightness < last);
            if (i > 0) {
                lightest_step = std::min(lightest_step, last - lightness);
                largest_step = std::max(largest_step, last - lightness);
            }
            last = lightness;
        }
        QVERIFY2(largest_step < 3.5 * lightest_step,
                 qPrintable(QStringLiteral("%1 %2").arg(lightest_step).arg(largest_step)));
        QVERIFY(field_colour(-5) == field_colour(0) && field_colour(7) == field_colour(1));
        QVERIFY(field_colour(std::nan("")) == field_colour(0));
    }
    void hash_matches_the_standards_example() {
        // FIPS 180-4, one-block message
        QCOMPARE(sha256("abc"),
                 std::string("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"));
    }
    void resampling_keeps_waves() {
        std::vector<double> wave;
        for (int i = 0; i < 10; ++i)
            wave.push_back(std::sin(2 * std::numbers::pi * i / 10) +
                           0.2 * std::cos(2 * std::numbers::pi * 3 * i / 10));
        const auto fine = resampled(wave, 5);
        QCOMPARE(fine.size(), 50U);
        for (int i = 0; i < 50; ++i)
            CLOSE(fine[std::size_t(i)],
                  std::sin(2 * std::numbers::pi * i / 50) + 0.2 * std::cos(2 * std::numbers::pi * 3 * i / 50),
                  1e-12);
        // The highest wave of an even count survives too.
        CLOSE(peak_to_peak({1, -1, 1, -1}), 2, 1e-12);
    }
    void peak_to_peak_sees_between_the_samples() {
        std::vector<double> wave;
        for (int i = 0; i < 7; ++i) wave.push_back(std::sin(2 * std::numbers::pi * (i + 0.5) / 7));
        CLOSE(peak_to_peak(wave), 2, 0.01);
    }
    void positions_of_a_period_turn_the_current_with_the_rotor() {
        const Machine m = machine_of({});
        const Dq wanted = current_vector(10, 0.4);
        const auto positions = electrical_period(m, 12, wanted);
        QCOMPARE(positions.size(), 12U);
        for (const Position& p : positions) {
            const Dq dq = to_dq(p.current, electrical_angle(m, p.angle), m.winding.layout.lags);
            CLOSE(dq.d, wanted.d, 1e-12);
            CLOSE(dq.q, wanted.q, 1e-12);
            CLOSE(p.current[0] + p.current[1] + p.current[2], 0, 1e-12);
        }
        CLOSE(positions[1].angle * m.pole_pairs(), 2 * std::numbers::pi / 12, 1e-12);
    }
    void induced_voltage_of_a_wave() {
        const Machine m = machine_of({});
        PeriodSeries s;
        s.flux_linkage.resize(3);
        for (int i = 0; i < 16; ++i)
            for (auto& flux : s.flux_linkage) flux.push_back(0.1 * std::cos(2 * std::numbers::pi * i / 16));
        const auto e = induced_voltage(s, m, 100);
        // speed * pole pairs * flux, and zero where the flux is largest
        CLOSE(e[0][4], -100 * 5 * 0.1, 1e-9);
        CLOSE(e[0][0], 0, 1e-9);
    }
    void pictures_cover_the_section() {
        const Machine m = machine_of({});
        const auto model = *prepare_field(m, {Quality::Draft});
        const auto field = FieldSolver(model).solve(0.2, {});
        QVERIFY(bool(field));
        const FieldPicture p = make_picture(*model, *field);
        double area = 0;
        for (const auto& t : p.triangles) {
            const Point a = p.vertices[std::size_t(t.vertex[0])].at,
                        b = p.vertices[std::size_t(t.vertex[1])].at,
                        c = p.vertices[std::size_t(t.vertex[2])].at;
            area += std::abs(cross(b - a, c - a)) / 2;
        }
        const double hole = m.section.inner().tile.far_radius, outer = m.section.outer_radius();
        CLOSE(area * m.sector().count / (std::numbers::pi * (outer * outer - hole * hole)), 1, 2e-3);
        // The potential is the same on both sides of the gap's circles: no line breaks there.
        const auto lines = flux_lines(p, 10);
        QVERIFY(!lines.empty());
        QVERIFY(flux_lines(p, 0).empty());
    }
    void iron_levels_exceed_the_mean() {
        // The yoke carries half a pole's flux; its highest flux density exceeds that mean.
        const Machine m = machine_of(design_of(
            {{"stator.slot.kind", "none"}, {"rotor.poles", "10"}, {"stator.outer_diameter", "80 mm"}}));
        const auto model = *prepare_field(m, {Quality::Normal});
        const auto field = FieldSolver(model).solve(0, {});
        QVERIFY(bool(field));
        const IronLevels levels = iron_levels(*model, *field);
        QVERIFY(levels.yoke > 0.3 && levels.yoke < 2.2);
        QVERIFY(std::isnan(levels.tooth)); // no teeth
        const auto ring = model->gap().ring(gap_traces(*model, *field), m.middle_of_gap(), 2048);
        const double half_flux = 0.5 * (*std::max_element(ring.potential.begin(), ring.potential.end()) -
                                        *std::min_element(ring.potential.begin(), ring.potential.end()));
        const double yoke = half_flux / (m.section.outer_radius() - m.stator_radius());
        QVERIFY(levels.yoke > yoke && levels.yoke < 1.5); // the flux crowds at the bore, where it enters
    }
};
MAVLO_TEST(figure, TestFigure, Nothing)
#include "test_figure.moc"
