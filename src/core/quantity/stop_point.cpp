#include "quantity/stop_point.h"

#include <utility>

namespace mavlo {
namespace {
thread_local StopScope* in_scope = nullptr;
}

StopScope::StopScope(std::stop_token token)
    : m_token(std::move(token))
    , m_outer(std::exchange(in_scope, this)) {}

StopScope::~StopScope() {
    in_scope = m_outer;
}

void stop_point() {
    if (in_scope && in_scope->m_token.stop_requested()) throw StoppedThere{};
}

} // namespace mavlo
