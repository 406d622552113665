#include "field/front_tree.h"

#include "field/dense_kernels.h"

#include <algorithm>
#include <cholmod.h>
#include <numeric>
#include <set>

namespace mavlo {
namespace {

/// Share of all that lies below the root that a piece of a half may have at the most.
constexpr double largest_piece = 0.1;

/// Approximate minimum degree with the root's unknowns constrained to the end.
std::vector<int> fill_reducing_order(const SparsePattern& pattern, const std::vector<bool>& in_root) {
    // The dense coupling within the root says nothing about the order of the others, so it is left out.
    std::vector<int> column{0}, row;
    for (int j = 0; j < pattern.size; ++j) {
        for (int k = pattern.column[std::size_t(j)]; k < pattern.column[std::size_t(j) + 1]; ++k) {
            const int i = pattern.row[std::size_t(k)];
            if (i == j || !(in_root[std::size_t(i)] && in_root[std::size_t(j)])) row.push_back(i);
        }
        column.push_back(int(row.size()));
    }
    cholmod_common common;
    cholmod_start(&common);
    cholmod_sparse matrix{};
    matrix.nrow = matrix.ncol = std::size_t(pattern.size);
    matrix.nzmax = row.size();
    matrix.p = column.data();
    matrix.i = row.data();
    matrix.stype = -1;
    matrix.itype = CHOLMOD_INT;
    matrix.xtype = CHOLMOD_PATTERN;
    matrix.sorted = matrix.packed = 1;
    std::vector<int> member(in_root.begin(), in_root.end()), order(in_root.size());
    cholmod_camd(&matrix, nullptr, 0, member.data(), order.data(), &common);
    cholmod_finish(&common);
    return order;
}

/// A supernode while they are found and merged.
struct Node {
    std::vector<int> columns, rows; ///< in the first order; rows rising, all behind the columns
    int parent = -1;
    std::vector<int> children;
    bool merged = false;
    double zeros = 0; ///< that merging put into its columns so far
};

class Symbolic {
  public:
    Symbolic(const SparsePattern& pattern, const std::vector<int>& root)
        : m_pattern(pattern)
        , m_in_root(std::size_t(pattern.size), false) {
        for (int r : root) m_in_root[std::size_t(r)] = true;
        m_interior = pattern.size - int(root.size());
    }

    FrontTree run() {
        if (m_interior > 0) {
            m_order = fill_reducing_order(m_pattern, m_in_root);
        } else { // nothing but the root: any order is as good
            m_order.resize(std::size_t(m_pattern.size));
            std::iota(m_order.begin(), m_order.end(), 0);
        }
        m_position.resize(m_order.size());
        for (std::size_t k = 0; k < m_order.size(); ++k) m_position[std::size_t(m_order[k])] = int(k);
        find_supernodes();
        merge_small();
        number_fronts();
        measure();
        map_entries();
        return std::move(m_tree);
    }

  private:
    /// Column structures of L from the matrix and the children; columns whose structure just continues share a
    /// node.
    void find_supernodes() {
        std::vector<std::vector<int>> below{std::size_t(m_interior)}; // entries of A under each column
        for (int j = 0; j < m_pattern.size; ++j)
            for (int k = m_pattern.column[std::size_t(j)]; k < m_pattern.column[std::size_t(j) + 1]; ++k) {
                const int p = m_position[std::size_t(j)],
                          q = m_position[std::size_t(m_pattern.row[std::size_t(k)])];
                const int low = std::min(p, q), high = std::max(p, q);
                if (low < m_interior && low != high) below[std::size_t(low)].push_back(high);
            }
        std::vector<int> node_of(std::size_t(m_pattern.size), -1);
        std::vector<std::vector<int>> kids{std::size_t(m_interior)}; // nodes whose parent column this is
        std::vector<int> root_kids;
        for (int j = 0; j < m_interior; ++j) {
            std::vector<int> rows = std::move(below[std::size_t(j)]);
            for (int child : kids[std::size_t(j)]) {
                const auto& from = m_nodes[std::size_t(child)].rows;
                rows.insert(rows.end(), from.begin() + 1, from.end()); // the first is j itself
            }
            std::sort(rows.begin(), rows.end());
            rows.erase(std::unique(rows.begin(), rows.end()), rows.end());
            int node = -1;
            // Only child, and it loses nothing but j: the same supernode.
            if (kids[std::size_t(j)].size() == 1 &&
                m_nodes[std::size_t(kids[std::size_t(j)][0])].rows.size() == rows.size() + 1)
                node = kids[std::size_t(j)][0];
            else {
                node = int(m_nodes.size());
                m_nodes.push_back({});
                for (int child : kids[std::size_t(j)]) adopt(node, child);
            }
            m_nodes[std::size_t(node)].columns.push_back(j);
            m_nodes[std::size_t(node)].rows = std::move(rows);
            const auto& left = m_nodes[std::size_t(node)].rows;
            if (!left.empty() && left.front() < m_interior)
                kids[std::size_t(left.front())].push_back(node);
            else
                root_kids.push_back(node);
        }
        make_roots(root_kids);
    }

