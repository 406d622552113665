// Contacts and coefficients that make the computed temperatures those that were measured.

#include "quantity/constants.h"
#include "quantity/dense.h"
#include "quantity/quantity.h"
#include "question/heat_setup.h"
#include "question/named_values.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <sstream>

namespace mavlo::question_heat_fit {
namespace {

constexpr int most_steps = 25, most_halvings = 8;
constexpr double least_change = 1e-4, difference = 0.02; ///< of a value's logarithm

/// What may be fitted: its place, and its unit as the design has it.
struct Adjustable {
    const char* path;
    double CoolingData::*value;
    const char* unit;
    double factor;      ///< from SI to the unit
    double start, most; ///< where the design says none; upper limit
};
constexpr Adjustable adjustables[] = {
    {"thermal.stack_contact", &CoolingData::stack_contact, "um", 1e6, 10e-6, 1e-2},
    {"thermal.shaft_contact", &CoolingData::shaft_contact, "um", 1e6, 10e-6, 1e-2},
    {"thermal.magnet_contact", &CoolingData::magnet_contact, "um", 1e6, 10e-6, 1e-2},
    {"thermal.bar_contact", &CoolingData::bar_contact, "um", 1e6, 2e-6, 1e-2},
    {"thermal.liner_contact", &CoolingData::liner_contact, "um", 1e6, 10e-6, 1e-2},
    {"thermal.impregnated", &CoolingData::impregnated, "", 1, 0.5, 1},
    {"housing.emissivity", &CoolingData::emissivity, "", 1, 0.5, 1},
    {"cooling.coefficient", &CoolingData::coefficient, "W/(m2.K)", 1, 10, 1e6},
    {"cooling.air_speed", &CoolingData::air_speed, "m/s", 1, 5, 200},
};

struct Measured {
    std::string name;
    double kelvin;
};

double temperature_of(const std::string& name, const MachineHeat& heat) {
    const std::pair<const char*, HeatPart> parts[] = {
        {"winding", HeatPart::Winding},   {"end_windings", HeatPart::Ends}, {"magnets", HeatPart::Magnets},
        {"cage", HeatPart::Bars},         {"rotor", HeatPart::Rotor},       {"teeth", HeatPart::Teeth},
        {"yoke", HeatPart::Yoke},         {"housing", HeatPart::Housing},   {"shields", HeatPart::Shields},
        {"bearings", HeatPart::Bearings}, {"shaft", HeatPart::Shaft}};
    if (name == "winding_highest") return heat.winding_highest;
    for (const auto& [word, part] : parts)
        if (name == word)
            if (const auto found = heat.mean.find(part); found != heat.mean.end()) return found->second;
    return std::nan("");
}

std::vector<std::string> listed(const std::string& text) {
    std::vector<std::string> items;
    std::stringstream all(text);
    for (std::string item; std::getline(all, item, ',');) items.emplace_back(trim(item));
    return items;
}

Result<std::vector<Measured>> read_measured(const std::string& text) {
    const auto values = named_values(text, "--with measured", "winding=92 degC, housing=61 degC");
    if (!values) return values.problems();
    std::vector<Measured> all;
    for (const auto& [name, value] : *values) {
        if (value.dimension != dimension::temperature)
            return Problem{"--with measured", fmt::format("{} is a temperature, such as 92 degC.", name)};
        all.push_back({name, value.si});
    }
    return all;
}

/// By its words on the sheet.
bool is_called(const Adjustable& adjustable, const std::string& words) {
    const Parameter* parameter = find_parameter(adjustable.path);
    return parameter && lower_case(parameter->label) == lower_case(words);
}

Result<std::vector<const Adjustable*>> read_fit(const std::string& text) {
    std::vector<const Adjustable*> list;
    for (const std::string& path : listed(text)) {
        const auto* found =
            std::find_if(std::begin(adjustables), std::end(adjustables),
                         [&](const Adjustable& a) { return path == a.path || is_called(a, path); });
        if (found == std::end(adjustables)) {
            std::string known;
            for (const Adjustable& a : adjustables)
                known += (known.empty() ? "" : ", ") + find_parameter(a.path)->label;
            return Problem{"--with fit", fmt::format("\"{}\" cannot be fitted; these can: {}.", path, known)};
        }
        list.push_back(&*found);
    }
    return list;
}

/// Least squares over the logarithms by K. Levenberg's method (Q. Appl. Math. 2, 1944), slopes by differences.
class Fit {
  public:
    Fit(QuestionContext& context, std::vector<Measured> measured, std::vector<const Adjustable*> free)
        : c(context)
        , m_measured(std::move(measured))
        , m_free(std::move(free)) {}

