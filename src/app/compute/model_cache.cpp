#include "compute/model_cache.h"

#include <algorithm>

namespace mavlo::app {

Result<std::shared_ptr<const FieldModel>> ModelCache::model(const Built& built, Quality quality) {
    const std::lock_guard lock(m_mutex);
    const auto found = std::find_if(m_entries.begin(), m_entries.end(), [&](const Entry& e) {
        return e.hash == built.hash && e.quality == quality;
    });
    if (found != m_entries.end()) {
        m_entries.splice(m_entries.begin(), m_entries, found);
        return m_entries.front().model;
    }
    auto prepared = prepare_field(built.machine, {quality});
    if (!prepared) return prepared;
    m_entries.push_front({built.hash, quality, *prepared});
    if (m_entries.size() > most) m_entries.pop_back();
    return prepared;
}

} // namespace mavlo::app
