#include "material/column_table.h"

#include "quantity/quantity.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>
#include <optional>
#include <regex>
#include <string_view>

namespace mavlo {
namespace {

constexpr std::size_t notes_in_full = 6, shown_of_a_line = 40;

struct Line {
    int number;
    std::string text;
};

void append_utf8(std::string& out, unsigned code) {
    if (code < 0x80)
        out += char(code);
    else if (code < 0x800)
        out += {char(0xc0 | code >> 6), char(0x80 | (code & 0x3f))};
    else
        out += {char(0xe0 | code >> 12), char(0x80 | (code >> 6 & 0x3f)), char(0x80 | (code & 0x3f))};
}

/// UTF-16 with its mark, as spreadsheets write it, becomes UTF-8; the mark of UTF-8 goes.
std::string as_utf8(const std::string& text) {
    if (text.starts_with("\xef\xbb\xbf")) return text.substr(3);
    const bool little = text.starts_with("\xff\xfe"), big = text.starts_with("\xfe\xff");
    if (!little && !big) return text;
    std::string out;
    for (std::size_t i = 2; i + 1 < text.size(); i += 2) {
        const unsigned first = static_cast<unsigned char>(text[i]),
                       second = static_cast<unsigned char>(text[i + 1]);
        append_utf8(out, little ? first | second << 8 : second | first << 8);
    }
    return out;
}

std::vector<Line> lines_of(const std::string& text) {
    std::vector<Line> lines;
    std::string line;
    int number = 1;
    const auto end_line = [&] {
        if (!trim(line).empty()) lines.push_back({number, line});
        line.clear();
        ++number;
    };
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (c == '\n' || (c == '\r' && (i + 1 == text.size() || text[i + 1] != '\n')))
            end_line();
        else if (c != '\r')
            line += c;
    }
    end_line();
    return lines;
}

/// How numbers and columns are written.
struct Style {
    char separator = ' '; ///< ' ' stands for blanks
    char decimal = '.';
    bool comma_blank = false; ///< columns end with a comma and a blank, decimals with a comma alone
};

std::vector<std::string> split(const std::string& line, const Style& style) {
    std::vector<std::string> parts(1);
    for (std::size_t i = 0; i < line.size(); ++i) {
        const char c = line[i];
        const bool blank = c == ' ' || c == '\t';
        const bool ends = style.comma_blank        ? c == ',' && i + 1 < line.size() && line[i + 1] == ' '
                          : style.separator == ' ' ? blank
                                                   : c == style.separator;
        if (!ends)
            parts.back() += c;
        else if (style.separator != ' ' || style.comma_blank || !parts.back().empty())
            parts.emplace_back();
    }
    while (!parts.empty() && trim(parts.back()).empty()) parts.pop_back();
    for (std::string& part : parts) {
        part = std::string(trim(part));
        if (part.size() >= 2 && part.front() == '"' && part.back() == '"')
            part = part.substr(1, part.size() - 2);
    }
    return parts;
}

std::optional<double> number_in(std::string text, const Style& style) {
    const char decimal = style.decimal;
    const char thousands = decimal == ',' ? '.' : ',';
    const bool grouped = text.find(thousands) != std::string::npos;
    if (grouped && style.comma_blank) return std::nullopt;
    if (grouped) {
        static const std::regex commas(R"([+-]?\d{1,3}(,\d{3})+(\.\d*)?)"),
            points(R"([+-]?\d{1,3}(\.\d{3})+(,\d*)?)");
        if (text.size() > 40 || !std::regex_match(text, decimal == ',' ? points : commas)) return std::nullopt;
        std::erase(text, thousands);
    }
    std::replace(text.begin(), text.end(), ',', '.');
    std::string_view rest;
    const auto number = read_number(text, rest);
    return number && rest.empty() ? number : std::nullopt;
}

std::optional<std::vector<double>> row_in(const std::string& line, const Style& style) {
    std::vector<double> row;
    for (const std::string& part : split(line, style)) {
        const auto number = number_in(part, style);
        if (!number) return std::nullopt;
        row.push_back(*number);
    }
    if (row.size() < 2) return std::nullopt;
    return row;
}

using Rows = std::vector<std::optional<std::vector<double>>>; ///< of all lines; empty where one is no row

/// The lines in the style under which most of them are rows; the simpler one where they tie.
struct Reading {
    Style style;
    Rows rows;
};

Reading read_lines(const std::vector<Line>& lines) {
    const Style styles[] = {{'\t', '.'},      {';', '.'}, {'\t', ','}, {';', ','},
                            {',', ',', true}, {',', '.'}, {' ', '.'},  {' ', ','}};
    Reading best{{}, Rows(lines.size())};
    std::size_t most = 0;
    for (const Style& style : styles) {
        Rows rows;
        for (const Line& line : lines) rows.push_back(row_in(line.text, style));
        const auto count = std::size_t(
            std::count_if(rows.begin(), rows.end(), [](const auto& row) { return row.has_value(); }));
        if (count > most) best = {style, std::move(rows)}, most = count;
    }
    return best;
}

/// The number of columns that most rows have.
std::size_t usual_columns(const Rows& rows) {
    std::map<std::size_t, int> counts;
    for (const auto& row : rows)
        if (row) ++counts[row->size()];
    const auto most = std::max_element(counts.begin(), counts.end(),
                                       [](const auto& a, const auto& b) { return a.second < b.second; });
    return most == counts.end() ? 0 : most->first;
}

std::string shortened(const std::string& line) {
    const auto text = trim(line);
    if (text.size() <= shown_of_a_line) return std::string(text);
    std::size_t end = shown_of_a_line; // not within a character
    while (end > 0 && (static_cast<unsigned char>(text[end]) & 0xc0) == 0x80) --end;
    return std::string(text.substr(0, end)) + "…";
}

void note_left_out(ColumnTable& table, const std::vector<Line>& left_out) {
    for (std::size_t i = 0; i < left_out.size() && i < notes_in_full; ++i)
        table.notes.push_back(fmt::format("Line {} is no row of {} numbers and was left out: “{}”.",
                                          left_out[i].number, table.columns(), shortened(left_out[i].text)));
    if (left_out.size() > notes_in_full)
        table.notes.push_back(
            fmt::format("{} further lines were left out likewise.", left_out.size() - notes_in_full));
}

} // namespace

