#include "figure/cage_waves.h"

#include "field/gap_circle.h"
#include "field/side_by_side.h"
#include "quantity/constants.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

/// Of the working wave's energy: what has less is left out.
constexpr double least_share = 1e-5;
/// Rotor frequencies over the supply's.
constexpr std::array<double, 6> shares{1e-3, 0.03, 0.2, 1, 5, 25};

/// The rotor's circle, on which waves are laid.
class RotorCircle {
  public:
    explicit RotorCircle(const MachineModel& model)
        : m_radius(model.machine.section.rotor().tile.gap_radius)
        , m_circle(model.rotor_mesh().gap, model.rotor_mesh().unknown,
                   model.sector.pitches[std::size_t(model.rotor)], model.sector) {}

    GapWave wave(int order) const {
        const std::vector<int> orders{std::abs(order)};
        const Eigen::MatrixXcd integrals = m_circle.integrals(orders);
        const auto count = Eigen::Index(m_circle.unknowns().size());
        GapWave out{m_circle.unknowns(), Eigen::VectorXcd(count), m_radius, 0};
        for (Eigen::Index k = 0; k < count; ++k) {
            const Complex sum = m_circle.sums(integrals, orders, Eigen::VectorXd::Unit(count, k))[0];
            out.trace[k] = m_radius * (order > 0 ? sum : std::conj(sum));
        }
        return out;
    }

  private:
    double m_radius;
    GapCircle m_circle;
};

/// Sheets of 1 A/m.
PhasorPotential load_of(const GapWave& wave, std::size_t unknowns) {
    PhasorPotential load = PhasorPotential::zero(unknowns);
    for (std::size_t i = 0; i < wave.unknowns.size(); ++i) {
        load.re[std::size_t(wave.unknowns[i])] = wave.trace[Eigen::Index(i)].real();
        load.im[std::size_t(wave.unknowns[i])] = wave.trace[Eigen::Index(i)].imag();
    }
    return load;
}

} // namespace

Result<CageWaves> CageWaves::of(const CageField& field, const CagePoint& idle, double frequency) {
    const MachineModel& model = field.model();
    const PhasorPotential& potential = idle.field.potential;
    const int sectors = model.sector.count;
    CageWaves out;
    out.m_pairs = model.machine.pole_pairs();
    out.m_omega = 2 * pi * frequency;
    const RotorCircle circle(model);
    const auto energy = [&](const GapWave& wave, int n) {
        return std::abs(n) * std::norm(wave.coefficient(potential, sectors));
    };
    const double working = energy(circle.wave(out.m_pairs), out.m_pairs);
    for (int n : model.gap().orders())
        for (int order : {n, -n}) {
            if (n == 0 || n > 2 * model.machine.slots + out.m_pairs || order == out.m_pairs) continue;
            GapWave wave = circle.wave(order);
            if (energy(wave, n) > least_share * working)
                out.m_waves.push_back({order, std::move(wave), std::vector<Complex>(shares.size())});
        }
    for (double share : shares) out.m_log_omega.push_back(std::log(share * out.m_omega));
    std::vector<Problems> problems(shares.size());
    each_side_by_side(int(shares.size()), [&](int index) {
        const auto k = std::size_t(index);
        HarmonicSolver solver = field.solver();
        for (Wave& wave : out.m_waves) {
            const auto answer = solver.small_answer(idle.field, load_of(wave.gap, potential.re.size()),
                                                    out.m_omega * shares[k]);
            if (!answer) {
                problems[k] = answer.problems();
                return;
            }
            wave.admittance[k] = 1.0 / wave.gap.coefficient(*answer, sectors);
        }
    });
    for (const Problems& wrong : problems)
        if (!wrong.empty()) return wrong;
    return out;
}

/// Straight over the logarithm of the frequency; of a rotor that the wave passes backward the conjugate.
Complex CageWaves::admittance(const Wave& wave, double omega) const {
    const double at = std::log(std::max(std::abs(omega), 1e-300));
    const auto above = std::upper_bound(m_log_omega.begin(), m_log_omega.end(), at);
    Complex value;
    if (above == m_log_omega.begin()) { // what loses goes with the frequency
        const Complex first = wave.admittance.front();
        value = {first.real(), first.imag() * std::exp(at - m_log_omega.front())};
    } else if (above == m_log_omega.end()) {
        value = wave.admittance.back();
    } else {
        const auto k = std::size_t(above - m_log_omega.begin());
        const double share = (at - m_log_omega[k - 1]) / (m_log_omega[k] - m_log_omega[k - 1]);
        value = wave.admittance[k - 1] + share * (wave.admittance[k] - wave.admittance[k - 1]);
    }
    return omega < 0 ? std::conj(value) : value;
}

std::vector<GapWave> CageWaves::at(double slip) const {
    std::vector<GapWave> waves;
    for (const Wave& wave : m_waves) {
        const double own = m_omega * (1 - wave.order * (1 - slip) / double(m_pairs));
        waves.push_back(wave.gap);
        waves.back().admittance = admittance(wave, own) - admittance(wave, slip * m_omega);
    }
    return waves;
}

} // namespace mavlo
