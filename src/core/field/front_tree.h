#pragma once
// The symbolic half of the multifrontal factorisation: which fronts there are and where everything goes.

#include "field/cholesky.h"

#include <vector>

namespace mavlo {

struct FrontTree {
    struct Front {
        int first = 0;             ///< first column, in the elimination order
        int columns = 0, size = 0; ///< columns eliminated here; rows of the front (columns first)
        std::vector<int> rows;     ///< rows behind the columns, in the elimination order, rising
        std::vector<int> children;
        std::vector<int> place;             ///< of each row behind the columns in the parent's front
        long panel = 0;                     ///< where its panel (size x columns) begins in the factor
        int entry_begin = 0, entry_end = 0; ///< its part of `entries`
    };
    struct Entry {
        int value;  ///< index into the matrix values
        int offset; ///< within the front's panel
    };
    std::vector<Front> fronts; ///< children before parents
    std::vector<Entry> entries;
    std::vector<int> order; ///< order[k] = unknown eliminated as the k-th
    long panel_size = 0;    ///< doubles in all panels
    long stack_size = 0;    ///< doubles that the updates need at the most
};

FrontTree make_front_tree(const SparsePattern& pattern, const std::vector<int>& root);

} // namespace mavlo
