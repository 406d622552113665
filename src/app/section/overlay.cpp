#include "section/overlay.h"

#include <algorithm>

namespace mavlo::app {

bool OverlaySet::has(std::string_view name) const {
    return std::any_of(m_list.begin(), m_list.end(), [&](const Overlay* o) { return o->name == name; });
}

void OverlaySet::set(const Overlay& overlay, bool on) {
    std::erase_if(m_list, [&](const Overlay* o) {
        return o == &overlay || (on && overlay.coloured && o->coloured) ||
               (on && overlay.alone && o->paint_on_colours);
    });
    if (!on) return;
    const auto place =
        std::find_if(m_list.begin(), m_list.end(), [&](const Overlay* o) { return o->order > overlay.order; });
    m_list.insert(place, &overlay);
}

const Overlay* OverlaySet::colours() const {
    const auto found = std::find_if(m_list.begin(), m_list.end(), [](const Overlay* o) { return o->coloured; });
    return found == m_list.end() ? nullptr : *found;
}

double OverlaySet::room(const Machine& machine) const {
    double most = 0;
    for (const Overlay* overlay : m_list)
        if (overlay->room) most = std::max(most, overlay->room(machine));
    return most;
}

bool OverlaySet::needs_field() const {
    return std::any_of(m_list.begin(), m_list.end(), [](const Overlay* o) { return o->needs_field; });
}

OverlaySet OverlaySet::at_first(const std::string& bench) {
    OverlaySet set;
    for (const Overlay& overlay : registry<Overlay>().all())
        if (overlay.at_first.contains(bench)) set.set(overlay, true);
    return set;
}

} // namespace mavlo::app
