// Sizings that were found are kept: they cost some dozen fields.

#include "question/accuracy.h"

#include <fmt/format.h>
#include <list>
#include <mutex>

namespace mavlo {
namespace {

/// The last ones, by what they were found for. They follow from it alone, so that nothing depends on who asks.
class Memory {
  public:
    std::optional<Sizing> find(const std::string& subject) {
        const std::lock_guard lock(m_mutex);
        for (auto entry = m_entries.begin(); entry != m_entries.end(); ++entry)
            if (entry->first == subject) {
                m_entries.splice(m_entries.begin(), m_entries, entry);
                return entry->second;
            }
        return std::nullopt;
    }
    void keep(const std::string& subject, const Sizing& sizing) {
        const std::lock_guard lock(m_mutex);
        m_entries.emplace_front(subject, sizing);
        if (m_entries.size() > most) m_entries.pop_back();
    }

  private:
    static constexpr std::size_t most = 32;
    std::mutex m_mutex;
    std::list<std::pair<std::string, Sizing>> m_entries;
};

Memory& memory() {
    static Memory instance;
    return instance;
}

/// Rows: body, number, x, y, size of each hint; then two of what is left, the second with the coarseness, and
/// an end that counts the hints.
constexpr const char* kind = "mesh";
constexpr std::size_t keys = 2, columns = 5;
constexpr double least_size = 1e-6; ///< m: no element that was wanted is smaller
constexpr std::size_t most_hints = 200000;

} // namespace

std::optional<Sizing> read_sizing(const PointStore& store, std::size_t bodies) {
    const auto rows = store.read(kind, keys, columns);
    if (rows.size() > most_hints) return std::nullopt;
    const auto end = rows.find({-1, 0});
    const auto torques = rows.find({-2, 0}), linkage = rows.find({-3, 0});
    if (end == rows.end() || torques == rows.end() || linkage == rows.end() ||
        double(rows.size()) != end->second[2] + 3 || linkage->second[4] < 0.1 || linkage->second[4] > 10)
        return std::nullopt;
    Sizing sizing;
    sizing.left = {torques->second[2], torques->second[3], torques->second[4], linkage->second[2]};
    sizing.solves = int(linkage->second[3]);
    sizing.coarseness = linkage->second[4];
    sizing.hints.resize(bodies);
    sizing.share = end->second[3];
    for (const auto& [key, row] : rows)
        if (key[0] >= 0 && key[0] < double(bodies)) {
            if (!(row[4] > least_size)) return std::nullopt;
            sizing.hints[std::size_t(key[0])].push_back({{row[2], row[3]}, row[4]});
        }
    return sizing;
}

void write_sizing(const PointStore& store, const Sizing& sizing) {
    if (!store.keeps()) return;
    int count = 0;
    for (std::size_t b = 0; b < sizing.hints.size(); ++b)
        for (std::size_t i = 0; i < sizing.hints[b].size(); ++i, ++count) {
            const SizeHint& hint = sizing.hints[b][i];
            store.append(kind, {double(b), double(i), hint.at.x, hint.at.y, hint.size});
        }
    store.append(kind, {-2, 0, sizing.left.cogging, sizing.left.ripple, sizing.left.mean_torque});
    store.append(kind, {-3, 0, sizing.left.linkage, double(sizing.solves), sizing.coarseness});
    store.append(kind, {-1, 0, double(count), sizing.share, 0});
}

Result<Sizing> kept_sizing(const Machine& machine, const std::string& subject, Quality quality,
                           const Promise& promise, int threads, const Watch& watch, const PointStore& store) {
    const std::string what = fmt::format("{} {} {:g} {:g} {}", subject, to_string(quality), promise.waveform,
                                         promise.mean, trial_text(machine, promise.whole_range()));
    if (const auto known = memory().find(what)) return *known;
    const PointStore own = store.of(what);
    if (auto known = read_sizing(own, machine.section.bodies.size())) {
        memory().keep(what, *known);
        return *known;
    }
    auto found = find_sizing(machine, quality, promise, threads, watch);
    if (!found) {
        if (is_stopped(found.problems())) return found.problems();
        return Sizing{}; // the question will say what is wrong, if it is of its fields too
    }
    memory().keep(what, *found);
    write_sizing(own, *found);
    return found;
}

} // namespace mavlo
