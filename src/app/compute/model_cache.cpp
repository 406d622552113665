#include "compute/model_cache.h"

#include <algorithm>

namespace mavlo::app {

Result<std::shared_ptr<const MachineModel>> ModelCache::model(const DrawnMachine& built, Quality quality) {
    std::promise<Prepared> mine;
    std::shared_future<Prepared> model;
    {
        const std::lock_guard lock(m_mutex);
        const auto found = std::find_if(m_entries.begin(), m_entries.end(), [&](const Entry& e) {
            return e.hash == built.hash && e.quality == quality;
        });
        if (found != m_entries.end()) {
            m_entries.splice(m_entries.begin(), m_entries, found);
            model = found->model;
        } else {
            m_entries.push_front({built.hash, quality, mine.get_future().share()});
            if (m_entries.size() > most) m_entries.pop_back();
        }
    }
    if (model.valid()) return model.get();
    Prepared prepared = prepare_field(of_section(built.machine), {quality});
    mine.set_value(prepared);
    return prepared;
}

} // namespace mavlo::app
