#pragma once
// How many threads are taken where nobody says.

namespace mavlo {

/// The environment's MAVLO_THREADS (1 to 1024), or else as many as the machine has cores.
int most_threads();

} // namespace mavlo
