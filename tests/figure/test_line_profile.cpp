// The field along a line: its flux is what crosses it, alike from one sector to the next, and in the gap the
// gap's own series.

#include "figure/line_profile.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

namespace {

/// int across ds by trapezia; steps beside the section count nothing.
double integral(const LineProfile& line) {
    double sum = 0;
    for (std::size_t i = 1; i < line.across.size(); ++i)
        sum += (line.distance[i] - line.distance[i - 1]) * (line.across[i] + line.across[i - 1]) / 2;
    return sum;
}

} // namespace

class TestLineProfile : public QObject {
    Q_OBJECT
    std::shared_ptr<const MachineModel> m_model = *prepare_field(machine_of({}), {Quality::Draft});
    const double m_angle = 0.2;
    FieldSolution m_field = *FieldSolver(m_model).solve(m_angle, {5, -2, -3});
    FieldPicture m_picture = make_picture(*m_model, m_field);

    LineProfile between(Point a, Point b, int count = 4001) const {
        return line_profile(*m_model, m_picture, m_angle, a, b, count);
    }
    double outside() const { return m_model->machine.section.outer_radius(); }
  private Q_SLOTS:
    void flux_is_what_crosses() {
        const double r = outside();
        // Along a pole, across stator, gap and magnets, and through the rotor alone.
        for (const auto& [a, b] : {std::pair(polar(0.9 * r, 0.3), polar(0.5 * r, 0.9)),
                                   {polar(0.95 * r, 1.1), polar(0.35 * r, 1.1)},
                                   {polar(0.45 * r, 2.0), polar(0.45 * r, 2.3)}}) {
            const LineProfile line = between(a, b);
            const double scale = m_picture.highest_potential;
            CLOSE(integral(line) / scale, line.flux() / scale,
                  1e-2); // A is straight in a quarter of an element
            CLOSE(line.distance.back(), norm(b - a), 1e-12);
        }
    }
    void the_way_back_has_the_other_sign() {
        const Point a = polar(0.9 * outside(), 0.3), b = polar(0.6 * outside(), 0.7);
        const LineProfile there = between(a, b, 101), back = between(b, a, 101);
        CLOSE(there.flux(), -back.flux(), 1e-12);
        CLOSE(there.across[30], -back.across[70], 1e-6);
        CLOSE(there.lengthwise[30], -back.lengthwise[70], 1e-6);
    }
    void sectors_are_alike() {
        const Sector& sector = m_model->sector;
        QVERIFY(sector.count > 1);
        const Point a = polar(0.9 * outside(), 0.3), b = polar(0.5 * outside(), 0.6);
        const LineProfile here = between(a, b, 301),
                          next = between(rotated(a, sector.angle()), rotated(b, sector.angle()), 301);
        CLOSE(next.flux(), sector.sign * here.flux(), 1e-6 * m_picture.highest_potential);
        CLOSE(next.across[100], sector.sign * here.across[100], 1e-5);
    }
    void in_the_gap_it_is_the_gaps_own() {
        const double radius = m_model->machine.middle_of_gap(), theta = 0.4, half = 1e-4;
        const auto ring = m_model->gap().ring(gap_traces(*m_model, m_field), radius, 4096);
        const std::size_t at = 261; // 0.4004 rad
        const double angle = 2 * pi * double(at) / 4096;
        // A short way round the axis: what crosses it to the right is radial.
        const LineProfile line = between(polar(radius, angle - half), polar(radius, angle + half), 3);
        CLOSE(line.across[1], ring.radial[at], 0.02);
        CLOSE(line.lengthwise[1], ring.tangential[at], 0.02);
        QVERIFY(std::abs(theta - angle) < 0.01);
    }
    void beside_the_section_is_no_number() {
        const LineProfile line = between({0, 0}, {2 * outside(), 0}, 201);
        QVERIFY(std::isnan(line.across.back()) && std::isnan(line.potential.back()));
        QVERIFY(std::isfinite(line.across[80]));
        QVERIFY(std::isnan(line.flux()));
        const LineProfile point = between({0.01, 0}, {0.01, 0}, 2);
        QCOMPARE(point.distance.back(), 0.0);
    }
};
MAVLO_TEST(line_profile, TestLineProfile, Nothing)
#include "test_line_profile.moc"
