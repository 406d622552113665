#include "drawing/portion.h"

#include "drawing/centre.h"
#include "quantity/constants.h"
#include "shape/budget.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

namespace mavlo {
namespace {

constexpr double full = 2 * pi;
constexpr int most_pitches = 400;
constexpr double enough = 0.6, nearly = 0.7;
constexpr std::size_t most_samples = 200;

/// An edge by what does not change when it is turned, and the angle of its middle.
struct Mark {
    double length, radius, lean; ///< lean: of the chord against the radius, which tells an edge from its image
    double angle;
};

class Marks {
  public:
    Marks(const Arrangement& graph, double inner, double outer, double tolerance)
        : m_tolerance(tolerance) {
        for (const auto& edge : graph.edges) {
            const Piece p = graph.piece(edge);
            const Point middle = point_at(p, 0.5);
            const double r = norm(middle);
            if (r < inner - tolerance || r > outer + tolerance || is_about(p, {}, tolerance)) continue;
            const Point chord = p.b - p.a;
            const double across = cross(middle, chord), along = dot(middle, chord);
            // Either way along the edge leans alike.
            const double lean = std::remainder(std::atan2(across, along), pi);
            m_list.push_back({length_of(p), r, lean, angle_of(middle)});
            m_total += length_of(p);
        }
        std::sort(m_list.begin(), m_list.end(),
                  [](const Mark& a, const Mark& b) { return a.radius < b.radius; });
        fill_rings();
    }

    bool empty() const { return m_list.empty(); }
    /// Turning by less than this meets everything with itself.
    double least_turn() const { return m_list.empty() ? 1 : 20 * m_tolerance / m_list.back().radius; }
    const std::vector<Mark>& list() const { return m_list; }

    bool has(const Mark& like, double angle, bool image) const {
        const double near = slack() / like.radius, there = std::remainder(angle, full);
        const long ring = ring_of(like.radius);
        for (long r = ring - 1; r <= ring + 1; ++r) {
            const auto at = m_rings.find(r);
            if (at == m_rings.end()) continue;
            // The marks of a ring lie by their angles, with a copy of its ends beyond half a turn.
            const auto& marks = at->second;
            spend(4);
            auto m = std::lower_bound(marks.begin(), marks.end(), there - near,
                                      [](const auto& known, double wanted) { return known.first < wanted; });
            for (; m != marks.end() && m->first <= there + near; ++m) {
                spend(1);
                if (alike(m_list[m->second], like, image)) return true;
            }
        }
        return false;
    }

    /// Share, by length, of the edges that meet their like when all is turned; those that leave [from, till) do
    /// not count.
    double turned_share(double by, double from, double till) const { return share_of(by, from, till, 1); }

    /// By every so many-th edge alone, which is quick; a first look.
    double sampled_share(double by, double from, double till) const {
        return share_of(by, from, till, std::max<std::size_t>(1, m_list.size() / most_samples));
    }

    double mirrored_share(double axis) const {
        double met = 0;
        for (const Mark& m : m_list)
            if (has(m, 2 * axis - m.angle, true)) met += m.length;
        return m_total > 0 ? met / m_total : 0;
    }

    /// The same for a sector about its middle; arcs from cut to cut and the cuts are their own images and tell
    /// nothing.
    double mirrored_share(double middle, double half_span) const {
        double met = 0, counted = 0;
        for (const Mark& m : m_list) {
            const double off = std::abs(std::remainder(m.angle - middle, full)), near = slack() / m.radius;
            const bool on_cut = std::abs(off - half_span) < near && std::abs(std::sin(m.lean)) < 1e-6;
            const bool across = off < near && m.length > 1.9 * half_span * m.radius;
            if (on_cut || across) continue;
            counted += m.length;
            if (has(m, 2 * middle - m.angle, true)) met += m.length;
        }
        return counted > 0 ? met / counted : 1;
    }

  private:
    double share_of(double by, double from, double till, std::size_t every) const {
        double met = 0, counted = 0, total = 0;
        for (std::size_t k = 0; k < m_list.size(); k += every) {
            const Mark& m = m_list[k];
            total += m.length;
            const double angle = m.angle + by;
            if (till - from < full - 1e-9) {
                double there = std::fmod(angle - from, full);
                if (there < 0) there += full;
                if (there > till - from) continue;
            }
            counted += m.length;
            if (has(m, angle, false)) met += m.length;
        }
        return counted > 0.2 * total ? met / counted : 0;
    }

    double slack() const { return 3 * m_tolerance; }
    long ring_of(double radius) const { return std::lround(radius / (2 * slack())); }

    bool alike(const Mark& known, const Mark& like, bool image) const {
        const double lean = image ? -like.lean : like.lean;
        return std::abs(known.radius - like.radius) <= slack() &&
               std::abs(known.length - like.length) <= 2 * slack() &&
               std::abs(std::remainder(known.lean - lean, pi)) * like.length < 2 * slack();
    }

    void fill_rings() {
        for (std::size_t i = 0; i < m_list.size(); ++i) {
            auto& ring = m_rings[ring_of(m_list[i].radius)];
            for (double turn : {-full, 0.0, full})
                if (std::abs(m_list[i].angle + turn) < pi + 0.1) ring.emplace_back(m_list[i].angle + turn, i);
        }
        for (auto& [radius, ring] : m_rings) std::sort(ring.begin(), ring.end());
    }

