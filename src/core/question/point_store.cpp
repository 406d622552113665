#include "question/point_store.h"

#include "machine/hash.h"
#include "quantity/quantity.h"
#include "storage/file.h"

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace mavlo {
namespace {
constexpr std::uintmax_t most_row_bytes = 256 << 20;
}

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
    const auto kept = read_kept(file(kind), most_row_bytes);
    if (!kept) return rows;
    std::string_view all = *kept;
    // What comes after the last end of line was cut short.
    for (std::size_t end = all.find('\n'); end != std::string_view::npos; end = all.find('\n')) {
        std::vector<double> row;
        std::string_view text = all.substr(0, end), rest;
        all.remove_prefix(end + 1);
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
    // One write to the end of the file is not mixed with another's; a leading end of line closes a row that a
    // killed program left open.
    append_kept(file(kind), fmt::format("\n{:.17g}\n", fmt::join(row, ",")));
}

} // namespace mavlo