    /// The root's columns, parted where nothing joins them: neither an entry nor what is eliminated below them.
    void make_roots(const std::vector<int>& root_kids) {
        std::vector<int> leader(std::size_t(m_pattern.size - m_interior));
        std::iota(leader.begin(), leader.end(), 0);
        const auto find = [&](int column) {
            int at = column - m_interior;
            while (leader[std::size_t(at)] != at)
                at = leader[std::size_t(at)] = leader[std::size_t(leader[std::size_t(at)])];
            return at;
        };
        const auto join = [&](int a, int b) {
            const int p = find(a), q = find(b);
            leader[std::size_t(std::max(p, q))] = std::min(p, q);
        };
        for (int j = 0; j < m_pattern.size; ++j)
            for (int k = m_pattern.column[std::size_t(j)]; k < m_pattern.column[std::size_t(j) + 1]; ++k) {
                const int p = m_position[std::size_t(j)],
                          q = m_position[std::size_t(m_pattern.row[std::size_t(k)])];
                if (std::min(p, q) >= m_interior) join(p, q);
            }
        for (int child : root_kids)
            for (int row : m_nodes[std::size_t(child)].rows)
                join(m_nodes[std::size_t(child)].rows.front(), row);
        m_first_root = int(m_nodes.size());
        std::vector<int> node_of(leader.size(), -1);
        for (int j = m_interior; j < m_pattern.size; ++j) {
            int& node = node_of[std::size_t(find(j))];
            if (node < 0) {
                node = int(m_nodes.size());
                m_nodes.push_back({});
            }
            m_nodes[std::size_t(node)].columns.push_back(j);
        }
        for (int child : root_kids) { // what has no rows at all may hang on any
            const auto& rows = m_nodes[std::size_t(child)].rows;
            adopt(rows.empty() ? m_first_root : node_of[std::size_t(find(rows.front()))], child);
        }
    }

    void adopt(int parent, int child) {
        m_nodes[std::size_t(child)].parent = parent;
        m_nodes[std::size_t(parent)].children.push_back(child);
    }

    /// Merges a child into its parent where both are small or the zeros added are few.
    void merge_small() {
        for (int p = 0; p < int(m_nodes.size()); ++p) { // children come before parents
            if (p >= m_first_root) break;               // the root stays what the gap is
            Node& parent = m_nodes[std::size_t(p)];
            for (std::size_t c = 0; c < parent.children.size();) {
                Node& child = m_nodes[std::size_t(parent.children[c])];
                const double columns = double(parent.columns.size() + child.columns.size());
                const double size = columns + double(parent.rows.size());
                // Of all the zeros in the merged front, or a large parent would swallow one small child after
                // the other.
                const double zeros = parent.zeros + child.zeros +
                                     double(child.columns.size()) *
                                         (size - double(child.columns.size()) - double(child.rows.size()));
                const double share = zeros / (columns * size);
                const bool merge = share < 0.08 || (columns <= 16 && share < 0.4) || columns <= 4;
                if (!merge) {
                    ++c;
                    continue;
                }
                parent.columns.insert(parent.columns.end(), child.columns.begin(), child.columns.end());
                child.merged = true;
                parent.zeros = zeros;
                const std::vector<int> grandchildren = child.children;
                parent.children.erase(parent.children.begin() + std::ptrdiff_t(c));
                for (int g : grandchildren) adopt(p, g);
            }
            std::sort(parent.columns.begin(), parent.columns.end());
        }
    }

    /// What a front costs, in multiplications; its entries are loaded and stored, and it has a share by itself.
    static double cost(const Node& node) {
        const double k = double(node.columns.size()), r = double(node.rows.size());
        return k * k * k / 3 + r * k * k + r * r * k + 40 * k * (k / 2 + r) + 3000;
    }

