// Loss of strands against exact values and an independent one-dimensional solution.

#include "figure/copper.h"
#include "project/project.h"
#include "quantity/constants.h"
#include "support.h"
#include "test_program.h"
#include "winding/end_winding.h"
#include "winding/strand_loss.h"

using namespace mavlo;

namespace {

constexpr double rho = 1.7241e-8;
using Complex = std::complex<double>;

double frequency_of(double delta) {
    return rho / (pi * mu0 * delta * delta);
}

SlotProfile straight(double width, double depth) {
    return {{0, depth}, {width, width}};
}

/// Loss of a stack of bars over that of direct current, each bar's own, by finite differences of
/// d2J/dx2 = j omega mu0/rho J with the bars' currents given (no formula of the code's).
std::vector<double> stack_by_differences(int bars, double height, double width, double frequency) {
    constexpr int steps = 4000;
    const double omega = 2 * pi * frequency, h = height / steps;
    std::vector<double> factors;
    Complex below = 0; // ampere-turns
    for (int bar = 0; bar < bars; ++bar) {
        // H goes from below/width to (below + 1)/width; H'' = j omega mu0/rho H, solved as a tridiagonal
        // system.
        const Complex k2(0, omega * mu0 / rho), h0 = below / width, h1 = (below + 1.0) / width;
        std::vector<Complex> c(steps, 0), d(steps, 0), field(steps + 1, 0);
        field[0] = h0;
        field[steps] = h1;
        for (int i = 1; i < steps; ++i) {
            const Complex diagonal = -2.0 - k2 * h * h;
            const Complex m = diagonal - (i > 1 ? c[std::size_t(i) - 1] : 0.0);
            c[std::size_t(i)] = 1.0 / m;
            const Complex right = i == 1 ? -h0 : i == steps - 1 ? -h1 : Complex(0);
            d[std::size_t(i)] =
                ((i == 1 || i < steps - 1 ? right : right) - (i > 1 ? d[std::size_t(i) - 1] : 0.0)) / m;
        }
        for (int i = steps - 1; i >= 1; --i)
            field[std::size_t(i)] =
                d[std::size_t(i)] - c[std::size_t(i)] * (i == steps - 1 ? 0.0 : field[std::size_t(i) + 1]);
        double loss = 0;
        for (int i = 0; i < steps; ++i)
            loss += rho * std::norm((field[std::size_t(i) + 1] - field[std::size_t(i)]) / h) * h * width;
        factors.push_back(loss / (rho / (width * height)));
        below += 1.0;
    }
    return factors;
}

double sharing_of(const std::vector<PlacedStrand>& strands, const SlotProfile& slot, const StrandShape& shape,
                  double f) {
    const SlotStrands placed(strands, slot, shape);
    return placed.sharing(placed.coupling(0), f, 1).loss_factor;
}

} // namespace