    std::vector<Mark> m_list;
    std::map<long, std::vector<std::pair<double, std::size_t>>> m_rings; ///< angle and number, by radius
    double m_total = 0, m_tolerance;
};

/// The angles that the drawing fills: all round, or from after the largest gap on.
void find_extent(const Arrangement& graph, double tolerance, Portion& out) {
    std::vector<double> angles;
    for (const auto& edge : graph.edges) {
        const Piece p = graph.piece(edge);
        for (double t : {0.0, 0.25, 0.5, 0.75})
            if (const Point at = point_at(p, t); norm(at) > 10 * tolerance) angles.push_back(angle_of(at));
        if (norm(p.b) > 10 * tolerance) angles.push_back(angle_of(p.b));
    }
    if (angles.empty()) return;
    std::sort(angles.begin(), angles.end());
    double widest = angles.front() + full - angles.back(), after = angles.front();
    for (std::size_t i = 0; i + 1 < angles.size(); ++i)
        if (angles[i + 1] - angles[i] > widest) widest = angles[i + 1] - angles[i], after = angles[i + 1];
    // A sector ends on straight cuts that point to the centre.
    const auto is_cut = [&](double angle) {
        return std::any_of(graph.edges.begin(), graph.edges.end(), [&](const Arrangement::Edge& e) {
            const Piece p = graph.piece(e);
            return points_to(p, {}, tolerance) &&
                   std::abs(std::remainder(angle_of(point_at(p, 0.5)) - angle, full)) < 1e-4;
        });
    };
    if (widest < 0.02 || !is_cut(after) || !is_cut(after - widest)) return;
    out.from = after;
    out.covers = 1 - widest / full;
}

/// The largest number of parts that is as good as any. A multiple is taken where it is nearly so: poles of
/// which every second one has a mark of its own, slots that were drawn with slips. Others that meet in part do
/// so by chance, as a slot's sides do with the line between its conductors.
int repeats(const Marks& marks, double from, double span) {
    const bool round = span > full - 1e-9;
    std::map<int, double> shares;
    double best = round ? enough : 0.9;
    for (int n = most_pitches; n > 1; --n) {
        if (span / n <= marks.least_turn()) continue;
        if (marks.sampled_share(span / n, from, from + span) < 0.7 * best) continue;
        double share = marks.turned_share(span / n, from, from + span);
        // A turn of nearly the pitch meets within the tolerance, but half way round it is far off.
        if (round) share = std::min(share, marks.turned_share(n / 2 * span / n, from, from + span));
        shares[n] = share;
        best = std::max(best, share);
    }
    int parts = 1;
    for (const auto& [n, share] : shares)
        if (share > best - 0.02) parts = n;
    if (parts == 1 || !round) return parts;
    int most = parts;
    for (const auto& [n, share] : shares)
        if (n % parts == 0 && share > nearly) most = n;
    return most;
}

/// A mirror line of one pitch of a whole turn: half way between two marks that could be images.
std::optional<double> mirror_line(const Marks& marks, double pitch) {
    const Mark& first = marks.list().back();
    for (const Mark& m : marks.list()) {
        if (std::abs(m.radius - first.radius) > 1e-3 * first.radius ||
            std::abs(m.length - first.length) > 1e-3 * first.length)
            continue;
        const double axis = (m.angle + first.angle) / 2;
        if (marks.mirrored_share(axis) >= enough) return std::remainder(axis, pitch);
    }
    return std::nullopt;
}

} // namespace

double Portion::pitch() const {
    return full / pitches;
}

std::optional<Portion> taken_for(const Portion& found, int pitches) {
    if (pitches < 1 || pitches > most_pitches) return std::nullopt;
    Portion out = found;
    out.pitches = pitches;
    out.mirrored = out.mirrored || found.round;
    if (found.round) return out;
    if (found.whole()) return found.pitches % pitches == 0 ? std::optional(out) : std::nullopt;
    const double shown = pitches * found.covers;
    out.half = std::abs(shown - 0.5) < 1e-3;
    if (!out.half && (shown < 0.999 || std::abs(shown - std::round(shown)) > 1e-3)) return std::nullopt;
    out.axis = found.from + (out.half ? 0 : out.pitch() / 2);
    out.mirrored = out.half || found.mirrored;
    return out;
}

Portion find_portion(const Arrangement& graph, double inner, double outer, double tolerance, bool poles) {
    Portion out;
    find_extent(graph, tolerance, out);
    const Marks marks(graph, inner, outer, tolerance);
    out.round = marks.empty() && out.whole();
    if (marks.empty()) return out;
    const double span = full * out.covers;
    const int parts = repeats(marks, out.from, span);
    if (out.whole()) {
        out.pitches = parts;
        if (const auto line = mirror_line(marks, out.pitch())) {
            out.mirrored = true;
            out.axis = *line;
        }
        return out;
    }
    const double pitch = span / parts, middle = out.from + pitch / 2;
    // One pitch is its own image about its middle; half of one is not, but is made whole by it.
    double share = 0;
    if (parts == 1) share = marks.mirrored_share(middle, pitch / 2);
    out.mirrored = parts > 1 || share >= enough;
    out.half = !out.mirrored && std::lround(full / pitch) % (poles ? 4 : 2) == 0;
    out.pitches = int(std::lround(full / pitch)) / (out.half ? 2 : 1);
    out.axis = out.half ? out.from : middle;
    if (out.half) out.mirrored = true;
    // Cuts a hair askew: the drawing shows a whole number of halves.
    const double halves = 2 * out.covers * out.pitches, whole = std::round(halves);
    if (whole >= 1 && std::abs(halves - whole) < 1e-3 * whole) out.covers = whole / (2 * out.pitches);
    return out;
}

} // namespace mavlo