    Problems run() {
        auto model = heat_model(c, c.input("speed"));
        if (!model) return model.problems();
        m_cooling = (*model)->cooling();
        m_model = (*model)->field_model();
        auto losses = known_losses(c, **model, c.input("speed"));
        if (!losses) return losses.problems();
        m_losses = *losses;
        m_at.resize(Eigen::Index(m_free.size()));
        for (std::size_t k = 0; k < m_free.size(); ++k) {
            const double own = m_cooling.*(m_free[k]->value);
            m_at[Eigen::Index(k)] = std::log(own > 0 ? own : m_free[k]->start);
        }
        const auto begin = misfit(m_at);
        if (!begin) return begin.problems();
        m_begin = begin->norm() / std::sqrt(double(m_measured.size()));
        if (auto problems = descend(*begin); !problems.empty()) return problems;
        tell();
        return {};
    }

  private:
    double value(std::size_t k, const Eigen::VectorXd& logarithms) const {
        return std::min(m_free[k]->most, std::exp(logarithms[Eigen::Index(k)]));
    }

    /// K, computed less measured.
    Result<Eigen::VectorXd> misfit(const Eigen::VectorXd& logarithms) const {
        CoolingData cooling = m_cooling;
        for (std::size_t k = 0; k < m_free.size(); ++k) cooling.*(m_free[k]->value) = value(k, logarithms);
        auto model = MachineHeatModel::of(m_model, cooling, c.input("speed"));
        if (!model) return model.problems();
        const auto heat = coupled_heat(**model, m_losses, c.machine.winding.conductor_material);
        if (!heat) return heat.problems();
        if (heat->runs_away_from > 0)
            return Problem{
                "--with measured",
                "On the way to these temperatures the winding runs away; begin with a design that cools "
                "better, or fit fewer values."};
        Eigen::VectorXd off{Eigen::Index(m_measured.size())};
        for (std::size_t k = 0; k < m_measured.size(); ++k) {
            off[Eigen::Index(k)] = temperature_of(m_measured[k].name, heat->heat) - m_measured[k].kelvin;
            if (std::isnan(off[Eigen::Index(k)]))
                return Problem{"--with measured",
                               fmt::format("\"{}\" is no part of this machine.", m_measured[k].name)};
        }
        return off;
    }

    Problems descend(Eigen::VectorXd off) {
        const auto n = Eigen::Index(m_free.size());
        double damping = 1e-3;
        for (int step = 0; step < most_steps; ++step) {
            if (c.watch.stop.stop_requested()) return {stopped()};
            m_slopes.resize(off.size(), n);
            for (Eigen::Index k = 0; k < n; ++k) {
                Eigen::VectorXd moved = m_at;
                moved[k] += difference;
                const auto there = misfit(moved);
                if (!there) return there.problems();
                m_slopes.col(k) = (*there - off) / difference;
            }
            const Eigen::MatrixXd normal = m_slopes.transpose() * m_slopes;
            bool better = false;
            for (int halved = 0; halved < most_halvings && !better; ++halved, damping *= 8) {
                const Eigen::MatrixXd damped =
                    normal + damping * (normal.trace() / double(n) + 1e-9) * Eigen::MatrixXd::Identity(n, n);
                const Eigen::VectorXd right = -m_slopes.transpose() * off;
                Eigen::VectorXd change = solved(damped, right);
                change = change.cwiseMax(-1.5).cwiseMin(1.5);
                const auto there = misfit(m_at + change);
                if (!there || there->norm() > off.norm()) continue;
                better = true;
                m_at += change;
                off = *there;
                damping /= 20;
                if (change.cwiseAbs().maxCoeff() < least_change) halved = most_halvings, m_done = true;
            }
            if (!better || m_done) break;
        }
        m_off = off;
        return {};
    }

