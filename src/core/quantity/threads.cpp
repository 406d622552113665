#include "quantity/threads.h"

#include <algorithm>
#include <charconv>
#include <cstdlib>
#include <cstring>
#include <thread>

namespace mavlo {

int most_threads() {
    static const int most = [] {
        int wanted = 0;
        if (const char* text = std::getenv("MAVLO_THREADS"))
            std::from_chars(text, text + std::strlen(text), wanted);
        return wanted >= 1 && wanted <= 1024 ? wanted : std::max(1, int(std::thread::hardware_concurrency()));
    }();
    return most;
}

} // namespace mavlo