    /// Subtrees of two halves of about equal cost. What joins them is the top: the root, and what had to be
    /// taken apart because it was too large a piece.
    std::array<std::vector<int>, 2> halves() const {
        std::vector<double> with_below(m_nodes.size());
        for (std::size_t n = 0; n < m_nodes.size(); ++n) {
            if (m_nodes[n].merged) continue;
            with_below[n] += cost(m_nodes[n]);
            if (m_nodes[n].parent >= 0) with_below[std::size_t(m_nodes[n].parent)] += with_below[n];
        }
        const auto lighter = [&](int a, int b) {
            return with_below[std::size_t(a)] != with_below[std::size_t(b)]
                       ? with_below[std::size_t(a)] < with_below[std::size_t(b)]
                       : a < b;
        };
        std::set<int, decltype(lighter)> pieces(lighter);
        const auto take_apart = [&](int n) {
            const auto& children = m_nodes[std::size_t(n)].children;
            pieces.insert(children.begin(), children.end());
        };
        for (int n = m_first_root; n < int(m_nodes.size()); ++n) take_apart(n);
        double whole = 0;
        for (int n : pieces) whole += with_below[std::size_t(n)];
        while (!pieces.empty()) {
            const int heaviest = *pieces.rbegin();
            if (with_below[std::size_t(heaviest)] <= largest_piece * whole ||
                m_nodes[std::size_t(heaviest)].children.empty())
                break;
            pieces.erase(heaviest);
            take_apart(heaviest);
        }
        std::array<std::vector<int>, 2> result;
        std::array<double, 2> taken{};
        for (auto piece = pieces.rbegin(); piece != pieces.rend(); ++piece) {
            const std::size_t half = taken[1] < taken[0];
            result[half].push_back(*piece);
            taken[half] += with_below[std::size_t(*piece)];
        }
        return result;
    }

    /// Fronts in postorder, half by half and then the top; columns are renumbered in the order of their fronts.
    void number_fronts() {
        m_front_of.assign(m_nodes.size(), -1);
        std::vector<int> renumbered(std::size_t(m_pattern.size));
        int next = 0;
        const std::array<std::vector<int>, 2> pieces = halves();
        for (std::size_t half = 0; half < 2; ++half) {
            for (int piece : pieces[half]) number_below(piece, renumbered, next);
            m_tree.half_end[half] = m_tree.fronts.size();
        }
        m_tree.first_top_column = next;
        for (int n = m_first_root; n < int(m_nodes.size()); ++n) {
            const auto& children = m_nodes[std::size_t(n)].children;
            for (auto child = children.rbegin(); child != children.rend(); ++child)
                if (m_front_of[std::size_t(*child)] < 0) number_below(*child, renumbered, next);
        }
        m_tree.first_root = m_tree.fronts.size();
        for (int n = m_first_root; n < int(m_nodes.size()); ++n) number_below(n, renumbered, next);
        m_tree.order.resize(m_order.size());
        for (std::size_t k = 0; k < m_order.size(); ++k) m_tree.order[std::size_t(renumbered[k])] = m_order[k];
        for (std::size_t k = 0; k < m_order.size(); ++k) m_position[std::size_t(m_tree.order[k])] = int(k);
        for (auto& front : m_tree.fronts) {
            for (int& row : front.rows) row = renumbered[std::size_t(row)];
            std::sort(front.rows.begin(), front.rows.end());
        }
        for (const auto& front : m_tree.fronts)
            for (int child : front.children) place_rows(m_tree.fronts[std::size_t(child)], front);
    }

    /// A subtree's fronts that are not numbered yet.
    void number_below(int top, std::vector<int>& renumbered, int& next) {
        std::vector<int> stack{top};
        std::vector<bool> opened(m_nodes.size(), false);
        while (!stack.empty()) {
            const int n = stack.back();
            const Node& node = m_nodes[std::size_t(n)];
            if (!opened[std::size_t(n)]) {
                opened[std::size_t(n)] = true;
                for (int child : node.children)
                    if (m_front_of[std::size_t(child)] < 0) stack.push_back(child);
                continue;
            }
            stack.pop_back();
            FrontTree::Front front;
            front.first = next;
            front.columns = int(node.columns.size());
            for (int child : node.children) front.children.push_back(m_front_of[std::size_t(child)]);
            std::sort(front.children.begin(), front.children.end());
            for (int column : node.columns) renumbered[std::size_t(column)] = next++;
            front.rows = node.rows;
            m_front_of[std::size_t(n)] = int(m_tree.fronts.size());
            m_tree.fronts.push_back(std::move(front));
        }
    }

    static void place_rows(FrontTree::Front& child, const FrontTree::Front& parent) {
        for (int row : child.rows) {
            const bool in_columns = row < parent.first + parent.columns;
            child.in_columns += in_columns;
            child.place.push_back(in_columns ? row - parent.first : place_in_rows(parent, row));
        }
    }

    static int place_in_rows(const FrontTree::Front& front, int row) {
        return int(std::lower_bound(front.rows.begin(), front.rows.end(), row) - front.rows.begin());
    }

