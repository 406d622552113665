#include "circuit/netlist.h"

#include "quantity/constants.h"
#include "quantity/quantity.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <limits>
#include <map>
#include <optional>
#include <sstream>

namespace mavlo {
namespace {

using Words = std::vector<std::string>;

/// A line with those that go on with it, in small letters; brackets, commas and equals signs parted.
struct Line {
    int number = 0;
    Words words;
};

Words words_of(std::string text) {
    for (std::size_t i = 0; i < text.size(); ++i)
        if (text[i] == ';') text.resize(i);
    std::string spaced;
    for (char c : text) {
        if (c == '(' || c == ')' || c == '=')
            spaced += std::string(" ") + c + " ";
        else
            spaced += c == ',' || c == '\t' || c == '\r' ? ' ' : c;
    }
    std::istringstream in(spaced);
    Words words;
    for (std::string word; in >> word;) words.push_back(lower_case(word));
    return words;
}

std::vector<Line> lines_of(const std::string& text) {
    std::vector<Line> lines;
    std::istringstream in(text);
    int number = 0;
    for (std::string raw; std::getline(in, raw);) {
        ++number;
        const std::string trimmed(trim(raw));
        if (trimmed.empty() || trimmed.front() == '*') continue;
        if (trimmed.front() == '+' && !lines.empty()) {
            for (const std::string& word : words_of(trimmed.substr(1))) lines.back().words.push_back(word);
            continue;
        }
        if (Words words = words_of(trimmed); !words.empty()) lines.push_back({number, std::move(words)});
    }
    return lines;
}

std::optional<double> number_of(const std::string& word) {
    double value = 0;
    const char *begin = word.data() + (word.starts_with('+') ? 1 : 0), *end = word.data() + word.size();
    const auto [rest, error] = std::from_chars(begin, end, value);
    if (error != std::errc() || !std::isfinite(value)) return std::nullopt;
    const std::string_view unit(rest, std::size_t(end - rest));
    if (unit.starts_with("meg")) return value * 1e6;
    if (unit.empty()) return value;
    static const std::map<char, double> factors{{'f', 1e-15}, {'p', 1e-12}, {'n', 1e-9}, {'u', 1e-6},
                                                {'m', 1e-3},  {'k', 1e3},   {'g', 1e9},  {'t', 1e12}};
    const auto factor = factors.find(unit.front());
    if (factor != factors.end()) return value * factor->second;
    return std::isalpha(static_cast<unsigned char>(unit.front())) ? std::optional(value) : std::nullopt;
}

struct Model {
    std::string kind;
    std::map<std::string, double> values;
    double of(const char* key, double standard) const {
        const auto found = values.find(key);
        return found == values.end() ? standard : found->second;
    }
};

/// Thrown within this file alone, and caught where a line is read.
struct Fault {
    std::string sentence;
};

class Reader {
  public:
    explicit Reader(double resistance)
        : m_resistance(resistance) {}

    Result<Network> run(const std::string& text) {
        const auto lines = lines_of(text);
        each(lines, [&](const Line& line) { model(line); });
        each(lines, [&](const Line& line) { element(line); });
        each(lines, [&](const Line& line) { coupling(line); });
        if (!m_problems.empty()) return m_problems;
        return m_network;
    }

  private:
    template <typename Take>
    void each(const std::vector<Line>& lines, Take take) {
        for (const Line& line : lines) try {
                take(line);
            } catch (const Fault& fault) {
                m_problems.push_back({fmt::format("circuit line {}", line.number), fault.sentence});
            }
    }

    static const std::string& word(const Line& line, std::size_t k, const char* what) {
        if (k >= line.words.size())
            throw Fault{fmt::format("{} ends too soon: {} is missing.", line.words.front(), what)};
        return line.words[k];
    }
    static double number(const Line& line, std::size_t k, const char* what) {
        const std::string& text = word(line, k, what);
        const auto value = number_of(text);
        if (!value)
            throw Fault{
                fmt::format("\"{}\" is no number; {} of {} is wanted here.", text, what, line.words[0])};
        return *value;
    }
    int node(const Line& line, std::size_t k) {
        const std::string& name = word(line, k, "a node");
        if (name == "(" || name == ")" || name == "=")
            throw Fault{fmt::format("{}: a node's name is wanted in place of \"{}\".", line.words[0], name)};
        return m_network.node(name == "gnd" ? "0" : name);
    }

