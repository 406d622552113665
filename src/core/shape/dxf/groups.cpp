#include "shape/dxf/groups.h"

#include "quantity/quantity.h"

#include <charconv>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <fmt/format.h>
#include <fstream>
#include <iterator>
#include <optional>
#include <string_view>

namespace mavlo {
namespace {

constexpr std::string_view sentinel{"AutoCAD Binary DXF\r\n\x1a\0", 22};

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
        return at_line(line, fmt::format("\"{}\" is no number; the drawing is damaged.", trim(value)));
    // Whole numbers are written as reals by some, which does no harm.
    if (is_whole(kind) && !number<long>(value) && !number<double>(value))
        return at_line(line, fmt::format("\"{}\" is no whole number; the drawing is damaged.", trim(value)));
    return std::nullopt;
}

Result<std::string> checked_text(std::string_view text) {
    Lines lines(text);
    std::string out;
    out.reserve(text.size());
    while (const auto code_line = lines.next()) {
        const auto code = number<int>(*code_line);
        if (!code || *code < -5 || *code > 1071) {
            if (lines.number() == 1)
                return Problem{"", "This is no DXF drawing: it does not begin with a group code. Have it saved "
                                   "as DXF."};
            return at_line(lines.number(),
                           fmt::format("a group code was expected and \"{}\" found; the drawing "
                                       "is damaged.",
                                       trim(*code_line).substr(0, 40)));
        }
        const auto value = lines.next();
        if (!value) return cut_off();
        if (*code != 999)
            if (auto fault = fault_of(*code, *value, lines.number())) return *fault;
        fmt::format_to(std::back_inserter(out), "{:3d}\n{}\n", *code,
                       value_of(*code) == Value::Text ? *value : trim(*value));
        if (*code == 0 && trim(*value) == "EOF") return out;
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
        std::string out;
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
            fmt::format_to(std::back_inserter(out), "{:3d}\n{}\n", code, value);
            if (code == 0 && value == "EOF") return out;
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
    std::ifstream in(file, std::ios::binary);
    if (!in)
        return Problem{"", fmt::format("{} cannot be opened; check the name and the rights.", file.string())};
    const std::string bytes((std::istreambuf_iterator<char>(in)), std::istreambuf_iterator<char>());
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
