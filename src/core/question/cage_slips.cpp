#include "question/cage_slips.h"

#include "question/supply_inputs.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

/// Points that follow from one another.
constexpr std::size_t chain = 5;

const double root2 = std::sqrt(2.0);

} // namespace

FieldSlips::FieldSlips(std::shared_ptr<const MachineModel> model, Circuit circuit, QuestionContext& context)
    : SlipMachine(model->machine.pole_pairs())
    , m_field(model)
    , m_circuit(circuit)
    , m_to_star(is_delta(model->machine) ? std::sqrt(3.0) : 1)
    , m_context(context) {}

CageSupply FieldSlips::supply(const Place& place) const {
    CageSupply out{place.voltage * m_to_star * root2, place.frequency, m_circuit.resistance,
                   m_circuit.end_inductance};
    const auto waves = m_waves.find(place.frequency);
    if (waves != m_waves.end()) out.waves = waves->second.at(place.slip);
    return out;
}

/// The waves' answers, from the field without slip as it is without them.
Problems FieldSlips::find_waves(const Place& place) {
    if (m_waves.contains(place.frequency)) return {};
    CageField field = m_field.fresh();
    const auto idle = field.at(supply({place.voltage, place.frequency, 0}), 0);
    if (!idle) return idle.problems();
    auto waves = CageWaves::of(field, *idle, place.frequency);
    if (!waves) return waves.problems();
    m_waves.emplace(place.frequency, std::move(*waves));
    return {};
}

/// Of the same frequency and voltage, at the slip next to it.
const CagePoint* FieldSlips::nearest(const Place& place) const {
    const CagePoint* best = nullptr;
    double least = 0;
    for (const auto& [known, point] : m_known) {
        if (known.frequency != place.frequency || known.voltage != place.voltage) continue;
        const double away = std::abs(known.slip - place.slip);
        if (!best || away < least) best = &point, least = away;
    }
    return best;
}

std::vector<double> FieldSlips::known_slips(double voltage, double frequency) const {
    std::vector<double> slips;
    for (const auto& [place, point] : m_known)
        if (place.voltage == voltage && place.frequency == frequency) slips.push_back(place.slip);
    return slips;
}

Problems FieldSlips::find_chain(const std::vector<Place>& places, std::vector<CagePoint>& out) const {
    CageField field = m_field.fresh();
    const CagePoint* start = nearest(places.front());
    for (const Place& place : places) {
        if (m_context.watch.stop.stop_requested()) return {stopped()};
        auto point = field.at(supply(place), place.slip, start);
        if (!point) return point.problems();
        out.push_back(std::move(*point));
        start = &out.back();
    }
    return {};
}

Problems FieldSlips::find(const std::vector<Place>& wanted) {
    std::vector<Place> places;
    for (const Place& place : wanted)
        if (!m_known.contains(place) && std::find(places.begin(), places.end(), place) == places.end())
            places.push_back(place);
    for (const Place& place : places)
        if (auto problems = find_waves(place); !problems.empty()) return problems;
    const std::size_t chains = (places.size() + chain - 1) / chain;
    std::vector<std::vector<CagePoint>> found(chains);
    std::vector<Problems> problems(chains);
    const auto begin = [&](std::size_t k) {
        return places.begin() + std::ptrdiff_t(k * places.size() / chains);
    };
    on_threads(int(chains), m_context.threads, [&](int k) {
        const auto index = std::size_t(k);
        const std::vector<Place> part(begin(index), begin(index + 1));
        found[index].reserve(part.size());
        problems[index] = find_chain(part, found[index]);
    });
    std::size_t next = 0;
    for (std::size_t k = 0; k < chains; ++k) {
        if (!problems[k].empty()) return problems[k];
        for (CagePoint& point : found[k]) {
            m_context.answer.effort.newton_steps += point.field.newton_steps;
            m_known.emplace(places[next++], std::move(point));
        }
    }
    m_context.answer.effort.solves = fields();
    return {};
}

const CagePoint& FieldSlips::found(double voltage, double frequency, double slip) const {
    return m_known.at({voltage, frequency, slip});
}

CageElements FieldSlips::elements(double voltage, double frequency, double slip) const {
    CageElements e = m_field.elements(supply({voltage, frequency, slip}), found(voltage, frequency, slip));
    const double share = 1 / (m_to_star * m_to_star);
    e.r1 *= share;
    e.x1 *= share;
    e.xm *= share;
    if (e.r2) *e.r2 *= share;
    if (e.x2) *e.x2 *= share;
    return e;
}

/// The stator's iron by the field without slip.
Result<IronLoss> FieldSlips::iron_at_rest(double voltage, double frequency) {
    const auto known = m_iron.find({voltage, frequency});
    if (known != m_iron.end()) return known->second;
    const Place place{voltage, frequency, 0};
    if (auto problems = find({place}); !problems.empty()) return problems;
    return m_iron.emplace(std::pair(voltage, frequency), m_field.stator_iron(m_known.at(place))).first->second;
}