    void model(const Line& line) {
        if (line.words[0] != ".model") return;
        Model model;
        const std::string& name = word(line, 1, "the model's name");
        model.kind = word(line, 2, "the model's kind");
        static const std::map<std::string, std::vector<std::string>> known{
            {"d", {"vf", "ron", "roff"}},
            {"sw", {"vt", "vh", "ron", "roff", "vf"}},
            {"csw", {"it", "ih", "ron", "roff", "vf"}}};
        const auto kind = known.find(model.kind);
        if (kind == known.end())
            throw Fault{fmt::format("The model kind \"{}\" is not known; d, sw and csw are.", model.kind)};
        for (std::size_t k = 3; k < line.words.size(); ++k) {
            if (line.words[k] == "(" || line.words[k] == ")") continue;
            const std::string& key = line.words[k];
            if (std::find(kind->second.begin(), kind->second.end(), key) == kind->second.end())
                throw Fault{fmt::format("A {} model has no \"{}\"; it has {}.", model.kind, key,
                                        fmt::join(kind->second, ", "))};
            if (word(line, k + 1, "\"=\"") != "=") throw Fault{fmt::format("\"=\" is wanted behind {}.", key)};
            model.values[key] = number(line, k + 2, key.c_str());
            k += 2;
        }
        m_models[name] = model;
    }

    const Model& model_of(const Line& line, std::size_t k, const char* kind) {
        static const Model plain{};
        if (k >= line.words.size()) return plain;
        const auto found = m_models.find(line.words[k]);
        if (found == m_models.end()) throw Fault{fmt::format("There is no .model named {}.", line.words[k])};
        if (found->second.kind != kind)
            throw Fault{fmt::format("The model {} is of kind {}; {} needs {}.", line.words[k],
                                    found->second.kind, line.words[0], kind)};
        return found->second;
    }

    void element(const Line& line) {
        const std::string& name = line.words[0];
        if (name.front() == '.') {
            for (const char* silent : {".model", ".end", ".tran", ".options", ".title", ".ends", ".op"})
                if (name == silent) return;
            throw Fault{fmt::format("{} is not understood here; elements and .model are.", name)};
        }
        if (name.front() == 'k') return;
        Element e;
        e.name = name;
        e.line = line.number;
        e.from = node(line, 1);
        e.to = node(line, 2);
        switch (name.front()) {
        case 'r':
        case 'l':
        case 'c':
            e.kind = name.front() == 'r'   ? Element::Resistor
                     : name.front() == 'l' ? Element::Inductor
                                           : Element::Capacitor;
            e.value = number(line, 3, "the value");
            if (line.words.size() > 4 && line.words[4] == "ic" && word(line, 5, "\"=\"") == "=")
                e.initial = number(line, 6, "the initial value");
            break;
        case 'v':
        case 'i':
            e.kind = name.front() == 'v' ? Element::VoltageSource : Element::CurrentSource;
            e.wave = wave(line);
            break;
        case 'd': {
            e.kind = Element::Diode;
            valve(e, model_of(line, 3, "d"));
            break;
        }
        case 's': {
            e.kind = Element::Switch;
            e.control.plus = node(line, 3);
            e.control.minus = node(line, 4);
            const Model& m = model_of(line, 5, "sw");
            valve(e, m);
            e.control.threshold = m.of("vt", 0.5);
            e.control.hysteresis = m.of("vh", 0);
            break;
        }
        case 'w': {
            e.kind = Element::Switch;
            const std::string& source = word(line, 3, "the source whose current closes it");
            e.control.source = m_network.find(source);
            if (e.control.source < 0 ||
                m_network.elements[std::size_t(e.control.source)].kind != Element::VoltageSource)
                throw Fault{
                    fmt::format("{} is closed by the current of \"{}\", which is no voltage source above it.",
                                name, source)};
            const Model& m = model_of(line, 4, "csw");
            valve(e, m);
            e.control.threshold = m.of("it", 0);
            e.control.hysteresis = m.of("ih", 0);
            break;
        }
        case 'x':
            e.kind = Element::Phase;
            e.phase = phase(line);
            e.value = line.words.size() > 4 ? number(line, 4, "the resistance") : m_resistance;
            break;
        default:
            throw Fault{fmt::format("\"{}\" begins with none of R, L, C, K, V, I, D, S, W, X.", name)};
        }
        m_network.elements.push_back(std::move(e));
    }