Result<ColumnTable> read_columns(std::string text) {
    text = as_utf8(text);
    if (text.find('\0') != std::string::npos)
        return Problem{{}, "This is no text: copy the table out of its program, or save it there as CSV."};
    const std::vector<Line> lines = lines_of(text);
    auto [style, rows] = read_lines(lines);
    const std::size_t columns = usual_columns(rows);
    ColumnTable table;
    std::vector<Line> headers, left_out;
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const Line& line = lines[i];
        auto& row = rows[i];
        const bool good = row && row->size() == columns;
        if (good) {
            table.rows.push_back(std::move(*row));
            table.lines.push_back(line.number);
        } else {
            (table.rows.empty() ? headers : left_out).push_back(line);
        }
    }
    if (table.rows.size() < 2)
        return Problem{
            {},
            "No table is found here: at least two rows of two numbers each are wanted, parted by tabs, "
            "semicolons, commas or blanks."};
    if (style.decimal == ',') table.notes.emplace_back("Commas were read as decimal signs.");
    if (!headers.empty())
        table.notes.push_back(
            fmt::format("{} before the numbers {} read as {}: “{}”.",
                        headers.size() == 1 ? "One line" : fmt::format("{} lines", headers.size()),
                        headers.size() == 1 ? "was" : "were", headers.size() == 1 ? "header" : "headers",
                        shortened(headers.back().text)));
    // The names stand in the last line that has as many parts, the units below them may too.
    for (const Line& line : headers) {
        const auto parts = split(line.text, style);
        if (parts.size() != columns) continue;
        table.headers.resize(columns);
        for (std::size_t i = 0; i < columns; ++i)
            table.headers[i] = shortened(table.headers[i] + ' ' + parts[i]);
    }
    note_left_out(table, left_out);
    return table;
}

} // namespace mavlo
