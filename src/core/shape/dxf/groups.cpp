#include "shape/dxf/groups.h"

#include "quantity/quantity.h"
#include "quantity/text.h"
#include "storage/file.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <fmt/format.h>
#include <iterator>
#include <optional>
#include <string_view>

namespace mavlo {
namespace {

constexpr std::string_view sentinel{"AutoCAD Binary DXF\r\n\x1a\0", 22};

constexpr std::uintmax_t most_drawing_bytes = 128 << 20;

enum class Value { Text, Real, Int16, Int32, Int64, Flag, Bytes };

/// What follows a group code (DXF reference, "Group code value types").
Value value_of(int code) {
    const auto in = [code](int low, int high) { return code >= low && code <= high; };
    if (in(310, 319) || code == 1004) return Value::Bytes;
    if (in(10, 59) || in(110, 149) || in(210, 239) || in(460, 469) || in(1010, 1059)) return Value::Real;
    if (in(60, 79) || in(170, 179) || in(270, 289) || in(370, 389) || in(400, 409) || in(1060, 1070))
        return Value::Int16;
    if (in(90, 99) || in(420, 429) || in(440, 459) || code == 1071) return Value::Int32;
    if (in(160, 169)) return Value::Int64;
    if (in(290, 299)) return Value::Flag;
    return Value::Text;
}

bool is_whole(Value v) {
    return v == Value::Int16 || v == Value::Int32 || v == Value::Int64 || v == Value::Flag;
}

/// The whole text as a number; nothing when it is none or not finite.
template <class T>
std::optional<T> number(std::string_view text) {
    T value{};
    text = trim(text);
    if (text.starts_with('+')) text.remove_prefix(1);
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc() || end != text.data() + text.size()) return std::nullopt;
    if constexpr (std::is_floating_point_v<T>)
        if (!std::isfinite(value)) return std::nullopt;
    return value;
}

Problem cut_off() {
    return {"", "The drawing is cut off: it stops before its end-of-file mark. Have it written or sent again."};
}

Problem at_line(std::size_t line, const std::string& what) {
    return {"", fmt::format("Line {} of the drawing: {}", line, what)};
}

/// Lines of a text, whichever way they end.
class Lines {
  public:
    explicit Lines(std::string_view text)
        : m_rest(text) {}
    std::optional<std::string_view> next() {
        if (m_rest.empty()) return std::nullopt;
        const auto end = m_rest.find_first_of("\r\n");
        std::string_view line = m_rest.substr(0, end);
        if (end == std::string_view::npos)
            m_rest = {};
        else
            m_rest.remove_prefix(end + (m_rest.substr(end).starts_with("\r\n") ? 2 : 1));
        ++m_number;
        return line;
    }
    std::size_t number() const { return m_number; }

  private:
    std::string_view m_rest;
    std::size_t m_number = 0;
};

std::optional<Problem> fault_of(int code, std::string_view value, std::size_t line) {
    const Value kind = value_of(code);
    if (kind == Value::Real && !number<double>(value))
        return at_line(line, fmt::format("\"{}\" is no number; the drawing is damaged.",
                                         valid_utf8(trim(value).substr(0, 40))));
    // Whole numbers are written as reals by some, which does no harm.
    if (is_whole(kind) && !number<long>(value) && !number<double>(value))
        return at_line(line, fmt::format("\"{}\" is no whole number; the drawing is damaged.",
                                         valid_utf8(trim(value).substr(0, 40))));
    return std::nullopt;
}

/// Counts that a reader makes room by, before it has seen what is counted (DXF reference, "Entities").
bool counts_room(std::string_view entity, int code) {
    if (entity == "LWPOLYLINE") return code == 90;
    if (entity == "SPLINE") return code >= 72 && code <= 74;
    if (entity == "LEADER") return code == 76;
    if (entity == "HATCH")
        return code == 91 || code == 93 || (code >= 95 && code <= 97) || code == 78 || code == 79;
    return false;
}

/// Writes groups as text, once they have been looked over.
class GroupWriter {
  public:
    explicit GroupWriter(std::size_t bytes) { m_out.reserve(bytes); }

    /// False for a count that its entity, which ends here, has not the groups for.
    bool add(int code, std::string_view value) {
        if (code == 0) {
            if (m_most_counted > m_groups) return false;
            m_entity = trim(value);
            m_groups = 0;
            m_most_counted = 0;
        }
        ++m_groups;
        const Value kind = value_of(code);
        if (is_whole(kind)) {
            const long whole = whole_of(value);
            if (counts_room(m_entity, code)) {
                if (whole < 0) return false;
                m_most_counted = std::max(m_most_counted, whole);
            }
            fmt::format_to(std::back_inserter(m_out), "{:3d}\n{}\n", code, whole);
        } else {
            fmt::format_to(std::back_inserter(m_out), "{:3d}\n{}\n", code,
                           kind == Value::Text ? valid_utf8(value) : std::string(trim(value)));
        }
        return true;
    }
    std::string take() { return std::move(m_out); }

