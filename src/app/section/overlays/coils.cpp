// Coils outside the stack, where their ends are: each in a lane of its phase, from slot to slot.

#include "quantity/constants.h"
#include "section/overlay.h"
#include "section/phase_focus.h"
#include "shell/theme.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr double most_room = 46, nearest = 5, widest_lane = 6; ///< pixels: of all lanes, of the first, of one

/// A coil from one angle ahead to another; a coil round the yoke ends where it begins.
struct Drawn {
    const Coil* coil;
    double from, to; ///< rad
    int lane = 0;
};

/// The shorter way round, from the middle of one side to that of the other.
Drawn drawn(const Machine& m, const Coil& coil) {
    const double pitch = 2 * pi / m.slots,
                 apart = m.winding.layout.sharing == SlotSharing::Whole ? 0 : 0.2 * pitch;
    if (coil.back.slot == outside_core) return {&coil, coil.go.slot * pitch, coil.go.slot * pitch};
    const int span = span_of(coil, m.slots);
    const bool ahead = span <= m.slots - span;
    const int from = ahead ? coil.go.slot : coil.back.slot, steps = ahead ? span : m.slots - span;
    return {&coil, from * pitch + apart, (from + steps) * pitch - apart};
}

bool overlap(const Drawn& a, const Drawn& b) {
    const double ahead = std::fmod(b.from - a.from + 4 * pi, 2 * pi), behind = 2 * pi - ahead;
    return ahead <= a.to - a.from || behind <= b.to - b.from;
}

/// As few lanes as these coils need side by side, from the first one on; returns the next that is free.
int lay(std::vector<Drawn>& all, std::vector<Drawn> coils, int first) {
    int lanes = first;
    const auto begin = std::ptrdiff_t(all.size());
    for (Drawn& next : coils) {
        const auto taken = [&](int lane) {
            return std::any_of(all.begin() + begin, all.end(),
                               [&](const Drawn& d) { return d.lane == lane && overlap(d, next); });
        };
        for (next.lane = first; taken(next.lane);) ++next.lane;
        lanes = std::max(lanes, next.lane + 1);
        all.push_back(next);
    }
    return lanes;
}

/// Tooth coils side by side; where coils cross, every phase has lanes of its own.
std::vector<Drawn> in_lanes(const Machine& m, int& lanes) {
    constexpr int few = 2;
    std::vector<Drawn> all, coils;
    for (const Coil& coil : m.winding.layout.coils) coils.push_back(drawn(m, coil));
    lanes = lay(all, coils, 0);
    if (lanes <= few) return all;
    all.clear();
    lanes = 0;
    for (int phase = 0; phase < m.winding.phases; ++phase) {
        std::vector<Drawn> own;
        std::copy_if(coils.begin(), coils.end(), std::back_inserter(own),
                     [&](const Drawn& d) { return d.coil->phase == phase; });
        lanes = lay(all, own, lanes);
    }
    return all;
}

class CoilPainter {
  public:
    explicit CoilPainter(const SectionCanvas& canvas)
        : c(canvas)
        , m(canvas.built.machine)
        , m_all(in_lanes(m, m_lanes)) {
        const DrawnBody& stator = c.built.drawing.stator();
        m_inwards = m.outer_rotor();
        m_far = m_inwards ? stator.inner_radius : stator.outer_radius;
        m_step = std::min(widest_lane, (most_room - nearest) / std::max(1, m_lanes));
        // Into the bore there is only so much room.
        if (m_inwards) m_step = std::min(m_step, 0.8 * m_far * c.frame.scale() / std::max(1, m_lanes + 1));
    }

    /// What is in hand lies over the rest, and arcs over the leads that cross them.
    void run() const {
        c.painter.setBrush(Qt::NoBrush);
        const PhaseFocus& focus = PhaseFocus::shared();
        for (bool in_hand : {false, true})
            for (auto part : {&CoilPainter::leads, &CoilPainter::arc})
                for (const Drawn& d : m_all)
                    if (focus.shows(d.coil->phase) == in_hand) (this->*part)(d, in_hand);
    }

  private:
    double lane_radius(int lane) const {
        const double out = (nearest + m_step * (lane + 0.5)) / c.frame.scale();
        return m_inwards ? std::max(0.0, m_far - out) : m_far + out;
    }

    static QColor colour_of(const Drawn& d, bool in_hand) {
        QColor colour = theme().phase[std::size_t(d.coil->phase)];
        if (!in_hand) colour.setAlphaF(0.16F);
        return colour;
    }

    void leads(const Drawn& d, bool in_hand) const {
        c.painter.setPen(QPen(colour_of(d, in_hand), 1.3));
        for (double angle : {d.from, d.to})
            c.painter.drawLine(c.frame.to_screen(polar(m.winding.slot_bottom, angle)),
                               c.frame.to_screen(polar(lane_radius(d.lane), angle)));
    }

    void arc(const Drawn& d, bool in_hand) const {
        constexpr int pieces = 24;
        const double lane = lane_radius(d.lane), width = std::clamp(m_step - 1.6, 1.2, 3.0);
        QPainterPath path(c.frame.to_screen(polar(lane, d.from)));
        for (int i = 1; i <= pieces; ++i)
            path.lineTo(c.frame.to_screen(polar(lane, d.from + (d.to - d.from) * i / pieces)));
        if (in_hand) {
            c.painter.setPen(QPen(theme().paper, width + 1.6, Qt::SolidLine, Qt::FlatCap));
            c.painter.drawPath(path);
        }
        c.painter.setPen(QPen(colour_of(d, in_hand), width, Qt::SolidLine, Qt::RoundCap));
        c.painter.drawPath(path);
    }

    const SectionCanvas& c;
    const Machine& m;
    int m_lanes = 0;
    std::vector<Drawn> m_all;
    bool m_inwards;
    double m_far, m_step;
};

void paint(const SectionCanvas& c) {
    if (c.built.machine.wound()) CoilPainter(c).run();
}

/// Into the bore of an inner stator nothing needs room outside.
double room(const Machine& m) {
    if (!m.wound() || m.outer_rotor()) return 0;
    int lanes = 0;
    in_lanes(m, lanes);
    return std::min(most_room, nearest + widest_lane * lanes);
}

const Register<Overlay> coils{{
    .name = "coils",
    .order = 60,
    .benches = {"wind"},
    .at_first = {"wind"},
    .paint = paint,
    .room = room,
}};

} // namespace
} // namespace mavlo::app