    /// Of each value's logarithm where each temperature may be 1 K off: what the measurements leave open.
    Eigen::VectorXd spread() const {
        const auto n = Eigen::Index(m_free.size());
        const Eigen::MatrixXd normal = m_slopes.transpose() * m_slopes;
        const Eigen::MatrixXd inverse = solved(normal, Eigen::MatrixXd(Eigen::MatrixXd::Identity(n, n)));
        return inverse.diagonal().cwiseMax(0).cwiseSqrt();
    }

    void tell() {
        const double rms = m_off.norm() / std::sqrt(double(m_measured.size()));
        c.answer.figures = {{"misfit_before", m_begin, "K"}, {"misfit", rms, "K"}};
        Curve factor{"fitted_factor", "1", "value", "1", {}, {}},
            spreads{"fitted_spread", "1", "value", "1", {}, {}},
            left{"misfit_of_each", "K", "place", "1", {}, {}};
        const Eigen::VectorXd open = spread();
        std::string said;
        for (std::size_t k = 0; k < m_free.size(); ++k) {
            const double own = m_cooling.*(m_free[k]->value), now = value(k, m_at),
                         sigma = open[Eigen::Index(k)];
            factor.x.push_back(double(k + 1));
            factor.y.push_back(now / (own > 0 ? own : m_free[k]->start));
            factor.labels.emplace_back(m_free[k]->path);
            spreads.x.push_back(double(k + 1));
            spreads.y.push_back(sigma);
            spreads.labels.emplace_back(m_free[k]->path);
            said +=
                fmt::format(" {} = {:.4g}{}{} ({}).", m_free[k]->path, now * m_free[k]->factor,
                            *m_free[k]->unit ? " " : "", m_free[k]->unit,
                            sigma < 1 ? fmt::format("within {:.0f} % for 1 K of each temperature", 100 * sigma)
                                      : std::string("these temperatures hardly tell it"));
        }
        for (std::size_t k = 0; k < m_measured.size(); ++k) {
            left.x.push_back(double(k + 1));
            left.y.push_back(m_off[Eigen::Index(k)]);
            left.labels.push_back(m_measured[k].name);
        }
        for (Curve* curve : {&factor, &spreads, &left}) c.answer.curves.push_back(std::move(*curve));
        c.answer.sentence = fmt::format("The temperatures are met within {:.2g} K (before {:.3g} K) with{} {}",
                                        rms, m_begin, said, m_losses.words);
    }

    QuestionContext& c;
    std::vector<Measured> m_measured;
    std::vector<const Adjustable*> m_free;
    std::shared_ptr<const MachineModel> m_model;
    CoolingData m_cooling;
    KnownLosses m_losses;
    Eigen::VectorXd m_at, m_off;
    Eigen::MatrixXd m_slopes;
    double m_begin = 0;
    bool m_done = false;
};

Problems run(QuestionContext& c) {
    auto measured = read_measured(c.inputs.word("measured"));
    if (!measured) return measured.problems();
    auto free = read_fit(c.inputs.word("fit"));
    if (!free) return free.problems();
    if (measured->size() < free->size())
        return {{"--with fit", fmt::format("{} temperatures cannot tell {} values; fit fewer, or measure more.",
                                           measured->size(), free->size())}};
    return Fit(c, std::move(*measured), std::move(*free)).run();
}

std::vector<QuestionInput> inputs() {
    const auto word = [](const char* key, const char* label, const char* standard, const char* help) {
        QuestionInput input{key, label, "", standard, help};
        input.kind = InputKind::Word;
        return input;
    };
    std::vector<QuestionInput> list{word("measured", "Measured", "winding=100 °C, housing=70 °C",
                                         "Parts with their temperatures: winding, winding highest, "
                                         "end windings, teeth, yoke, rotor, magnets, cage, shaft, "
                                         "bearings, shields, housing."),
                                    word("fit", "Fitted", "Liner on steel, Stack in housing",
                                         "Contacts, coefficients and shares of the design that may change.")};
    for (QuestionInput& input : heat_inputs()) list.push_back(std::move(input));
    return list;
}

const RegisterQuestion registered{
    {"heat-fit",
     "Heat",
     "Fitted to measurements",
     "Which contacts and coefficients bring the computed temperatures to those measured.",
     inputs(),
     heat_solves,
     run,
     103,
     {need_round, need_winding},
     true, // its losses are those of load: one mesh serves both
     true}};

} // namespace
} // namespace mavlo::question_heat_fit