  private:
    /// As every reader can hold it.
    static long whole_of(std::string_view value) {
        constexpr double most = 2147483647;
        return long(std::clamp(number<double>(value).value_or(0), -most, most));
    }

    std::string m_out, m_entity;
    long m_groups = 0, m_most_counted = 0;
};

constexpr const char* too_few = "an entity counts more points than it holds; the drawing is damaged.";

Result<std::string> checked_text(std::string_view text) {
    Lines lines(text);
    GroupWriter out(text.size());
    while (const auto code_line = lines.next()) {
        const auto code = number<int>(*code_line);
        if (!code || *code < -5 || *code > 1071) {
            if (lines.number() == 1)
                return Problem{"", "This is no DXF drawing: it does not begin with a group code. Have it saved "
                                   "as DXF."};
            return at_line(lines.number(),
                           fmt::format("a group code was expected and \"{}\" found; the drawing "
                                       "is damaged.",
                                       valid_utf8(trim(*code_line).substr(0, 40))));
        }
        const auto value = lines.next();
        if (!value) return cut_off();
        if (*code != 999)
            if (auto fault = fault_of(*code, *value, lines.number())) return *fault;
        if (!out.add(*code, *value)) return at_line(lines.number(), too_few);
        if (*code == 0 && trim(*value) == "EOF") return out.take();
    }
    return cut_off();
}

class BinaryReader {
  public:
    explicit BinaryReader(std::string_view bytes)
        : m_bytes(bytes)
        , m_at(sentinel.size()) {
        // Before release 13 codes have one byte: the first group is 0 "SECTION".
        m_wide = m_bytes.size() > m_at + 1 && m_bytes[m_at + 1] == 0;
    }

    Result<std::string> run() {
        GroupWriter out(m_bytes.size());
        while (m_at < m_bytes.size()) {
            const int code = next_code();
            if (m_short) break;
            if (code < -5 || code > 1071)
                return Problem{"",
                               fmt::format("Byte {} of the binary drawing holds no group code; it is damaged. "
                                           "Have it saved as text DXF.",
                                           m_at)};
            const std::string value = next_value(code);
            if (m_short) break;
            if (value_of(code) == Value::Real && !number<double>(value))
                return Problem{
                    "", fmt::format("Byte {} of the binary drawing holds no number; it is damaged.", m_at)};
            if (!out.add(code, value))
                return Problem{"", fmt::format("Byte {} of the binary drawing: {}", m_at, too_few)};
            if (code == 0 && value == "EOF") return out.take();
        }
        return cut_off();
    }

  private:
    template <class T>
    T take() {
        T value{};
        if (m_at + sizeof(T) > m_bytes.size()) {
            m_short = true;
            return value;
        }
        std::memcpy(&value, m_bytes.data() + m_at, sizeof(T)); // little endian, as are the machines we run on
        m_at += sizeof(T);
        return value;
    }

    int next_code() {
        if (m_wide) return take<std::int16_t>();
        const int code = take<std::uint8_t>();
        return code == 255 ? take<std::int16_t>() : code;
    }

    std::string next_text() {
        const auto end = m_bytes.find('\0', m_at);
        if (end == std::string_view::npos) {
            m_short = true;
            return {};
        }
        std::string text(m_bytes.substr(m_at, end - m_at));
        m_at = end + 1;
        for (char& c : text)
            if (c == '\n' || c == '\r') c = ' ';
        return text;
    }

    std::string next_bytes() {
        const std::size_t count = take<std::uint8_t>();
        m_short = m_short || m_at + count > m_bytes.size();
        m_at += count;
        return {}; // pictures and the like, which nobody asks for
    }

    std::string next_value(int code) {
        switch (value_of(code)) {
        case Value::Real:
            return fmt::format("{:.17g}", take<double>());
        case Value::Int16:
            return fmt::format("{}", take<std::int16_t>());
        case Value::Int32:
            return fmt::format("{}", take<std::int32_t>());
        case Value::Int64:
            return fmt::format("{}", take<std::int64_t>());
        case Value::Flag:
            return fmt::format("{}", int(take<std::uint8_t>()));
        case Value::Bytes:
            return next_bytes();
        case Value::Text:
            break;
        }
        return next_text();
    }

    std::string_view m_bytes;
    std::size_t m_at;
    bool m_wide = true, m_short = false;
};

} // namespace

Result<std::string> read_dxf_groups(const std::filesystem::path& file) {
    const auto read = read_file(file, most_drawing_bytes);
    if (!read) return read.problems();
    const std::string& bytes = *read;
    if (bytes.empty()) return Problem{"", "The drawing is an empty file."};
    std::string_view view = bytes;
    if (view.starts_with("AC10"))
        return Problem{"",
                       "This is a DWG drawing, which only its maker's programs read; have it saved as DXF."};
    if (view.starts_with(sentinel)) return BinaryReader(view).run();
    if (view.starts_with("\xEF\xBB\xBF")) view.remove_prefix(3); // a mark that some editors put before UTF-8
    return checked_text(view);
}

} // namespace mavlo