    /// Of an entry in one of the front's columns, from the front's diagonal block on.
    static int offset_in(const FrontTree::Front& front, int row, int column) {
        const int c = column - front.first;
        if (row < front.first + front.columns) return c * padded(front.columns) + row - front.first;
        return int(front.below() - front.diagonal) + c * padded(front.row_count()) + place_in_rows(front, row);
    }

    void map_entries() {
        std::vector<int> front_of_column(std::size_t(m_pattern.size));
        for (std::size_t f = 0; f < m_tree.fronts.size(); ++f)
            for (int c = 0; c < m_tree.fronts[f].columns; ++c)
                front_of_column[std::size_t(m_tree.fronts[f].first + c)] = int(f);
        std::vector<int> count(m_tree.fronts.size() + 1, 0);
        const auto each = [&](auto act) {
            for (int j = 0; j < m_pattern.size; ++j)
                for (int k = m_pattern.column[std::size_t(j)]; k < m_pattern.column[std::size_t(j) + 1]; ++k) {
                    const int p = m_position[std::size_t(j)],
                              q = m_position[std::size_t(m_pattern.row[std::size_t(k)])];
                    act(k, std::max(p, q), std::min(p, q));
                }
        };
        each([&](int, int, int low) { ++count[std::size_t(front_of_column[std::size_t(low)]) + 1]; });
        std::partial_sum(count.begin(), count.end(), count.begin());
        for (std::size_t f = 0; f < m_tree.fronts.size(); ++f) {
            m_tree.fronts[f].entry_begin = count[f];
            m_tree.fronts[f].entry_end = count[f + 1];
        }
        m_tree.entries.resize(std::size_t(count.back()));
        each([&](int value, int high, int low) {
            const int f = front_of_column[std::size_t(low)];
            const auto& front = m_tree.fronts[std::size_t(f)];
            m_tree.entries[std::size_t(count[std::size_t(f)]++)] = {value, offset_in(front, high, low)};
        });
    }

    /// 0 and 1: a half's; 2: the top's.
    std::size_t group_of(std::size_t front) const {
        return front < m_tree.half_end[0] ? 0 : front < m_tree.half_end[1] ? 1 : 2;
    }

    /// Lays out factor and updates. An update lives until its parent takes it in; those of even and odd depth
    /// are kept on a stack each, so that a parent's never overlaps its children's, and every half and the top
    /// have stacks of their own. What a half hands to the top lies apart.
    void measure() {
        const std::size_t count = m_tree.fronts.size();
        std::vector<int> depth(count, 0);
        std::vector<std::size_t> parent_group(count, 2);
        for (std::size_t f = count; f-- > 0;)
            for (int child : m_tree.fronts[f].children) {
                depth[std::size_t(child)] = depth[f] + 1;
                parent_group[std::size_t(child)] = group_of(f);
            }
        const auto area = [](const FrontTree::Front& f) {
            return long(padded(f.row_count())) * padded(f.row_count());
        };
        std::array<long, 7> held{}, most{}; // two stacks of each group, and what lies apart
        const auto stack_of = [&](std::size_t f) {
            const std::size_t group = group_of(f);
            return group != parent_group[f] ? std::size_t(6) : 2 * group + std::size_t(depth[f] % 2);
        };
        for (std::size_t f = 0; f < count; ++f) {
            auto& front = m_tree.fronts[f];
            front.diagonal = m_tree.factor_size;
            m_tree.factor_size = front.below() + long(front.columns) * padded(front.row_count());
            const std::size_t own = stack_of(f);
            front.update = held[own];
            held[own] += area(front);
            most[own] = std::max(most[own], held[own]);
            for (int child : front.children)
                if (const std::size_t stack = stack_of(std::size_t(child)); stack != 6)
                    held[stack] -= area(m_tree.fronts[std::size_t(child)]);
        }
        std::array<long, 7> begin{};
        std::partial_sum(most.begin(), most.end() - 1, begin.begin() + 1);
        for (std::size_t f = 0; f < count; ++f) m_tree.fronts[f].update += begin[stack_of(f)];
        m_tree.update_size = begin[6] + most[6];
    }

    const SparsePattern& m_pattern;
    std::vector<bool> m_in_root;
    int m_interior, m_first_root = -1; ///< nodes from here on are the root
    std::vector<int> m_order, m_position;
    std::vector<Node> m_nodes;
    std::vector<int> m_front_of; ///< of each node; -1: not numbered yet
    FrontTree m_tree;
};

} // namespace

long FrontTree::Front::below() const {
    return diagonal + long(columns) * padded(columns);
}

FrontTree make_front_tree(const SparsePattern& pattern, const std::vector<int>& root) {
    return Symbolic(pattern, root).run();
}

} // namespace mavlo
