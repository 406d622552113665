#include "question/point_store.h"

#include "machine/hash.h"
#include "quantity/quantity.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <fstream>
#include <unistd.h>

namespace mavlo {

PointStore PointStore::of(const std::string& subject) const {
    PointStore store = *this;
    if (!m_folder.empty()) store.m_file = sha256(m_file + subject);
    return store;
}

std::filesystem::path PointStore::stem(const std::string& kind) const {
    return keeps() ? m_folder / (kind + "-" + m_file) : std::filesystem::path();
}

std::filesystem::path PointStore::file(const std::string& kind) const {
    return m_folder / fmt::format("{}-{}.csv", kind, m_file);
}

PointStore::Rows PointStore::read(const std::string& kind, std::size_t keys, std::size_t columns) const {
    Rows rows;
    if (!keeps()) return rows;
    std::ifstream in(file(kind));
    for (std::string line; std::getline(in, line);) {
        if (in.eof()) break; // without its end of line it was cut short
        std::vector<double> row;
        std::string_view text = line, rest;
        while (const auto number = read_number(text, rest)) {
            row.push_back(*number);
            if (rest.empty() || rest.front() != ',') break;
            text = rest.substr(1);
        }
        if (row.size() == columns && rest.empty())
            rows[{row.begin(), row.begin() + std::ptrdiff_t(keys)}] = row;
    }
    return rows;
}

void PointStore::append(const std::string& kind, const std::vector<double>& row) const {
    if (!keeps()) return;
    std::error_code error;
    std::filesystem::create_directories(m_folder, error);
    const int fd = ::open(file(kind).c_str(), O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, 0644);
    if (fd < 0) return;
    // One write to the end of the file is not mixed with another's; a leading end of line closes a row that a
    // killed program left open.
    const std::string line = fmt::format("\n{:.17g}\n", fmt::join(row, ","));
    [[maybe_unused]] const auto written = ::write(fd, line.data(), line.size());
    ::close(fd);
}

} // namespace mavlo