    static void valve(Element& e, const Model& m) {
        e.drop = m.of("vf", 0);
        e.on = std::max(1e-9, m.of("ron", 1e-3));
        e.off = std::max(e.on, m.of("roff", 1e8));
    }

    static int phase(const Line& line) {
        const std::string& text = word(line, 3, "the machine's phase");
        if (text.starts_with("phase_") && text.size() == 7) {
            const char letter = text[6];
            if (letter >= 'u' && letter <= 'w') return letter - 'u';
            if (letter >= 'a' && letter <= 'i') return letter - 'a';
            if (letter >= '1' && letter <= '9') return letter - '1';
        }
        throw Fault{fmt::format(
            "\"{}\" names no phase; write phase_u, phase_v, phase_w, or phase_1 to phase_9.", text)};
    }

    static std::vector<double> arguments(const Line& line, std::size_t from) {
        std::vector<double> list;
        for (std::size_t k = from; k < line.words.size() && line.words[k] != ")"; ++k)
            if (line.words[k] != "(") list.push_back(number(line, k, "a value"));
        return list;
    }

    static SourceWave wave(const Line& line) {
        const std::string& form = word(line, 3, "the value");
        if (const auto value = number_of(form)) return {SourceWave::Constant, {*value}};
        if (form == "dc") return {SourceWave::Constant, {number(line, 4, "the value")}};
        auto n = arguments(line, 4);
        const auto pad = [&](std::size_t least, std::vector<double> standard) {
            if (n.size() < least)
                throw Fault{fmt::format("{} of {} needs {} values at least.", form, line.words[0], least)};
            for (std::size_t k = n.size(); k < standard.size(); ++k) n.push_back(standard[k]);
            n.resize(standard.size());
        };
        if (form == "sin") {
            pad(3, {0, 0, 0, 0, 0, 0});
            n[5] *= pi / 180;
            return {SourceWave::Sine, n};
        }
        if (form == "pulse") {
            pad(2, {0, 0, 0, 0, 0, never, never});
            if (n[6] <= 0 || n[3] < 0 || n[4] < 0 || n[5] < 0)
                throw Fault{fmt::format(
                    "The times of {}'s pulse must not be negative, and its period above zero.", line.words[0])};
            return {SourceWave::Pulse, n};
        }
        if (form == "pwl") {
            if (n.size() < 4 || n.size() % 2)
                throw Fault{
                    fmt::format("pwl of {} needs pairs of time and value, two at least.", line.words[0])};
            for (std::size_t k = 2; k < n.size(); k += 2)
                if (n[k] <= n[k - 2]) throw Fault{fmt::format("The times of {} must rise.", line.words[0])};
            return {SourceWave::Table, n};
        }
        if (form == "angle") {
            pad(4, {0, 0, 0, 0});
            n[2] *= pi / 180;
            n[3] *= pi / 180;
            return {SourceWave::Angle, n};
        }
        throw Fault{fmt::format("\"{}\" is no value or wave; dc, sin, pulse, pwl and angle are.", form)};
    }

