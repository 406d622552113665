#include "question/magnet_states.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace mavlo {

MagnetStates::MagnetStates(QuestionContext& context, int points, int price)
    : m_c(context)
    , m_machine(context.machine)
    , m_points(points)
    , m_price(price)
    , m_slices(m_machine.skew.slices())
    , m_knee(MagnetLine::of(*m_machine.magnet()).knee) {}

double MagnetStates::margin(const std::vector<MagnetElement>& list) const {
    return margin_of_all_but(list, m_lines, 0.01);
}

bool MagnetStates::is_measured() const {
    return std::any_of(m_lines.begin(), m_lines.end(),
                       [](const MagnetLine& line) { return !line.share.empty(); });
}

bool MagnetStates::is_mixed() const {
    return std::any_of(m_lines.begin(), m_lines.end(), [&](const MagnetLine& line) {
        return line.remanence > 0 && std::abs(line.knee - m_knee) > 1e-6;
    });
}

std::optional<Problem> MagnetStates::make_model(const Share& share) {
    if (m_model && share == m_share) return std::nullopt;
    ModelOptions options = m_c.mesh;
    options.remanence_share = share;
    const auto model = prepare_model(m_c, m_machine, options);
    if (!model) return model.problems().front();
    m_model = *model;
    m_share = share;
    m_lines = magnet_lines(m_model->substances);
    return without_knee();
}

std::optional<Problem> MagnetStates::without_knee() const {
    for (const Substance& s : m_model->substances)
        if (s.material.kind == MaterialKind::Magnet && s.material.magnet.knee_field_at(s.temperature) <= 0)
            return Problem{s.path,
                           fmt::format("The coercivity of \"{}\" is not known, so its knee is not; give "
                                       "\"coercivity\" in the material, or take another grade.",
                                       s.material.name)};
    return std::nullopt;
}

Result<PeriodWithLoci> MagnetStates::period(Dq stack_current, const Share& share, const Slice& slice) {
    if (auto problem = make_model(share)) return *problem;
    const Dq current = turned(stack_current, -m_machine.pole_pairs() * slice.turn);
    const auto result = sweep_period_with_loci(m_model, m_points, current, m_c.threads, {{}, m_c.watch.stop});
    if (!result) return result;
    Effort& effort = m_c.answer.effort;
    for (const auto& r : result->results) effort.newton_steps += r.newton_steps;
    effort.solves += period_solves(m_machine, m_points);
    if (m_c.watch.progress) m_c.watch.progress(effort.solves, std::max(effort.solves + 1, m_price));
    return result;
}

Result<std::vector<MagnetElement>> MagnetStates::elements(Dq current) {
    std::vector<MagnetElement> all;
    for (const Slice& slice : m_slices) {
        const auto list = elements(current, {}, slice);
        if (!list) return list.problems();
        for (MagnetElement e : *list) {
            e.area *= slice.share;
            all.push_back(e);
        }
    }
    return all;
}

Result<std::vector<MagnetStates::Share>> MagnetStates::weakened(Dq current) {
    std::vector<Share> out;
    for (const Slice& slice : m_slices) {
        const auto share = weakened(current, slice);
        if (!share) return share.problems();
        out.push_back(*share);
    }
    return out;
}

Result<std::vector<MagnetElement>> MagnetStates::elements(Dq current, const Share& share, const Slice& slice) {
    const auto result = period(current, share, slice);
    if (!result) return result.problems();
    return magnet_elements(*m_model, result->loci.rotor);
}

Result<MagnetStates::Share> MagnetStates::weakened(Dq current, const Slice& slice) {
    std::optional<Weakening> weakening;
    for (int round = 0; round < weakening_rounds; ++round) {
        const auto list = elements(current, weakening ? weakening->share() : Share{}, slice);
        if (!list) return list.problems();
        if (!weakening) weakening.emplace(m_lines, m_model->elements.size());
        if (weakening->update(*list)) break;
    }
    m_residual = std::max(m_residual, weakening->residual());
    return weakening->share();
}

} // namespace mavlo
