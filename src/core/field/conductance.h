#pragma once
// What conducts currents of its own: eddy currents in magnets, shells, shafts.

#include "field/model.h"

namespace mavlo {

/// A body that its own currents leave nowhere, or one whose ends are joined without resistance.
struct EddyBody {
    std::vector<std::size_t> elements;
    std::vector<double> sign; ///< of each element: -1 beyond the end of a reversed sector
    double conductivity = 0;  ///< S/m
    bool closed_ends = false; ///< its currents return beyond the stack, so that they need not sum to zero
};

/// In a body's own frame, where it rests, with J = sigma (u - dA/dt) and u such that no net current flows:
///   M_ij = int sigma N_i N_j,   w_i = int sigma N_i,   S = int sigma,   M' = sum over bodies of M - w w^T/S
/// (K. Hameyer, R. Belmans, Numerical Modelling and Design of Electrical Machines and Devices, 1999, ch. 6). M'
/// is positive semidefinite, so a step in time adds a convex term to the field's energy. Per metre and sector.
struct Conductance {
    /// w of a body that carries no net current, over the unknowns it touches.
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
    std::vector<EddyBody> bodies;

    bool empty() const { return bodies.empty(); }
    /// M' times a vector of all unknowns.
    std::vector<double> times(const std::vector<double>& potential) const;
};

Conductance make_conductance(const FieldModel& model, std::vector<EddyBody> bodies);

/// What each body loses where its potential changes at these rates (V/m): int sigma |dA/dt - mean|^2, in W a
/// metre and sector.
std::vector<double> eddy_losses(const FieldModel& model, const Conductance& conductance,
                                const std::vector<double>& rate);

} // namespace mavlo
