#include "field/multifrontal.h"

#include "field/dense_kernels.h"
#include "field/front_tree.h"
#include "field/side_by_side.h"
#include "quantity/threads.h"

#include <algorithm>
#include <tbb/cache_aligned_allocator.h>

namespace mavlo {
namespace {

template <typename T>
class Multifrontal final : public Cholesky {
  public:
    explicit Multifrontal(std::shared_ptr<const FrontTree> tree)
        : m_tree(std::move(tree))
        , m_factor(std::size_t(m_tree->factor_size))
        , m_updates(std::size_t(m_tree->update_size))
        , m_ordered(m_tree->order.size()) {
        int most_rows = 0;
        for (const auto& front : m_tree->fronts) most_rows = std::max(most_rows, front.row_count());
        for (Aligned& rows : m_rows) rows.resize(std::size_t(padded(most_rows)));
        m_across.resize(m_tree->order.size() - std::size_t(m_tree->first_top_column));
        for (std::size_t f = m_tree->first_root; f < m_tree->fronts.size(); ++f) {
            const auto& root = m_tree->fronts[f];
            m_into_roots.emplace_back(std::size_t(root.columns) * std::size_t(padded(root.columns)));
        }
    }

    void use_two_cores(bool two) override { m_two_cores = two && most_threads() > 1; }

    bool factorise(const std::vector<double>& values) override {
        bool sound[2];
        side_by_side(
            m_two_cores, [&] { sound[0] = eliminate_half(0, values); },
            [&] { sound[1] = eliminate_half(1, values); });
        if (!sound[0] || !sound[1]) return false;
        for (std::size_t f = m_tree->half_end[1]; f < m_tree->first_root; ++f)
            if (!eliminate(m_tree->fronts[f], values, m_two_cores)) return false;
        for (std::size_t k = 0; k < m_into_roots.size(); ++k) {
            const auto& root = m_tree->fronts[m_tree->first_root + k];
            std::fill(m_into_roots[k].begin(), m_into_roots[k].end(), T(0));
            for (int child : root.children)
                add_to_columns(root, m_tree->fronts[std::size_t(child)], m_into_roots[k].data(), nullptr);
        }
        return refactorise_root(values);
    }

    bool refactorise_root(const std::vector<double>& values) override {
        for (std::size_t k = 0; k < m_into_roots.size(); ++k) {
            const auto& root = m_tree->fronts[m_tree->first_root + k];
            std::copy(m_into_roots[k].begin(), m_into_roots[k].end(), m_factor.begin() + root.diagonal);
            add_entries(root, values);
            if (!factor_diagonal(m_factor.data() + root.diagonal, root.columns, m_two_cores)) return false;
        }
        return true;
    }

    void solve(std::vector<double>& x) override {
        for (std::size_t k = 0; k < x.size(); ++k) m_ordered[k] = T(x[std::size_t(m_tree->order[k])]);
        std::fill(m_across.begin(), m_across.end(), T(0));
        const std::size_t top = m_tree->half_end[1], all = m_tree->fronts.size();
        T* at_top = m_ordered.data() + m_tree->first_top_column;
        // What the second half takes from the top's rows is kept apart until both are done.
        side_by_side(
            m_two_cores, [&] { forward(0, m_tree->half_end[0], at_top, m_rows[0].data()); },
            [&] { forward(m_tree->half_end[0], top, m_across.data(), m_rows[1].data()); });
        for (std::size_t k = 0; k < m_across.size(); ++k) at_top[k] += m_across[k];
        forward(top, all, at_top, m_rows[0].data());
        backward(top, all, m_rows[0].data());
        side_by_side(
            m_two_cores, [&] { backward(0, m_tree->half_end[0], m_rows[0].data()); },
            [&] { backward(m_tree->half_end[0], top, m_rows[1].data()); });
        for (std::size_t k = 0; k < x.size(); ++k) x[std::size_t(m_tree->order[k])] = double(m_ordered[k]);
    }

    std::unique_ptr<Cholesky> copy(Precision precision) const override {
        if (precision == Precision::Single) return std::make_unique<Multifrontal<float>>(m_tree);
        return std::make_unique<Multifrontal<double>>(m_tree);
    }
    double factor_entries() const override { return double(m_tree->factor_size); }

  private:
    using Front = FrontTree::Front;
#if defined(__SANITIZE_THREAD__)
    using Aligned = std::vector<T>; // the hand-over of memory inside TBB's allocator is not seen
#else
    using Aligned = std::vector<T, tbb::cache_aligned_allocator<T>>;
#endif

    void add_entries(const Front& front, const std::vector<double>& values) {
        T* block = m_factor.data() + front.diagonal;
        for (int e = front.entry_begin; e < front.entry_end; ++e) {
            const auto& entry = m_tree->entries[std::size_t(e)];
            block[entry.offset] += T(values[std::size_t(entry.value)]);
        }
    }

