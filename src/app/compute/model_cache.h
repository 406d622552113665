#pragma once
// The last few field models, so that Probe and the tell-tales mesh a design once.

#include "field/model.h"
#include "shell/document.h"

#include <list>
#include <mutex>

namespace mavlo::app {

class ModelCache {
  public:
    /// Prepares the model or finds it; callable from any thread. Two threads that want the same one wait for
    /// each other.
    Result<std::shared_ptr<const FieldModel>> model(const Built& built, Quality quality);

  private:
    struct Entry {
        std::string hash;
        Quality quality;
        std::shared_ptr<const FieldModel> model;
    };
    static constexpr std::size_t most = 6;
    std::mutex m_mutex;
    std::list<Entry> m_entries; ///< newest first
};

} // namespace mavlo::app
