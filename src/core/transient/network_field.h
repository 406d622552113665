#pragma once
// A network with the fields of its machine: every phase with all that the others link in it, saturation
// included.

#include "circuit/network_window.h"
#include "field/recorded_solver.h"
#include "figure/machine_model.h"
#include "machine/skew.h"

#include <functional>
#include <optional>

namespace mavlo {

/// The machine over a short turn: between two solved fields its linkages go straight over the angle, and about
/// each of them along its tangent over the currents.
class FieldStretch : public PortMachine {
  public:
    struct End {
        double angle = 0; ///< electrical
        Eigen::VectorXd current, linkage;
        Eigen::MatrixXd inductance;
        double torque = 0;
    };
    explicit FieldStretch(int ports, double series)
        : m_ports(ports)
        , m_series(series) {}
    void set(const End& from, const End& to) {
        m_from = from;
        m_to = to;
    }
    int ports() const override { return m_ports; }
    PortState at(double angle, const Eigen::VectorXd& currents) const override;

  private:
    int m_ports;
    double m_series; ///< H in series with each phase
    End m_from, m_to;
};

struct NetworkFieldOptions {
    double start = 0;   ///< mechanical angle of the rotor at electrical angle 0, rad
    int pole_pairs = 1; ///< electrical periods in a turn
    int steps = 96;     ///< stretches of a period
    double series = 0;  ///< H
    std::vector<Slice> slices{{0, 1}};
    double tolerance = 1e-3; ///< of the largest current, between two rounds of a stretch
    Eigen::VectorXd state{}; ///< of the network at the beginning; empty: at rest
    std::function<bool()> stop{};
    /// Told of the slices' fields at the beginning and at each stretch's end, with the electrical angle.
    std::function<void(double angle, const std::vector<FieldSolution>&)> seen{};
    FieldRecord* record = nullptr; ///< that the fields are kept in; must outlive the run
};

/// A run of static fields: no eddy currents. The currents that stand at its beginning are `currents` (A).
class NetworkField {
  public:
    NetworkField(std::shared_ptr<const MachineModel> model, const Network& network,
                 std::unique_ptr<GateControl> control, const NetworkOptions& circuit,
                 NetworkFieldOptions options);

    /// On by so many electrical turns; samples of the network as it goes, and the field's torque at each
    /// stretch's end.
    std::optional<Problem> run(double turns, const Eigen::VectorXd& currents,
                               std::vector<NetworkSample>* samples);
    struct Torque {
        double angle, torque; ///< electrical, rad; N.m
    };
    const Eigen::VectorXd& state() const { return m_run->state(); } ///< after a run
    bool begun() const { return m_begun; }
    const std::vector<FieldSolution>& fields() const { return m_last; } ///< after a run: those of its end
    const std::vector<Torque>& torques() const { return m_torques; }
    int solves() const;
    int newton_steps() const;

  private:
    Result<FieldStretch::End> solve(double angle, const Eigen::VectorXd& currents);
    std::optional<Problem> stretch(double to, std::vector<NetworkSample>* samples);

    std::shared_ptr<const MachineModel> m_model;
    NetworkFieldOptions m_options;
    FieldStretch m_machine;
    std::unique_ptr<NetworkRun> m_run;
    std::vector<RecordedSolver> m_solvers; ///< of the slices
    std::vector<FieldSolution> m_last;
    FieldStretch::End m_here, m_before;
    bool m_begun = false, m_has_before = false;
    double m_largest = 1e-6;
    std::vector<Torque> m_torques;
    const Network& m_network;
    std::unique_ptr<GateControl> m_control;
    NetworkOptions m_circuit;
};

/// What is shown of a run on fields.
struct FieldWindow {
    Eigen::VectorXd currents; ///< that flow at the beginning, A
    int periods = 1;          ///< shown, of the rotor
    bool from_start = false;  ///< the first ones
    int most_periods = 60;    ///< run before
    /// Told when the window begins; of the fields there where they are solved already.
    std::function<void(const std::vector<FieldSolution>&)> begins{};
};

/// Periods of the rotor until one ends with the linkages and charges it began with (2e-3 of their sizes) and
/// their decay leaves no more than 4e-3 to come, then the window.
Result<NetworkWindow> find_network_steady(NetworkField& run, const FieldWindow& wanted);

} // namespace mavlo
