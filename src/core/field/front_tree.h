#pragma once
// The symbolic half of the multifrontal factorisation: which fronts there are and where everything goes.

#include "field/cholesky.h"

#include <array>
#include <vector>

namespace mavlo {

/// Below the top the fronts fall into two halves of about equal work, which know nothing of each other.
struct FrontTree {
    /// A front is kept as three blocks in the layout of dense_kernels.h: the diagonal block of its columns, the
    /// rows below it (both in the factor, one behind the other) and the update it hands to its parent.
    struct Front {
        int first = 0;         ///< first column, in the elimination order
        int columns = 0;       ///< eliminated here
        std::vector<int> rows; ///< rows behind the columns, in the elimination order, rising
        std::vector<int> children;
        std::vector<int> place; ///< of each row in the parent: among its columns, then among its rows
        int in_columns = 0;     ///< how many of `place` are among the parent's columns
        long diagonal = 0;      ///< where its diagonal block begins in the factor
        long update = 0;        ///< where its update begins in the workspace
        int entry_begin = 0, entry_end = 0; ///< its part of `entries`

        int row_count() const { return int(rows.size()); }
        long below() const; ///< where the rows below the diagonal block begin in the factor
    };
    struct Entry {
        int value;  ///< index into the matrix values
        int offset; ///< from the front's diagonal block on
    };
    std::vector<Front> fronts; ///< children before parents: those of one half, of the other, and the top's
    std::array<std::size_t, 2> half_end{}; ///< fronts behind the first half's, and behind the second's
    std::size_t first_root = 0; ///< the last fronts are the root, one for each part that knows no other
    int first_top_column = 0;   ///< columns of the top's fronts begin here
    std::vector<Entry> entries;
    std::vector<int> order; ///< order[k] = unknown eliminated as the k-th
    long factor_size = 0;   ///< doubles of the factor
    long update_size = 0;   ///< doubles that the updates need at the most
};

FrontTree make_front_tree(const SparsePattern& pattern, const std::vector<int>& root);

} // namespace mavlo
