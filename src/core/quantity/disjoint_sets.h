#pragma once
// Groups of numbers that belong together.

#include <numeric>
#include <vector>

namespace mavlo {

/// R.E. Tarjan, J. ACM 22, 1975.
class DisjointSets {
  public:
    explicit DisjointSets(std::size_t count)
        : m_parent(count) {
        std::iota(m_parent.begin(), m_parent.end(), std::size_t(0));
    }
    /// The number that stands for its group.
    std::size_t of(std::size_t i) {
        while (m_parent[i] != i) i = m_parent[i] = m_parent[m_parent[i]];
        return i;
    }
    /// False where they were together already.
    bool join(std::size_t a, std::size_t b) {
        const std::size_t from = of(a), to = of(b);
        m_parent[from] = to;
        return from != to;
    }

  private:
    std::vector<std::size_t> m_parent;
};

} // namespace mavlo