class TestStrands : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void bars_in_a_slot_match_the_reference() {
        const auto data = reference("slot_and_gap.json");
        for (const auto& row : data["slot_bar_ac"]) {
            const double x = row["h_over_delta"], h = 2e-3, f = frequency_of(h / x);
            std::vector<PlacedStrand> bars;
            for (int k = 0; k < 3; ++k) bars.push_back({(2.5 - k) * h, 1.0, k, 0, 0});
            const SlotStrands slot(bars, straight(5e-3, 3 * h), {false, h, 5e-3, rho});
            const auto factors = slot.factors(f);
            CLOSE(factors[0] / row["kR"].get<double>(), 1, 1e-9);
            CLOSE(factors[2] / row["layer3_kR"].get<double>(), 1, 1e-9);
        }
    }
    void round_wires_match_the_reference() {
        const auto data = reference("slot_and_gap.json");
        for (const auto& row : data["round_wire"])
            CLOSE(round_skin_factor(row["a_over_delta"]) / row["R_ratio"].get<double>(), 1, 1e-9);
        // In a slowly changing field: P = pi omega^2 B^2 a^4/(4 rho), B rms.
        const double a = 0.5e-3, x = 0.05, f = frequency_of(a / x), h = 100, omega = 2 * pi * f;
        const double wanted = pi * omega * omega * mu0 * mu0 * h * h * std::pow(a, 4) / (4 * rho);
        CLOSE(rho * round_proximity_factor(x) * h * h / wanted, 1, 1e-5);
        CLOSE(round_proximity_factor(0.0201) / round_proximity_factor(0.0199), std::pow(0.0201 / 0.0199, 4),
              1e-5);
        CLOSE(round_skin_factor(0.0501) - 1, std::pow(0.0501, 4) / 48, 1e-9);
    }
    void a_stack_of_bars_against_differences() {
        for (double f : {20.0, 200.0, 1500.0}) {
            const double h = 3e-3, b = 6e-3;
            const auto wanted = stack_by_differences(4, h, b, f);
            std::vector<PlacedStrand> bars;
            for (int k = 0; k < 4; ++k) bars.push_back({(3.5 - k) * h, 1.0, k, 0, 0});
            const SlotStrands slot(bars, straight(b, 4 * h), {false, h, b, rho});
            const auto factors = slot.factors(f);
            for (std::size_t k = 0; k < 4; ++k) CLOSE(factors[k] / wanted[k], 1, 1e-3);
        }
    }
    void bars_side_by_side_and_round_ones_tend_to_dowell() {
        // Many thin round wires in rows: loss over direct current grows as that of square bars of their area,
        // to the fill's square root (both exact at low frequency: 1 + C f^2).
        const double d = 0.5e-3, b = 5e-3, f = 500;
        std::vector<PlacedStrand> wires;
        for (int row = 0; row < 20; ++row)
            for (int k = 0; k < 10; ++k) wires.push_back({(19.5 - row) * d, 1.0, row, k, 0});
        const double round = SlotStrands(wires, straight(b, 20 * d), {true, d, d, rho}).factor(f) - 1;
        // Closed form: mean over rows of the field's square, (10 (m - 1/2)/b)^2, times pi a^4 ....
        double mean = 0;
        for (int m = 1; m <= 20; ++m) mean += std::pow(10 * (m - 0.5) / b, 2) / 20;
        const double omega = 2 * pi * f, a = d / 2;
        const double wanted =
            pi * std::pow(omega * mu0, 2) * mean * std::pow(a, 4) / (4 * rho) / (rho / (pi * a * a));
        CLOSE(round / wanted, 1, 0.02);
    }
    void uneven_strands_share_as_two_inductances_do() {
        // Two strands in hand, one always above the other: i1 (R + jX11) + i2 jX12 = i1 jX21 + i2 (R + jX22).
        const double h = 2e-3, b = 5e-3, f = 300;
        const std::vector<PlacedStrand> pair{{1.5 * h, 0.5, 0, 0, 0}, {0.5 * h, 0.5, 0, 1, 0}};
        const StrandShape shape{false, h, b, rho};
        const SlotStrands slot(pair, straight(b, 2 * h), shape);
        const StrandSharing sharing = slot.sharing(slot.coupling(0), f, 1);
        const double r = rho / (h * b), x = 2 * pi * f * mu0 / b;
        const Complex z1(r, x * 1.5 * h), z2(r, x * 0.5 * h), z12(0, x * 0.5 * h);
        const Complex share = (z2 - z12) / (z1 + z2 - 2.0 * z12); // of the current, in the deeper one
        CLOSE(std::abs(sharing.current[0] - 2.0 * share), 0, 1e-9);
        CLOSE(std::abs(sharing.current[0] + sharing.current[1] - 2.0), 0, 1e-12);
        QVERIFY(sharing.loss_factor > 1.001);
        // Longer end turns even it out; strands that change places in the next turn share evenly.
        QVERIFY(slot.sharing(slot.coupling(0), f, 5).loss_factor < sharing.loss_factor);
        std::vector<PlacedStrand> crossed{
            {3.5 * h, 0.5, 0, 0, 0}, {2.5 * h, 0.5, 0, 1, 0}, {1.5 * h, 0.5, 1, 1, 0}, {0.5 * h, 0.5, 1, 0, 0}};
        std::vector<PlacedStrand> straight_on = crossed;
        std::swap(straight_on[2].strand, straight_on[3].strand);
        const double uncrossed = sharing_of(straight_on, straight(b, 4 * h), shape, f);
        QVERIFY(sharing_of(crossed, straight(b, 4 * h), shape, f) < 0.5 + 0.5 * uncrossed);
    }
    void permeance_above_a_depth() {
        // Of a rectangular slot: depth over width; of a widening one the logarithm.
        CLOSE(straight(4e-3, 10e-3).above(6e-3), 1.5, 1e-12);
        const SlotProfile wide{{0, 10e-3}, {4e-3, 8e-3}};
        CLOSE(wide.above(10e-3), 10.0 / 4 * std::log(2.0), 1e-12);
        // The leakage of a rectangular slot: h/(3b), from the same profile (mean of the enclosed turns'
        // square).
        const nlohmann::json ref = reference("slot_and_gap.json")["slot_permeance"];
        const double h = ref["h"], b = ref["b"];
        double sum = 0;
        constexpr int n = 2000;
        for (int i = 0; i < n; ++i) sum += std::pow(1 - (i + 0.5) / n, 2) * (h / n) / b;
        CLOSE(sum + ref["h0"].get<double>() / ref["b0"].get<double>(), ref["lambda_mu0"], 1e-6);
    }
    void machines_lose_more_with_frequency_and_less_as_litz() {
        Design design = new_project("surface")->variants.front().design;
        design.texts["winding.conductor.strands"] = "4";
        const AcResistance plain(machine_of(design));
        CLOSE(plain.factor(0), 1, 1e-12);
        const double low = plain.factor(50) - 1, twice = plain.factor(100) - 1;
        CLOSE(twice / low, 4, 0.05);
        design.texts["winding.conductor.shape"] = "litz";
        design.texts["winding.conductor.strands"] = "60";
        const AcResistance litz(machine_of(design));
        CLOSE(litz.sharing_factor(400), 1, 0);
        QVERIFY(litz.factor(400) - 1 < 0.3 * (plain.factor(400) - 1));
    }
    void end_windings() {
        // Grover's circular coil: N^2 a mu0 (ln 8a/r - 7/4) of a wire of radius r: 1 m across, 1 mm wire, 1
        // turn.
        CLOSE(ring_inductance(0.5, pi * 0.25e-6, 1), 0.5 * mu0 * (std::log(8 * 0.5 / 0.5e-3) - 1.75), 1e-12);
        CLOSE(end_turn_length(0.1, 0.005, 0), pi / 2 * 0.1 + 0.01, 1e-12);
        CLOSE(end_turn_length(0.1, 0.005, pi / 3), 0.2 + 0.01, 1e-12);
        // Inductance goes with the square of the turns and the inverse square of the paths.
        Design design = new_project("surface-distributed")->variants.front().design;
        const double one = machine_conductor(machine_of(design)).end_inductance;
        QVERIFY(one > 0);
        design.texts["winding.turns"] = std::to_string(2 * std::stoi(design.text("winding.turns")));
        CLOSE(machine_conductor(machine_of(design)).end_inductance / one, 4, 0.01);
    }
};
MAVLO_TEST(strands, TestStrands, Nothing)
#include "test_strands.moc"
