#include "machine/axial.h"

#include "machine/tile_kind.h"
#include "quantity/constants.h"
#include "quantity/gauss_legendre.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {
namespace {

bool is_axial_word(const std::string& word) {
    return word.starts_with("axial-");
}

/// The number under which at_radius() keeps the radius.
const std::string section_radius_path = "section.radius";

/// How the two sides stand: the axial topology, or the straight machine's sides.
bool is_stator_between(const std::string& standing) {
    return standing == "axial-two-rotors" || standing == "two-secondaries";
}
bool is_rotor_between(const std::string& standing) {
    return standing == "axial-two-stators" || standing == "two-primaries";
}
std::string standing(const Design& design) {
    return design.text(is_linear(design) ? "machine.sides" : "machine.topology");
}

double mean_radius(const Values& v) {
    const AxialForm form = axial_form(v);
    return (form.inner + form.outer) / 2;
}

/// The radii between which coil sides stand.
std::pair<double, double> coil_radii(const Values& v) {
    const AxialForm form = axial_form(v);
    const auto radius = [&](const char* path, double otherwise) {
        return v.has(path) && !v.is_auto(path) ? v.number(path) / 2 : otherwise;
    };
    return {radius("winding.coil_inner_diameter", form.inner),
            radius("winding.coil_outer_diameter", form.outer)};
}

/// A stretch of radii; `root_at_start`, `root_at_end`: there something begins or ends like the root of the
/// distance.
struct RadialStretch {
    double from, to;
    bool root_at_start = false, root_at_end = false;
};

/// Where corners and edges of magnets or coils divide the ring.
std::vector<RadialStretch> stretches(const Values& v) {
    const AxialForm form = axial_form(v);
    std::vector<double> cuts{form.inner, form.outer};
    const auto cut = [&](double r) {
        if (r > form.inner * (1 + 1e-9) && r < form.outer * (1 - 1e-9)) cuts.push_back(r);
    };
    const auto [from, to] = coil_radii(v);
    cut(from);
    cut(to);
    const std::string outline = magnet_outline(v);
    std::vector<double> roots;
    if (outline == "rectangle") {
        roots.push_back(form.inner);
        cut(std::hypot(form.inner, v.number("rotor.magnet.width") / 2));
    } else if (outline == "round") {
        const double half = v.number("rotor.magnet.diameter") / 2;
        for (const double end : {mean_radius(v) - half, mean_radius(v) + half}) {
            roots.push_back(end);
            cut(end);
        }
    }
    std::sort(cuts.begin(), cuts.end());
    const auto is_root = [&](double r) {
        return std::any_of(roots.begin(), roots.end(),
                           [r](double root) { return std::abs(root - r) < 1e-9 * r; });
    };
    std::vector<RadialStretch> out;
    for (std::size_t k = 0; k + 1 < cuts.size(); ++k)
        out.push_back({cuts[k], cuts[k + 1], is_root(cuts[k]), is_root(cuts[k + 1])});
    return out;
}

/// With r = from + l t^2 (or its like from the other end, or sin from both) roots become smooth in t.
void add_points(const RadialStretch& s, int points, std::vector<RadialSlice>& to) {
    const double length = s.to - s.from;
    for (const GaussPoint& p : gauss_legendre(points)) {
        double at = p.at, slope = 1;
        if (s.root_at_start && s.root_at_end) {
            at = (1 - std::cos(pi * p.at)) / 2;
            slope = pi / 2 * std::sin(pi * p.at);
        } else if (s.root_at_start) {
            at = p.at * p.at;
            slope = 2 * p.at;
        } else if (s.root_at_end) {
            at = 1 - (1 - p.at) * (1 - p.at);
            slope = 2 * (1 - p.at);
        }
        to.push_back({s.from + length * at, length * slope * p.weight});
    }
}

/// Of the longest stretch; shorter ones take half of them.
int wanted_points(const Values& v) {
    if (!v.is_auto("machine.slices")) return v.whole("machine.slices");
    return magnet_outline(v) == "round" ? 7 : 3;
}

/// Slots that the stator's core has no place for.
void add_core_problems(const Values& v, Problems& problems) {
    const std::string core = v.has_word("stator.core") ? v.word("stator.core") : "yoke",
                      &slot = v.word("stator.slot.kind");
    const auto say = [&](const char* sentence) { problems.push_back({"stator.slot.kind", sentence}); };
    if (core == "none" && slot != "gap-winding")
        say("A stator without a core takes a winding in the gap (gap-winding).");
    if (core != "teeth" && slot == "between-teeth")
        say("Slots between single teeth need a stator whose core is teeth alone, between two rotors.");
    if (core == "teeth" && slot != "between-teeth" && slot != "gap-winding" && slot != "none")
        say("A core of teeth alone has no yoke that slots could end in; take the slots between-teeth.");
}

std::vector<RadialSlice> even_rings(const AxialForm& form, int rings) {
    std::vector<RadialSlice> out;
    for (int k = 0; k < rings; ++k)
        out.push_back({form.inner + form.length() * (k + 0.5) / rings, 1.0 / rings});
    return out;
}

} // namespace

bool is_axial(const Design& design) {
    return is_axial_word(design.text("machine.topology"));
}
bool is_axial(const Values& values) {
    return is_axial_word(values.word("machine.topology"));
}
bool is_linear(const Design& design) {
    return design.text("machine.topology") == "linear";
}
bool is_linear(const Values& values) {
    return values.word("machine.topology") == "linear";
}
bool is_flat(const Values& values) {
    return is_axial(values) || is_linear(values);
}
bool is_flat(const Design& design) {
    return is_axial(design) || is_linear(design);
}
bool is_radial(const Design& design) {
    return !is_flat(design);
}

