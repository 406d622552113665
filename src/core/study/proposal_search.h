#pragma once
// Where to look next for better compromises: a search on surrogates of what was tried, so that few designs need
// fields.

#include "study/front.h"

#include <vector>

namespace mavlo {

/// A place of the unit cube and what was found there.
struct Tried {
    std::vector<double> at;
    bool sound = false;         ///< it could be answered; the rest is empty otherwise
    std::vector<double> values; ///< that shall be small
    std::vector<double> excess; ///< over each limit; 0 or less where it is kept
};
Compromise compromise_of(const Tried& tried);

/// So many places to try next, the same for the same input. Cubic surrogates of values, limits and soundness
/// are searched by NSGA-II (K. Deb et al., IEEE Trans. Evol. Comput. 6, 2002), one goal alone by self-adaptive
/// differential evolution (J. Brest et al., IEEE Trans. Evol. Comput. 10, 2006), and of the front they find
/// those places are taken that lie farthest from what is known; every eighth is where nothing was tried yet.
std::vector<std::vector<double>> places_to_try(const std::vector<Tried>& tried, int count, unsigned seed);

/// Share of the volume between the front and `worst` that the front dominates, with `best` as the other corner
/// (E. Zitzler, L. Thiele, IEEE Trans. Evol. Comput. 3, 1999).
double dominated_share(const std::vector<std::vector<double>>& front, const std::vector<double>& best,
                       const std::vector<double>& worst);

} // namespace mavlo
