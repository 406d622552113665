#include "figure/line_profile.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace mavlo {
namespace {

class Profile {
  public:
    Profile(const MachineModel& model, const FieldPicture& picture, double angle, Point a, Point b, int count)
        : m_model(model)
        , m_picture(picture)
        , m_angle(angle) {
        const double unknown = std::numeric_limits<double>::quiet_NaN();
        const auto n = std::size_t(std::max(2, count));
        m_out = {a, b, {}, std::vector(n, unknown), std::vector(n, unknown), std::vector(n, unknown)};
        for (std::size_t i = 0; i < n; ++i) m_out.distance.push_back(norm(b - a) * double(i) / double(n - 1));
    }

    LineProfile run() {
        for (int copy = 0; copy < m_picture.sector.count; ++copy) {
            const double turn = copy * m_picture.sector.angle(),
                         sign = m_picture.sector.sign < 0 && copy % 2 ? -1 : 1;
            const Chart& chart = m_picture.chart;
            const Point a = chart.turned(m_out.a, -turn), b = chart.turned(m_out.b, -turn);
            for (const auto& t : m_picture.coloured)
                within(t, a, b, [&](std::size_t i, const auto& w) { density(t, i, w, turn, sign); });
            for (const auto& t : m_picture.triangles)
                within(t, a, b, [&](std::size_t i, const auto& w) {
                    m_out.potential[i] = sign * mean(t, w, [](const auto& v) { return double(v.potential); });
                });
        }
        return std::move(m_out);
    }

  private:
    using Weights = std::array<double, 3>;
    const FieldPicture::Vertex& vertex(const FieldPicture::Triangle& t, std::size_t k) const {
        return m_picture.vertices[std::size_t(t.vertex[k])];
    }

    /// The steps of the line that lie in a triangle, with their barycentric weights.
    template <typename Act>
    void within(const FieldPicture::Triangle& t, Point a, Point b, const Act& act) const {
        const Point p[] = {vertex(t, 0).at, vertex(t, 1).at, vertex(t, 2).at};
        const double twice = cross(p[1] - p[0], p[2] - p[0]);
        if (twice == 0) return;
        constexpr double slack = 1e-9;
        Weights from{}, slope{};
        double low = 0, high = 1;
        for (std::size_t k = 0; k < 3; ++k) {
            const Point q = p[(k + 1) % 3], side = p[(k + 2) % 3] - q;
            from[k] = cross(side, a - q) / twice;
            slope[k] = cross(side, b - a) / twice;
            if (std::abs(slope[k]) < 1e-12) {
                if (from[k] < -slack) return;
                continue;
            }
            const double at = (-slack - from[k]) / slope[k];
            (slope[k] > 0 ? low : high) = slope[k] > 0 ? std::max(low, at) : std::min(high, at);
        }
        const double steps = double(m_out.distance.size() - 1);
        for (int i = int(std::ceil(low * steps)), last = int(std::floor(high * steps)); i <= last; ++i) {
            Weights w{};
            for (std::size_t k = 0; k < 3; ++k) w[k] = from[k] + i / steps * slope[k];
            act(std::size_t(i), w);
        }
    }

    template <typename Value>
    double mean(const FieldPicture::Triangle& t, const Weights& w, const Value& value) const {
        return w[0] * value(vertex(t, 0)) + w[1] * value(vertex(t, 1)) + w[2] * value(vertex(t, 2));
    }

    bool turns(const FieldPicture::Triangle& t) const {
        const auto element = std::size_t(t.vertex[0]) / FieldPicture::of_element;
        if (element >= m_picture.elements) return false; // the gap
        const auto body =
            std::upper_bound(m_model.first_element.begin(), m_model.first_element.end(), element) -
            m_model.first_element.begin() - 1;
        return m_model.is_rotor(int(body));
    }

    void density(const FieldPicture::Triangle& t, std::size_t i, const Weights& w, double turn, double sign) {
        const Point b{mean(t, w, [](const auto& v) { return double(v.x); }),
                      mean(t, w, [](const auto& v) { return double(v.y); })};
        const Point here = sign * m_picture.chart.turned_direction(b, turn + (turns(t) ? m_angle : 0));
        const Point way = (1 / std::max(norm(m_out.b - m_out.a), 1e-300)) * (m_out.b - m_out.a);
        m_out.across[i] = cross(here, way);
        m_out.lengthwise[i] = dot(here, way);
    }

    const MachineModel& m_model;
    const FieldPicture& m_picture;
    double m_angle;
    LineProfile m_out;
};

} // namespace

LineProfile line_profile(const MachineModel& model, const FieldPicture& picture, double angle, Point a, Point b,
                         int count) {
    return Profile(model, picture, angle, a, b, count).run();
}

} // namespace mavlo
