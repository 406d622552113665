#pragma once
// A file descriptor that closes itself, and reading and writing all.

#include <cstdint>
#include <optional>
#include <string>

namespace mavlo {

/// Closes a descriptor when it goes.
class Descriptor {
  public:
    explicit Descriptor(int from)
        : id(from) {}
    ~Descriptor() { close(); }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
    void close();

    int id; ///< negative where there is none
};

/// All that a descriptor gives; none where that is more than `most` bytes, or it cannot be read.
std::optional<std::string> read_all(int from, std::uintmax_t most);

/// False where it takes no more; errno says why.
bool write_all(int to, const void* bytes, std::size_t count);

} // namespace mavlo
