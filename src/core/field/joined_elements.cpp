#include "field/joined_elements.h"

#include <map>
#include <numeric>

namespace mavlo {
namespace {

/// Sets that are joined one by one; each member knows its sign against its set's first (R.E. Tarjan, J. ACM 22,
/// 1975, with a sign carried along).
class SignedSets {
  public:
    explicit SignedSets(std::size_t count)
        : m_parent(count)
        , m_sign(count, 1)
        , m_contradicted(count, 0) {
        std::iota(m_parent.begin(), m_parent.end(), std::size_t(0));
    }

    struct Root {
        std::size_t member;
        int sign;
    };
    Root find(std::size_t member) const {
        Root at{member, 1};
        while (m_parent[at.member] != at.member) {
            at.sign *= m_sign[at.member];
            at.member = m_parent[at.member];
        }
        return at;
    }
    void join(std::size_t a, std::size_t b, int sign) {
        const Root ra = find(a), rb = find(b);
        if (ra.member == rb.member) {
            if (ra.sign * rb.sign != sign) m_contradicted[ra.member] = 1;
            return;
        }
        const bool shorter = m_size[rb.member] > m_size[ra.member];
        const std::size_t under = shorter ? ra.member : rb.member, over = shorter ? rb.member : ra.member;
        m_parent[under] = over;
        m_sign[under] = ra.sign * rb.sign * sign;
        m_size[over] += m_size[under];
        m_contradicted[over] = char(m_contradicted[over] | m_contradicted[under]);
    }
    bool contradicted(std::size_t root) const { return m_contradicted[root] != 0; }

  private:
    std::vector<std::size_t> m_parent;
    std::vector<int> m_sign;
    std::vector<char> m_contradicted;
    std::vector<std::size_t> m_size = std::vector<std::size_t>(m_parent.size(), 1);
};

} // namespace

std::vector<JoinedElements> joined_elements(const FieldModel& model, const std::vector<std::size_t>& elements) {
    SignedSets sets(elements.size());
    struct Seen {
        std::size_t member;
        double sign;
    };
    std::map<int, Seen> edges; // by the unknown in their middle
    for (std::size_t i = 0; i < elements.size(); ++i) {
        const auto& e = model.elements[elements[i]];
        for (std::size_t k = 3; k < 6; ++k) {
            if (e.unknown[k] < 0) continue;
            const auto [known, is_new] = edges.try_emplace(e.unknown[k], Seen{i, e.sign[k]});
            if (!is_new) sets.join(known->second.member, i, known->second.sign * e.sign[k] < 0 ? -1 : 1);
        }
    }
    std::map<std::size_t, JoinedElements> pieces;
    for (std::size_t i = 0; i < elements.size(); ++i) {
        const auto root = sets.find(i);
        JoinedElements& piece = pieces[root.member];
        piece.elements.push_back(elements[i]);
        piece.sign.push_back(root.sign);
        piece.reverses = sets.contradicted(root.member);
    }
    std::vector<JoinedElements> list;
    for (auto& [root, piece] : pieces) list.push_back(std::move(piece));
    return list;
}

} // namespace mavlo
