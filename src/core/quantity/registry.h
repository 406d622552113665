#pragma once
// What registers itself at start-up: kinds of slots, rotors, questions, parameters. One for each type of kind.

#include <algorithm>
#include <cassert>
#include <list>
#include <string>
#include <string_view>
#include <vector>

namespace mavlo {

/// Names tell kinds apart; a kind whose name may serve twice says with an overload of its own what does.
template <class Kind>
bool is_same_kind(const Kind& a, const Kind& b) {
    return a.name == b.name;
}

/// All kinds of one type, each with a `name` and an `order`; sorted by order and name, whatever the order of
/// registration. Kinds stay where they are, so that pointers to them last.
template <class Kind>
class Registry {
  public:
    static Registry& instance() {
        static Registry registry;
        return registry;
    }

    /// Names must differ.
    void add(Kind kind) {
        assert(std::none_of(m_kinds.begin(), m_kinds.end(),
                            [&](const Kind& k) { return is_same_kind(k, kind); }) &&
               "a kind of this name is registered already");
        auto place = m_kinds.begin();
        while (place != m_kinds.end() && before(*place, kind)) ++place;
        m_kinds.insert(place, std::move(kind));
    }

    const Kind* find(std::string_view name) const {
        for (const Kind& kind : m_kinds)
            if (kind.name == name) return &kind;
        return nullptr;
    }

    const std::list<Kind>& all() const { return m_kinds; }

    std::vector<std::string> names() const {
        std::vector<std::string> list;
        for (const Kind& kind : m_kinds) list.push_back(kind.name);
        return list;
    }

  private:
    static bool before(const Kind& a, const Kind& b) {
        return a.order != b.order ? a.order < b.order : a.name < b.name;
    }
    std::list<Kind> m_kinds;
};

/// `static const Register<SlotKind> registered{{...}};`
template <class Kind>
struct Register {
    explicit Register(Kind kind) { Registry<Kind>::instance().add(std::move(kind)); }
};

template <class Kind>
const Registry<Kind>& registry() {
    return Registry<Kind>::instance();
}

} // namespace mavlo
