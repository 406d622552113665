#pragma once
// The last few field models, so that Probe and the tell-tales mesh a design once.

#include "figure/machine_model.h"
#include "shell/document.h"

#include <future>
#include <list>
#include <mutex>

namespace mavlo::app {

class ModelCache {
  public:
    /// Prepares the model or finds it; callable from any thread. Threads that want the same one wait for the
    /// first of them, others do not.
    Result<std::shared_ptr<const MachineModel>> model(const DrawnMachine& built, Quality quality);

  private:
    using Prepared = Result<std::shared_ptr<const MachineModel>>;
    struct Entry {
        std::string hash;
        Quality quality;
        std::shared_future<Prepared> model;
    };
    static constexpr std::size_t most = 6;
    std::mutex m_mutex;
    std::list<Entry> m_entries; ///< newest first
};

} // namespace mavlo::app
