#include "field/multifrontal.h"

#include "field/dense_kernels.h"
#include "field/front_tree.h"

#include <algorithm>
#include <cstring>

extern "C" {
void dtrsv_(const char*, const char*, const char*, const int*, const double*, const int*, double*, const int*);
}

namespace mavlo {
namespace {

class Multifrontal final : public Cholesky {
  public:
    explicit Multifrontal(std::shared_ptr<const FrontTree> tree)
        : m_tree(std::move(tree)) {
        m_panels.resize(std::size_t(m_tree->panel_size));
        m_stack.resize(std::size_t(m_tree->stack_size));
        m_ordered.resize(m_tree->order.size());
    }

    bool factorise(const std::vector<double>& values) override {
        double* top = m_stack.data();
        m_updates.assign(m_tree->fronts.size(), nullptr);
        for (std::size_t f = 0; f < m_tree->fronts.size(); ++f) {
            const auto& front = m_tree->fronts[f];
            double* panel = m_panels.data() + front.panel;
            std::fill_n(panel, long(front.size) * front.columns, 0.0);
            for (int e = front.entry_begin; e < front.entry_end; ++e)
                panel[m_tree->entries[std::size_t(e)].offset] +=
                    values[std::size_t(m_tree->entries[std::size_t(e)].value)];
            const int rest = front.size - front.columns;
            double* update = top;
            std::fill_n(update, long(rest) * rest, 0.0);
            for (int child : front.children) add_update(front, child, panel, update);
            if (!factor_panel(panel, front.size, front.columns)) return false;
            if (rest > 0) subtract_square(update, rest, panel + front.columns, front.size, front.columns);
            // The children's updates lie just below and are done with: move into their place.
            if (!front.children.empty()) {
                double* begin = m_updates[std::size_t(front.children.front())];
                std::memmove(begin, update, std::size_t(rest) * std::size_t(rest) * sizeof(double));
                update = begin;
            }
            m_updates[f] = update;
            top = update + long(rest) * rest;
        }
        return true;
    }

    void solve(std::vector<double>& x) override {
        for (std::size_t k = 0; k < x.size(); ++k) m_ordered[k] = x[std::size_t(m_tree->order[k])];
        for (const auto& front : m_tree->fronts) forward(front);
        for (auto front = m_tree->fronts.rbegin(); front != m_tree->fronts.rend(); ++front) backward(*front);
        for (std::size_t k = 0; k < x.size(); ++k) x[std::size_t(m_tree->order[k])] = m_ordered[k];
    }

    std::unique_ptr<Cholesky> copy() const override { return std::make_unique<Multifrontal>(m_tree); }
    double factor_entries() const override { return double(m_tree->panel_size); }

  private:
    void add_update(const FrontTree::Front& parent, int child_index, double* panel, double* update) {
        const auto& child = m_tree->fronts[std::size_t(child_index)];
        const double* from = m_updates[std::size_t(child_index)];
        const int count = int(child.rows.size()), rest = parent.size - parent.columns;
        const int* place = child.place.data();
        for (int c = 0; c < count; ++c, from += count) {
            const int column = place[c];
            double* to = column < parent.columns
                             ? panel + long(column) * parent.size
                             : update + long(column - parent.columns) * rest - parent.columns;
            for (int r = c; r < count; ++r) to[place[r]] += from[r];
        }
    }

    void forward(const FrontTree::Front& front) {
        const double* l = m_panels.data() + front.panel;
        double* x = m_ordered.data() + front.first;
        const int one = 1, rest = front.size - front.columns;
        if (front.columns > 32) {
            dtrsv_("L", "N", "N", &front.columns, l, &front.size, x, &one);
        } else {
            for (int j = 0; j < front.columns; ++j) {
                const double* column = l + long(j) * front.size;
                x[j] /= column[j];
                for (int i = j + 1; i < front.columns; ++i) x[i] -= column[i] * x[j];
            }
        }
        if (rest == 0) return;
        m_rows.assign(std::size_t(rest), 0.0);
        for (int j = 0; j < front.columns; ++j) {
            const double* column = l + long(j) * front.size + front.columns;
            const double xj = x[j];
            for (int i = 0; i < rest; ++i) m_rows[std::size_t(i)] += column[i] * xj;
        }
        for (int i = 0; i < rest; ++i)
            m_ordered[std::size_t(front.rows[std::size_t(i)])] -= m_rows[std::size_t(i)];
    }

    void backward(const FrontTree::Front& front) {
        const double* l = m_panels.data() + front.panel;
        double* x = m_ordered.data() + front.first;
        const int one = 1, rest = front.size - front.columns;
        m_rows.resize(std::size_t(rest));
        for (int i = 0; i < rest; ++i)
            m_rows[std::size_t(i)] = m_ordered[std::size_t(front.rows[std::size_t(i)])];
        for (int j = front.columns - 1; j >= 0; --j) {
            const double* column = l + long(j) * front.size;
            double sum = 0;
            for (int i = 0; i < rest; ++i) sum += column[front.columns + i] * m_rows[std::size_t(i)];
            x[j] -= sum;
        }
        if (front.columns > 32) {
            dtrsv_("L", "T", "N", &front.columns, l, &front.size, x, &one);
            return;
        }
        for (int j = front.columns - 1; j >= 0; --j) {
            const double* column = l + long(j) * front.size;
            double value = x[j];
            for (int i = j + 1; i < front.columns; ++i) value -= column[i] * x[i];
            x[j] = value / column[j];
        }
    }

    std::shared_ptr<const FrontTree> m_tree;
    std::vector<double> m_panels, m_stack, m_ordered, m_rows;
    std::vector<double*> m_updates;
};

} // namespace

std::unique_ptr<Cholesky> make_multifrontal(std::shared_ptr<const SparsePattern> pattern,
                                            const std::vector<int>& root) {
    return std::make_unique<Multifrontal>(std::make_shared<const FrontTree>(make_front_tree(*pattern, root)));
}

} // namespace mavlo