bool has_stator_between(const Design& design) {
    return is_stator_between(standing(design));
}
bool has_rotor_between(const Design& design) {
    return is_rotor_between(standing(design));
}

std::string magnet_outline(const Values& v) {
    return v.has_word("rotor.magnet.outline") ? v.word("rotor.magnet.outline") : "sector";
}

AxialForm axial_form(const Values& v) {
    AxialForm form;
    if (is_axial(v)) {
        form.inner = v.number("machine.inner_diameter") / 2;
        form.outer = v.number("machine.outer_diameter") / 2;
    }
    const std::string& sides = v.word(is_linear(v) ? "machine.sides" : "machine.topology");
    form.stator_between = is_stator_between(sides);
    form.rotor_between = form.mirrored_rotor = is_rotor_between(sides);
    if (form.stator_between || form.rotor_between) form.halves = 2;
    form.mirrored_stator = form.stator_between && v.word("stator.core") != "yoke";
    form.coreless = form.stator_between && v.word("stator.core") == "none";
    form.magnets_alone = form.rotor_between && v.word("rotor.core") == "none";
    return form;
}

double other_gap(const Values& v) {
    return v.has("gap.second") && !v.is_auto("gap.second") ? v.number("gap.second") : v.number("gap");
}

namespace {
/// The ring's width, and where coils stand on it.
Problems ring_problems(const Values& v) {
    const AxialForm form = axial_form(v);
    if (form.length() < 1e-4)
        return {
            {"machine.outer_diameter",
             fmt::format("The active ring has no width: its outer diameter is {} smaller than its inner one.",
                         millimetres(2 * (form.inner - form.outer) + 2e-4))}};
    Problems problems;
    const auto [from, to] = coil_radii(v);
    if (to - from < 1e-5)
        problems.push_back({"winding.coil_outer_diameter", "The coil sides end before they begin."});
    if (from < form.inner - 1e-9)
        problems.push_back(
            {"winding.coil_inner_diameter",
             "The coil sides begin inside the active ring, where no field is computed; begin them "
             "at its inner diameter."});
    if (to > form.outer + 1e-9)
        problems.push_back(
            {"winding.coil_outer_diameter",
             "The coil sides end outside the active ring, where no field is computed; end them at "
             "its outer diameter."});
    if (v.word("machine.slice_places") == "even" && v.is_auto("machine.slices"))
        problems.push_back({"machine.slices", "Say how many rings there shall be."});
    return problems;
}
} // namespace

Problems flat_problems(const Values& v) {
    Problems problems = is_axial(v) ? ring_problems(v) : Problems{};
    add_core_problems(v, problems);
    const char* what = is_axial(v) ? "axial" : "linear";
    if (v.has("rotor.pole_shift") && v.number("rotor.pole_shift") != 0)
        problems.push_back(
            {"rotor.pole_shift",
             fmt::format("Poles of {} machines are not shifted against each other so far; set it to 0.",
                         what)});
    if (!v.shapes().empty())
        problems.push_back(
            {"drawings.shapes",
             fmt::format("Shapes cannot be drawn onto sections of {} machines so far; take them away.", what)});
    return problems;
}

std::vector<RadialSlice> radial_slices(const Values& v) {
    if (is_linear(v)) return {{section_radius(v), 1}};
    const AxialForm form = axial_form(v);
    const int points = wanted_points(v);
    if (v.word("machine.slice_places") == "even") return even_rings(form, points);
    if (points == 1) return {{mean_radius(v), 1}};
    const std::vector<RadialStretch> all = stretches(v);
    double longest = 0;
    for (const RadialStretch& s : all) longest = std::max(longest, s.to - s.from);
    std::vector<RadialSlice> out;
    for (const RadialStretch& s : all)
        add_points(s, s.to - s.from > 0.5 * longest ? points : (points + 1) / 2, out);
    double sum = 0;
    for (RadialSlice& slice : out) {
        slice.share /= form.length();
        sum += slice.share;
    }
    for (RadialSlice& slice : out) slice.share /= sum;
    return out;
}

double section_radius(const Values& values) {
    return values.number(section_radius_path);
}

Values at_radius(Values values, double radius) {
    values.set_number(section_radius_path, radius);
    if (values.has_word("rotor.magnet.outline") && values.has("rotor.poles"))
        values.set_number("rotor.magnet.arc",
                          magnet_arc(values, radius) * values.whole("rotor.poles") / (2 * pi));
    return values;
}

double magnet_arc(const Values& v, double r) {
    const std::string outline = magnet_outline(v);
    if (outline == "sector") return v.number("rotor.magnet.arc") * 2 * pi / v.whole("rotor.poles");
    const double middle = mean_radius(v);
    if (outline == "rectangle") {
        // The chords at both ends are square to the magnet's axis.
        const double half = v.number("rotor.magnet.width") / 2, inner = axial_form(v).inner;
        return 2 * std::min(std::asin(std::min(1.0, half / r)), std::acos(std::min(1.0, inner / r)));
    }
    if (outline == "round") {
        const double half = v.number("rotor.magnet.diameter") / 2;
        const double cosine = (r * r + middle * middle - half * half) / (2 * r * middle);
        return cosine >= 1 ? 0 : 2 * std::acos(cosine);
    }
    return 0;
}

double coil_side_length(const Values& values) {
    const auto [from, to] = coil_radii(values);
    return to - from;
}

bool has_coils_at(const Values& values, double radius) {
    if (is_linear(values)) return true;
    const auto [from, to] = coil_radii(values);
    return radius > from && radius < to;
}

} // namespace mavlo
