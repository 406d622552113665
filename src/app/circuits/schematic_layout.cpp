#include "circuits/schematic_layout.h"

#include <algorithm>
#include <functional>

namespace mavlo::app {
namespace {

constexpr int ground = 0;

/// How far a node lies over the ground: the longest way down through elements, each from its first node to its
/// second; a way that comes back to itself ends there.
std::vector<int> levels_of(const Network& network) {
    const std::size_t count = network.nodes.size();
    std::vector<std::vector<int>> below(count);
    for (const Element& e : network.elements)
        if (e.from != ground) below[std::size_t(e.from)].push_back(e.to);
    std::vector<int> level(count, -1);
    std::vector<bool> open(count, false);
    level[ground] = 0;
    const std::function<int(int)> visit = [&](int node) {
        int& known = level[std::size_t(node)];
        if (known >= 0 || open[std::size_t(node)]) return std::max(known, 0);
        open[std::size_t(node)] = true;
        int highest = 0;
        for (int other : below[std::size_t(node)]) highest = std::max(highest, visit(other));
        open[std::size_t(node)] = false;
        return known = highest + 1;
    };
    for (std::size_t n = 1; n < count; ++n) visit(int(n));
    return level;
}

bool overlap(const SchematicLayout::Line& a, const SchematicLayout::Line& b) {
    return a.first <= b.last && b.first <= a.last;
}

} // namespace

SchematicLayout layout_of(const Network& network) {
    SchematicLayout out;
    out.columns = int(network.elements.size());
    out.nodes.resize(network.nodes.size(), {-1, out.columns, -1});
    for (int column = 0; column < out.columns; ++column) {
        const Element& e = network.elements[std::size_t(column)];
        for (int node : {e.from, e.to}) {
            auto& line = out.nodes[std::size_t(node)];
            line.first = std::min(line.first, column);
            line.last = std::max(line.last, column);
        }
    }
    const std::vector<int> level = levels_of(network);
    const int highest = *std::max_element(level.begin(), level.end());
    for (int l = highest; l >= 0; --l) {
        // As many rows as nodes of this level stand over each other.
        std::vector<std::vector<SchematicLayout::Line>> rows;
        for (std::size_t n = 0; n < level.size(); ++n) {
            if (level[n] != l || out.nodes[n].last < 0) continue;
            auto row = std::find_if(rows.begin(), rows.end(), [&](const auto& taken) {
                return std::none_of(taken.begin(), taken.end(),
                                    [&](const auto& line) { return overlap(line, out.nodes[n]); });
            });
            if (row == rows.end()) row = rows.emplace(rows.end());
            row->push_back(out.nodes[n]);
            out.nodes[n].row = out.rows + int(row - rows.begin());
        }
        out.rows += int(rows.size());
    }
    return out;
}

} // namespace mavlo::app
