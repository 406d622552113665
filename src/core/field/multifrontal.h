#pragma once
// Mavlo's own sparse Cholesky factorisation for the field's matrices.

#include "field/cholesky.h"

namespace mavlo {

/// Multifrontal Cholesky (J.W.H. Liu, SIAM Review 34(1), 1992; I.S. Duff, J.K. Reid, ACM TOMS 9(3), 1983):
/// every supernode of the elimination tree is a dense front that takes its matrix entries through a fixed map,
/// adds its children's updates, eliminates its columns and hands the rest to its parent. `root` names unknowns
/// that form the last front as a whole: those on the gap's circles, which are all coupled with each other;
/// turning the rotor changes that front alone. The order of the others is approximate minimum degree (P.
/// Amestoy, T. Davis, I. Duff, ACM TOMS 30(3), 2004, from SuiteSparse); small supernodes are merged where few
/// zeros are added (C. Ashcraft, R. Grimes, ACM TOMS 15(4), 1989).
std::unique_ptr<Cholesky> make_multifrontal(std::shared_ptr<const SparsePattern> pattern,
                                            const std::vector<int>& root);

} // namespace mavlo