/// The iron's loss goes with the square of the working wave's EMF, and its current beside that.
Result<SlipPoint> FieldSlips::point_of(const Place& place) {
    const auto iron = iron_at_rest(place.voltage, place.frequency);
    if (!iron) return iron.problems();
    const CagePoint& found = m_known.at(place);
    const CagePoint& idle = m_known.at({place.voltage, place.frequency, 0});
    SlipPoint p;
    p.slip = place.slip;
    p.speed = (1 - place.slip) * synchronous_speed(place.frequency);
    p.torque = found.torque;
    p.iron = iron->at(place.frequency) * std::norm(found.emf) / std::norm(idle.emf);
    const Complex iron_current = 2 * p.iron / (3.0 * std::conj(found.emf));
    p.current = m_to_star * std::abs(found.current + iron_current) / root2;
    p.rotor_current = m_to_star * std::abs(found.rotor_current) / root2;
    p.input = found.input + p.iron;
    p.copper_stator = found.copper_loss;
    p.copper_rotor = found.rotor_loss;
    p.power_factor = p.current > 0 ? p.input / (3 * place.voltage * p.current) : 0;
    p.friction = p.speed != 0 ? m_circuit.friction : 0;
    return p;
}

Result<SlipPoint> FieldSlips::at(double voltage, double frequency, double slip) {
    const auto points = over(voltage, frequency, {slip});
    if (!points) return points.problems();
    return points->front();
}

Result<std::vector<SlipPoint>> FieldSlips::points(const std::vector<Place>& places) {
    if (auto problems = find(places); !problems.empty()) return problems;
    std::vector<SlipPoint> points;
    for (const Place& place : places) {
        const auto point = point_of(place);
        if (!point) return point.problems();
        points.push_back(*point);
    }
    return points;
}

Result<std::vector<SlipPoint>> FieldSlips::over(double voltage, double frequency,
                                                const std::vector<double>& slips) {
    std::vector<Place> places;
    for (double slip : slips) places.push_back({voltage, frequency, slip});
    return points(places);
}

Result<std::vector<SlipPoint>> FieldSlips::over_voltages(const std::vector<double>& voltages, double frequency,
                                                         double slip) {
    std::vector<Place> places;
    for (double voltage : voltages) places.push_back({voltage, frequency, slip});
    return points(places);
}

double FieldSlips::star_emf(double voltage, double frequency, double slip) const {
    return std::abs(found(voltage, frequency, slip).emf) / (m_to_star * root2);
}

namespace {

const std::vector<double> table_slips{0.01, 0.03, 0.1, 0.3, 1}, table_voltages{0.3, 0.6, 0.8, 0.9, 1, 1.1, 1.3},
    iron_frequencies{0.05, 0.1, 0.2, 0.5, 1, 1.5, 2, 3, 5};

/// Over the voltage, without slip.
Problems add_main_path(CircuitTable& table, FieldSlips& fields, double voltage) {
    std::vector<double> voltages;
    for (double share : table_voltages) voltages.push_back(share * voltage);
    const auto idle = fields.over_voltages(voltages, table.frequency, 0);
    if (!idle) return idle.problems();
    for (double v : voltages) {
        table.emf_per_hertz.push_back(fields.star_emf(v, table.frequency, 0) / table.frequency);
        table.xm.push_back(fields.elements(v, table.frequency, 0).xm);
    }
    return {};
}

/// Over the slip, on the voltage.
Problems add_rotor(CircuitTable& table, FieldSlips& fields, double voltage) {
    const auto loaded = fields.over(voltage, table.frequency, table_slips);
    if (!loaded) return loaded.problems();
    for (double slip : table_slips) {
        const CageElements e = fields.elements(voltage, table.frequency, slip);
        if (!e.r2 || !e.x2) return {{"rotor.bar.material", "The bars carry no current."}};
        table.rotor_frequency.push_back(slip * table.frequency);
        table.r1 = e.r1;
        table.x1.push_back(e.x1);
        table.r2.push_back(*e.r2);
        table.x2.push_back(*e.x2);
        const double emf = fields.star_emf(voltage, table.frequency, slip) / table.frequency;
        table.main_share.push_back(e.xm / straight_between(table.emf_per_hertz, table.xm, emf));
    }
    return {};
}

Problems add_iron(CircuitTable& table, FieldSlips& fields, double voltage) {
    const auto iron = fields.iron_at_rest(voltage, table.frequency);
    if (!iron) return iron.problems();
    table.iron_emf = fields.star_emf(voltage, table.frequency, 0) / table.frequency;
    for (double share : iron_frequencies) {
        table.iron_frequency.push_back(share * table.frequency);
        table.iron_loss.push_back(iron->at(share * table.frequency));
    }
    return {};
}

} // namespace

Result<CircuitTable> circuit_table(FieldSlips& fields, double voltage, double frequency) {
    CircuitTable table;
    table.frequency = frequency;
    if (auto problems = add_main_path(table, fields, voltage); !problems.empty()) return problems;
    if (auto problems = add_rotor(table, fields, voltage); !problems.empty()) return problems;
    if (auto problems = add_iron(table, fields, voltage); !problems.empty()) return problems;
    return table;
}

} // namespace mavlo
