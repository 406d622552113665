#include "field/multifrontal.h"

#include "field/dense_kernels.h"
#include "field/front_tree.h"

#include <algorithm>
#include <tbb/cache_aligned_allocator.h>

namespace mavlo {
namespace {

using Aligned = std::vector<double, tbb::cache_aligned_allocator<double>>;

class Multifrontal final : public Cholesky {
  public:
    explicit Multifrontal(std::shared_ptr<const FrontTree> tree)
        : m_tree(std::move(tree))
        , m_factor(std::size_t(m_tree->factor_size))
        , m_updates(std::size_t(m_tree->update_size))
        , m_ordered(m_tree->order.size()) {
        int most_rows = 0;
        for (const auto& front : m_tree->fronts) most_rows = std::max(most_rows, front.row_count());
        m_rows.resize(std::size_t(padded(most_rows)));
        const auto& root = m_tree->fronts.back();
        m_into_root.resize(std::size_t(root.columns) * std::size_t(padded(root.columns)));
    }

    bool factorise(const std::vector<double>& values) override {
        for (std::size_t f = 0; f + 1 < m_tree->fronts.size(); ++f)
            if (!eliminate(m_tree->fronts[f], values)) return false;
        std::fill(m_into_root.begin(), m_into_root.end(), 0.0);
        for (int child : m_tree->fronts.back().children)
            add_to_columns(m_tree->fronts.back(), m_tree->fronts[std::size_t(child)], m_into_root.data(),
                           nullptr);
        return refactorise_root(values);
    }

    bool refactorise_root(const std::vector<double>& values) override {
        const auto& root = m_tree->fronts.back();
        std::copy(m_into_root.begin(), m_into_root.end(), m_factor.begin() + root.diagonal);
        add_entries(root, values);
        return factor_diagonal(m_factor.data() + root.diagonal, root.columns);
    }

    void solve(std::vector<double>& x) override {
        for (std::size_t k = 0; k < x.size(); ++k) m_ordered[k] = x[std::size_t(m_tree->order[k])];
        for (const auto& front : m_tree->fronts) forward(front);
        for (auto front = m_tree->fronts.rbegin(); front != m_tree->fronts.rend(); ++front) backward(*front);
        for (std::size_t k = 0; k < x.size(); ++k) x[std::size_t(m_tree->order[k])] = m_ordered[k];
    }

    std::unique_ptr<Cholesky> copy() const override { return std::make_unique<Multifrontal>(m_tree); }
    double factor_entries() const override { return double(m_tree->factor_size); }

  private:
    using Front = FrontTree::Front;

    void add_entries(const Front& front, const std::vector<double>& values) {
        double* block = m_factor.data() + front.diagonal;
        for (int e = front.entry_begin; e < front.entry_end; ++e) {
            const auto& entry = m_tree->entries[std::size_t(e)];
            block[entry.offset] += values[std::size_t(entry.value)];
        }
    }

    bool eliminate(const Front& front, const std::vector<double>& values) {
        double *diagonal = m_factor.data() + front.diagonal, *below = m_factor.data() + front.below(),
               *update = m_updates.data() + front.update;
        const int rows = front.row_count();
        std::fill(diagonal, below + long(front.columns) * padded(rows), 0.0);
        add_entries(front, values);
        for (int child : front.children)
            add_to_columns(front, m_tree->fronts[std::size_t(child)], diagonal, below);
        if (!factor_diagonal(diagonal, front.columns)) return false;
        if (rows == 0) return true;
        solve_rows(below, rows, diagonal, front.columns);
        outer_product(update, below, rows, front.columns);
        for (int child : front.children) add_to_update(rows, m_tree->fronts[std::size_t(child)], update);
        return true;
    }

    /// The part of a child's update that falls on the parent's columns.
    void add_to_columns(const Front& parent, const Front& child, double* diagonal, double* below) const {
        const int *place = child.place.data(), count = child.row_count();
        const double* from = m_updates.data() + child.update;
        for (int c = 0; c < child.in_columns; ++c, from += padded(count)) {
            double* to = diagonal + long(place[c]) * padded(parent.columns);
            for (int r = c; r < child.in_columns; ++r) to[place[r]] += from[r];
            to = below + long(place[c]) * padded(parent.row_count());
            for (int r = child.in_columns; r < count; ++r) to[place[r]] += from[r];
        }
    }

    void add_to_update(int parent_rows, const Front& child, double* update) const {
        const int *place = child.place.data(), count = child.row_count();
        const double* from = m_updates.data() + child.update + long(child.in_columns) * padded(count);
        for (int c = child.in_columns; c < count; ++c, from += padded(count)) {
            double* to = update + long(place[c]) * padded(parent_rows);
            for (int r = c; r < count; ++r) to[place[r]] += from[r];
        }
    }

    void forward(const Front& front) {
        double* x = m_ordered.data() + front.first;
        solve_lower(m_factor.data() + front.diagonal, front.columns, x);
        if (front.rows.empty()) return;
        times(m_rows.data(), m_factor.data() + front.below(), front.row_count(), front.columns, x);
        const double* change = m_rows.data();
        for (int row : front.rows) m_ordered[std::size_t(row)] -= *change++;
    }

    void backward(const Front& front) {
        double *x = m_ordered.data() + front.first, *row_value = m_rows.data();
        for (int row : front.rows) *row_value++ = m_ordered[std::size_t(row)];
        if (!front.rows.empty())
            subtract_transposed_times(x, m_factor.data() + front.below(), front.row_count(), front.columns,
                                      m_rows.data());
        solve_upper(m_factor.data() + front.diagonal, front.columns, x);
    }

    std::shared_ptr<const FrontTree> m_tree;
    Aligned m_factor, m_updates;
    Aligned m_into_root; ///< what the others hand to the root
    Aligned m_rows;
    std::vector<double> m_ordered;
};

} // namespace

std::unique_ptr<Cholesky> make_multifrontal(std::shared_ptr<const SparsePattern> pattern,
                                            const std::vector<int>& root) {
    return std::make_unique<Multifrontal>(std::make_shared<const FrontTree>(make_front_tree(*pattern, root)));
}

} // namespace mavlo
