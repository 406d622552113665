#pragma once
// Which nodes hang together.

#include <numeric>
#include <vector>

namespace mavlo {

/// Disjoint sets (R.E. Tarjan, J. ACM 22, 1975).
class NodeGroups {
  public:
    explicit NodeGroups(std::size_t count)
        : m_parent(count) {
        std::iota(m_parent.begin(), m_parent.end(), 0);
    }
    /// False where they were together already.
    bool join(int a, int b) {
        const int ra = root(a), rb = root(b);
        if (ra == rb) return false;
        m_parent[std::size_t(ra)] = rb;
        return true;
    }
    bool together(int a, int b) { return root(a) == root(b); }

  private:
    int root(int k) {
        while (m_parent[std::size_t(k)] != k)
            k = m_parent[std::size_t(k)] = m_parent[std::size_t(m_parent[std::size_t(k)])];
        return k;
    }
    std::vector<int> m_parent;
};

} // namespace mavlo
