#pragma once
// The field of phasors: everything alternates with one frequency in the stator and with slip times it in what
// the rotor conducts.

#include "field/harmonic_conductors.h"
#include "field/harmonic_steel.h"
#include "field/net_ranks.h"

#include <memory>
#include <optional>

namespace mavlo {

/// A wave exp(-j n theta) on the rotor's side of the gap that meets more there than the field holds: sheets of
/// -admittance times its coefficient (A/m for Wb/m).
struct GapWave {
    std::vector<int> unknowns;
    Eigen::VectorXcd trace; ///< int N exp(-j n theta) r dtheta over the sector, m
    double radius = 0;      ///< r
    std::complex<double> admittance = 0;

    /// Of exp(-j n theta) in a potential of one of so many sectors, Wb/m.
    std::complex<double> coefficient(const PhasorPotential& potential, int sectors) const;
};

/// What drives a field of phasors (peak values).
struct HarmonicFeed {
    double frequency = 0; ///< of the ports, Hz
    double slip = 1;      ///< the rotor's frequency over the ports'
    /// Current of each port for 1 A of the feed.
    std::vector<std::complex<double>> wave;
    /// A, or V behind `impedance` (Ohm) that the field does not hold: resistance, end windings.
    std::complex<double> current = 0;
    std::optional<std::complex<double>> voltage{};
    std::complex<double> impedance = 0;
    std::vector<GapWave> waves{};

    double omega() const;
};

struct HarmonicField {
    PhasorPotential potential;
    std::complex<double> current;    ///< of the feed, A
    std::complex<double> linkage;    ///< Wb: the part of the ports' that goes with the feed's wave
    double torque = 0;               ///< on the rotor, mean, N.m, whole machine
    std::vector<double> eddy_loss{}; ///< of each body, W, whole machine
    double ring_loss = 0;
    Eigen::VectorXcd bar_current{}; ///< of the rings' bars, A
    Eigen::VectorXcd segments{};    ///< of the rings' segments, A
    int newton_steps = 0, products = 0, factorisations = 0;
};

/// One thread's workspace. A sine in time is one harmonic of the truth: of the rotor's motion nothing is seen
/// but its slip, so that every wave round the gap meets the rotor with the slip of the working one; exact where
/// the rotor rests, and where one wave counts.
///
/// Newton's method on real and imaginary parts with the derivative of HarmonicSteel, each step by minimal
/// residuals until it is as exact as it needs to be (S. Eisenstat, H. Walker, SIAM J. Sci. Comput. 17(1),
/// 1996), preconditioned by two solves with one real factor of K + omega M' (O. Axelsson, M. Neytcheva, B.
/// Ahmad, Numer. Algorithms 66, 2014: eigenvalues from 1/2 to 1 whatever omega). Every step lessens the
/// preconditioned residual. The factor stays while it serves, over slips and currents too.
class HarmonicSolver {
  public:
    /// `angle` of the rotor, mechanical, rad. `conductance` holds what conducts in the rotor alone.
    HarmonicSolver(std::shared_ptr<const FieldModel> model, std::shared_ptr<const Conductance> conductance,
                   double angle);

    /// `start`: a field of the same model.
    Result<HarmonicField> solve(const HarmonicFeed& feed, const HarmonicField* start = nullptr);

    /// What a small source of its own (a load like the ports', A) with the rotor's angular frequency `omega`
    /// (rad/s) makes of the potential on top of a field: by the steel's mean differential reluctivity there.
    Result<PhasorPotential> small_answer(const HarmonicField& field, const PhasorPotential& load, double omega);

    const FieldModel& model() const { return *m_model; }

  private:
    /// Potentials and the feed's current, or changes of them, or what their equations have left.
    struct State {
        PhasorPotential potential;
        std::complex<double> current = 0;
    };
    void set_rotor_omega(double omega);
    void set_feed(const HarmonicFeed& feed);
    State begin(const HarmonicField* start, HarmonicField& out);
    State residual(const State& at);
    PhasorPotential linear_product(const PhasorPotential& x) const;
    void add_waves(const PhasorPotential& x, PhasorPotential& to) const;
    State slope_product(const State& change) const;
    State preconditioned(const State& residual) const;
    void solve_real(std::vector<double>& values) const;
    bool factorise(HarmonicField& out);
    State direction(const State& wanted, double enough, HarmonicField& out);
    void take_stiffness();
    std::complex<double> linkage(const PhasorPotential& potential) const;
    double size(const State& state) const;
    std::vector<double> packed(const State& state) const;
    State unpacked(const std::vector<double>& values) const;
    void finish(const State& at, HarmonicField& out) const;

    std::shared_ptr<const FieldModel> m_model;
    std::shared_ptr<const Conductance> m_conductance;
    double m_angle;
    std::vector<double> m_base;      ///< matrix of the linear parts and the gap
    std::vector<double> m_stiffness; ///< with the steel's D at the field in hand
    HarmonicSteel m_steel;
    std::unique_ptr<Cholesky> m_factor;
    NetRanks m_nets;
    std::optional<HarmonicConductors> m_conductors;
    std::optional<ConductingStage> m_stage; ///< what conducts, as the factor holds it
    double m_factored_omega = -1;
    bool m_turns_back = false; ///< the rotor's omega is below zero
    int m_last_products = 0;   ///< of the last direction
    HarmonicFeed m_feed;
    PhasorPotential m_load;      ///< of 1 A of the feed
    PhasorPotential m_response;  ///< about what 1 A makes of the potential
    double m_current_weight = 1; ///< of the current beside the potentials, Wb/m an A
};

} // namespace mavlo