    void coupling(const Line& line) {
        if (line.words[0].front() != 'k') return;
        Coupling c{line.words[0], 0, 0, number(line, 3, "the coupling factor")};
        const auto inductor = [&](std::size_t k) {
            const int at = m_network.find(word(line, k, "an inductor"));
            if (at < 0 || m_network.elements[std::size_t(at)].kind != Element::Inductor)
                throw Fault{fmt::format("{} couples \"{}\", which is no inductor.", c.name, line.words[k])};
            return at;
        };
        c.first = inductor(1);
        c.second = inductor(2);
        if (c.first == c.second || std::abs(c.factor) >= 1)
            throw Fault{fmt::format("{}: two inductors with a factor between -1 and 1 are wanted.", c.name)};
        m_network.couplings.push_back(c);
    }

    double m_resistance;
    Network m_network;
    std::map<std::string, Model> m_models;
    Problems m_problems;
};

std::string wave_text(const SourceWave& w) {
    const auto& n = w.numbers;
    switch (w.form) {
    case SourceWave::Constant:
        return fmt::format("{:.12g}", n[0]);
    case SourceWave::Sine:
        return fmt::format("sin({:.12g} {:.12g} {:.12g} {:.12g} {:.12g} {:.12g})", n[0], n[1], n[2], n[3], n[4],
                           n[5] * 180 / pi);
    case SourceWave::Pulse: {
        std::vector<std::string> words;
        for (double x : n)
            if (std::isfinite(x)) words.push_back(fmt::format("{:.12g}", x));
        return fmt::format("pulse({})", fmt::join(words, " "));
    }
    case SourceWave::Table:
        return fmt::format("pwl({:.12g})", fmt::join(n, " "));
    case SourceWave::Angle:
        return fmt::format("angle({:.12g} {:.12g} {:.12g} {:.12g})", n[0], n[1], n[2] * 180 / pi,
                           n[3] * 180 / pi);
    }
    return {};
}

} // namespace

Result<Network> read_netlist(const std::string& text, double resistance) {
    return Reader(resistance).run(text);
}

std::string write_netlist(const Network& network, const std::string& title) {
    std::string out = fmt::format("* {}\n", title), models;
    for (const Element& e : network.elements) {
        const auto& from = network.nodes[std::size_t(e.from)];
        const auto& to = network.nodes[std::size_t(e.to)];
        out += fmt::format("{} {} {}", e.name, from, to);
        const Element::Control& c = e.control;
        const auto model = [&](const char* kind, const std::string& more) {
            out += fmt::format(" m_{}", e.name);
            models += fmt::format(".model m_{} {}({}ron={:.12g} roff={:.12g} vf={:.12g})\n", e.name, kind, more,
                                  e.on, e.off, e.drop);
        };
        switch (e.kind) {
        case Element::Resistor:
        case Element::Inductor:
        case Element::Capacitor:
            out += fmt::format(" {:.12g}", e.value);
            if (e.initial != 0) out += fmt::format(" ic={:.12g}", e.initial);
            break;
        case Element::VoltageSource:
        case Element::CurrentSource:
            out += " " + wave_text(e.wave);
            break;
        case Element::Diode:
            model("d", "");
            break;
        case Element::Switch:
            if (c.source >= 0) {
                out += " " + network.elements[std::size_t(c.source)].name;
                model("csw", fmt::format("it={:.12g} ih={:.12g} ", c.threshold, c.hysteresis));
            } else {
                const auto name = [&](int node) { return node < 0 ? "0" : network.nodes[std::size_t(node)]; };
                out += fmt::format(" {} {}", name(c.plus), name(c.minus));
                model("sw", fmt::format("vt={:.12g} vh={:.12g} ", c.threshold, c.hysteresis));
            }
            break;
        case Element::Phase:
            out += fmt::format(" phase_{} {:.12g}", e.phase + 1, e.value);
            break;
        }
        out += "\n";
    }
    for (const Coupling& c : network.couplings)
        out += fmt::format("{} {} {} {:.12g}\n", c.name, network.elements[std::size_t(c.first)].name,
                           network.elements[std::size_t(c.second)].name, c.factor);
    return out + models + ".end\n";
}

} // namespace mavlo
