#pragma once
// What conducts currents of its own: eddy currents in magnets, shells, shafts.

#include "field/end_rings.h"
#include "field/model.h"

namespace mavlo {

/// A body that its own currents leave nowhere, or one whose ends are joined without resistance.
struct EddyBody {
    std::vector<std::size_t> elements;
    std::vector<double> sign; ///< of each element: -1 beyond the end of a reversed sector
    double conductivity = 0;  ///< S/m
    bool closed_ends = false; ///< its currents return beyond the stack, so that they need not sum to zero
};

/// In a body's own frame, where it rests, with J = sigma (u - dA/dt):
///   M_ij = int sigma N_i N_j,   w_i = int sigma N_i,   S = int sigma,   i = S u - w . dA/dt
/// where i is the body's net current. Of bodies by themselves it is zero; of bars that rings join i = -Y u
/// (EndRings). With the columns W of all of them and the diagonal S
///   M' = M - W (S + Y)^-1 W^T
/// (K. Hameyer, R. Belmans, Numerical Modelling and Design of Electrical Machines and Devices, 1999, ch. 6). M'
/// is positive semidefinite, so a step in time adds a convex term to the field's energy. Per metre and sector.
struct Conductance {
    /// w of a body whose voltage is its own, over the unknowns it touches.
    struct Net {
        std::vector<int> unknowns;
        std::vector<double> weight;
        double total = 0; ///< S, S/m times m2
        double dot(const std::vector<double>& potential) const;
        void add_to(std::vector<double>& to, double factor) const;
    };
    SparsePattern pattern;      ///< of M, for products
    std::vector<double> values; ///< of M
    std::vector<int> entry;     ///< place of each of them in the model's matrix values
    std::vector<Net> nets;
    std::vector<int> net_of; ///< of each body; -1: its ends are joined without resistance
    EndRings rings;          ///< its bars are nets
    std::vector<EddyBody> bodies;

    bool empty() const { return bodies.empty(); }
    /// W^T times a vector of all unknowns.
    Eigen::VectorXd linked(const std::vector<double>& potential) const;
    /// S + Y at a rate as EndRings takes it.
    Eigen::MatrixXcd net_matrix(std::complex<double> rate) const;
};

/// What conducts in an implicit stage of the time 1/per_time. The conductance must outlive it.
class ConductingStage {
  public:
    ConductingStage(const Conductance& conductance, double per_time);
    double per_time() const { return m_per_time; }
    /// M' times a vector of all unknowns.
    std::vector<double> times(const std::vector<double>& potential) const;
    /// Adds W (S + Y)^-1 of the currents that the rings keep up: what they push the field with (A).
    void add_driven(const Eigen::VectorXd& segments_before, std::vector<double>& to) const;

    /// Where the potentials have these rates (V/m) and the segments carried `before` (A).
    struct Flow {
        Eigen::VectorXd u;        ///< of the nets, V/m
        Eigen::VectorXd segments; ///< of the rings, at the stage's end, A
    };
    Flow flow(const std::vector<double>& rate, const Eigen::VectorXd& before) const;

  private:
    const Conductance& m_conductance;
    double m_per_time;
    Eigen::MatrixXd m_inverse; ///< (S + Y)^-1
};

Conductance make_conductance(const FieldModel& model, std::vector<EddyBody> bodies, EndRings rings = {});

/// What each body loses where its potential changes at these rates (V/m) and along the nets the voltages are
/// `u`: int sigma |u - dA/dt|^2, in W a metre and sector.
std::vector<double> eddy_losses(const FieldModel& model, const Conductance& conductance,
                                const std::vector<double>& rate, const Eigen::VectorXd& u);

} // namespace mavlo
