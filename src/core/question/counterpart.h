#pragma once
// What can be laid beside an answer: the same asked in another way.

#include "question/answer.h"

namespace mavlo {

struct Counterpart {
    std::string label;                         ///< "on the fields"
    std::map<std::string, std::string> inputs; ///< of the same question
};

/// Of runs in time: by the map what ran on fields and the other way round, and the run's own fundamental as
/// given current. Empty for answers that know no other way.
std::vector<Counterpart> counterparts(const Answer& answer);

} // namespace mavlo