    bool eliminate_half(std::size_t half, const std::vector<double>& values) {
        for (std::size_t f = half == 0 ? 0 : m_tree->half_end[0]; f < m_tree->half_end[half]; ++f)
            if (!eliminate(m_tree->fronts[f], values, false)) return false;
        return true;
    }

    bool eliminate(const Front& front, const std::vector<double>& values, bool two_cores) {
        T *diagonal = m_factor.data() + front.diagonal, *below = m_factor.data() + front.below(),
          *update = m_updates.data() + front.update;
        const int rows = front.row_count();
        std::fill(diagonal, below + long(front.columns) * padded(rows), T(0));
        add_entries(front, values);
        for (int child : front.children)
            add_to_columns(front, m_tree->fronts[std::size_t(child)], diagonal, below);
        if (!factor_diagonal(diagonal, front.columns, two_cores)) return false;
        if (rows == 0) return true;
        solve_rows(below, rows, diagonal, front.columns, two_cores);
        outer_product(update, below, rows, front.columns, two_cores);
        for (int child : front.children) add_to_update(rows, m_tree->fronts[std::size_t(child)], update);
        return true;
    }

    /// The part of a child's update that falls on the parent's columns.
    void add_to_columns(const Front& parent, const Front& child, T* diagonal, T* below) const {
        const int *place = child.place.data(), count = child.row_count();
        const T* from = m_updates.data() + child.update;
        for (int c = 0; c < child.in_columns; ++c, from += padded(count)) {
            T* to = diagonal + long(place[c]) * padded(parent.columns);
            for (int r = c; r < child.in_columns; ++r) to[place[r]] += from[r];
            to = below + long(place[c]) * padded(parent.row_count());
            for (int r = child.in_columns; r < count; ++r) to[place[r]] += from[r];
        }
    }

    void add_to_update(int parent_rows, const Front& child, T* update) const {
        const int *place = child.place.data(), count = child.row_count();
        const T* from = m_updates.data() + child.update + long(child.in_columns) * padded(count);
        for (int c = child.in_columns; c < count; ++c, from += padded(count)) {
            T* to = update + long(place[c]) * padded(parent_rows);
            for (int r = c; r < count; ++r) to[place[r]] += from[r];
        }
    }

    /// Of fronts `from` up to `to`; `top` are the values of the top's columns.
    void forward(std::size_t from, std::size_t to, T* top, T* change) {
        const int first_top = m_tree->first_top_column;
        for (std::size_t f = from; f < to; ++f) {
            const Front& front = m_tree->fronts[f];
            T* x = m_ordered.data() + front.first;
            // A source in a few places leaves most fronts nothing to hand on.
            if (std::all_of(x, x + front.columns, [](T value) { return value == 0; })) continue;
            solve_lower(m_factor.data() + front.diagonal, front.columns, x);
            if (front.rows.empty()) continue;
            times(change, m_factor.data() + front.below(), front.row_count(), front.columns, x);
            std::size_t r = 0;
            for (; r < front.rows.size() && front.rows[r] < first_top; ++r)
                m_ordered[std::size_t(front.rows[r])] -= change[r];
            for (; r < front.rows.size(); ++r) top[front.rows[r] - first_top] -= change[r];
        }
    }

    void backward(std::size_t from, std::size_t to, T* row_values) {
        for (std::size_t f = to; f-- > from;) {
            const Front& front = m_tree->fronts[f];
            T* x = m_ordered.data() + front.first;
            for (std::size_t r = 0; r < front.rows.size(); ++r)
                row_values[r] = m_ordered[std::size_t(front.rows[r])];
            if (!front.rows.empty())
                subtract_transposed_times(x, m_factor.data() + front.below(), front.row_count(), front.columns,
                                          row_values);
            solve_upper(m_factor.data() + front.diagonal, front.columns, x);
        }
    }

    std::shared_ptr<const FrontTree> m_tree;
    Aligned m_factor, m_updates;
    std::vector<Aligned> m_into_roots; ///< what the others hand to each part of the root
    Aligned m_rows[2];                 ///< of the front in hand, in each half
    Aligned m_across;                  ///< what the second half adds to the top's values
    std::vector<T> m_ordered;
    bool m_two_cores = false;
};

} // namespace

std::unique_ptr<Cholesky> make_multifrontal(std::shared_ptr<const SparsePattern> pattern,
                                            const std::vector<int>& root) {
    return std::make_unique<Multifrontal<double>>(
        std::make_shared<const FrontTree>(make_front_tree(*pattern, root)));
}

} // namespace mavlo
