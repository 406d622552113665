#include "storage/descriptor.h"

#include <cerrno>
#include <unistd.h>

namespace mavlo {

void Descriptor::close() {
    if (id >= 0) ::close(id);
    id = -1;
}

std::optional<std::string> read_all(int from, std::uintmax_t most) {
    std::string text;
    char block[1 << 16];
    for (;;) {
        const auto count = ::read(from, block, sizeof block);
        if (count < 0 && errno == EINTR) continue;
        if (count < 0 || text.size() + std::size_t(count) > most) return std::nullopt;
        if (count == 0) return text;
        text.append(block, std::size_t(count));
    }
}

bool write_all(int to, const void* bytes, std::size_t count) {
    const char* at = static_cast<const char*>(bytes);
    while (count > 0) {
        const auto written = ::write(to, at, count);
        if (written < 0 && errno == EINTR) continue;
        if (written <= 0) return false;
        at += written;
        count -= std::size_t(written);
    }
    return true;
}

} // namespace mavlo
