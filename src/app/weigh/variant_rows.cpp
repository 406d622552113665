#include "weigh/variant_rows.h"

#include "machine/choice_words.h"
#include "project/shelf.h"
#include "question/straight.h"
#include "shell/spoken.h"
#include "shell/wanted_direction.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <tuple>

namespace mavlo::app {
namespace {

constexpr double alike = 5e-4; ///< a smaller change is the mesh's

std::size_t reference_of(const Project& project) {
    const auto& list = project.variants;
    const auto found =
        std::find_if(list.begin(), list.end(), [&](const Variant& v) { return v.name == project.reference; });
    return found == list.end() ? 0 : std::size_t(found - list.begin());
}

/// The answers that are kept of one variant, each read from the disk once for all figures that it answers.
class KeptAnswers {
  public:
    KeptAnswers(const Document& document, const Variant& variant, const DrawnMachine& built)
        : m_document(document)
        , m_ask(ask_of(document.project(), variant))
        , m_built(built) {}
    const std::optional<Answer>& of(const std::string& question) {
        const auto [place, is_new] = m_read.try_emplace(question);
        if (is_new) place->second = m_document.answers().find(question, m_ask, m_built);
        return place->second;
    }

  private:
    const Document& m_document;
    Ask m_ask;
    const DrawnMachine& m_built;
    std::map<std::string, std::optional<Answer>> m_read;
};
/// One a variant; empty where it cannot be built.
using KeptOfVariants = std::vector<std::optional<KeptAnswers>>;

/// What is known of a figure of one variant, in SI.
struct Known {
    std::optional<double> value;
    bool is_quick = false, is_waiting = false, is_built = true;
};

Known known_of(const KeyFigure& figure, KeptAnswers& kept, const TellTaleEngine& engine,
               const DrawnMachine& built) {
    if (!figure.answered_by.empty())
        if (const auto& answer = kept.of(figure.answered_by))
            if (const auto value = full_value(*answer, figure.name, built.machine))
                return {value, false, false, true};
    const QuickFigures* quick = engine.of(built.hash);
    return {quick ? (*quick)[figure.name] : std::nullopt, figure.from_field, quick == nullptr, true};
}

ComparedCell cell_of(const KeyFigure& figure, const Known& known, const Known& reference, bool is_reference) {
    ComparedCell cell;
    if (!known.value) {
        cell.text = known.is_waiting ? QStringLiteral("…") : QStringLiteral("–");
        cell.differs = !is_reference && reference.value && known.is_built && !known.is_waiting;
        return cell;
    }
    cell.text = (known.is_quick ? QStringLiteral("≈ ") : QString()) +
                QString::number(*known.value * figure.factor, 'g', 4);
    // What a full answer and the quick model say is not held against each other.
    if (is_reference || !reference.value || known.is_quick != reference.is_quick) return cell;
    const double change = *known.value - *reference.value;
    if (std::abs(change) <= alike * std::abs(*reference.value)) return cell;
    cell.differs = true;
    const QChar sign = change > 0 ? QChar(u'+') : QChar(0x2212);
    if (figure.unit == "°C") // a share of degrees Celsius says nothing
        cell.change = sign + QStringLiteral("%1 K").arg(std::abs(change) * figure.factor, 0, 'f', 1);
    else
        cell.change =
            *reference.value == 0
                ? sign + QString::number(std::abs(change) * figure.factor, 'g', 3)
                : sign + QStringLiteral("%1 %").arg(std::abs(change / *reference.value) * 100, 0, 'f', 1);
    cell.verdict = (change > 0 ? 1 : -1) * wanted_direction(figure);
    return cell;
}

ComparedRow row_of(const KeyFigure& kind, std::size_t reference, KeptOfVariants& kept,
                   const TellTaleEngine& engine, const BuiltVariants& built) {
    const auto shown = std::find_if(built.begin(), built.end(), [](const auto& b) { return b != nullptr; });
    const KeyFigure figure = shown == built.end() ? kind : shown_key_figure(kind, (*shown)->machine);
    ComparedRow row{spoken(figure.label), QString::fromStdString(figure.unit), &kind, {}};
    std::vector<Known> known(built.size());
    for (std::size_t i = 0; i < built.size(); ++i)
        known[i] = built[i] ? known_of(figure, *kept[i], engine, *built[i]) : Known{{}, false, false, false};
    for (std::size_t i = 0; i < built.size(); ++i)
        row.cells.push_back(cell_of(figure, known[i], known[reference], i == reference));
    return row;
}

QString written(const Parameter& parameter, const Design& design) {
    const std::string text = design.text(parameter.path);
    return QString::fromStdString(parameter.kind == ParameterKind::Choice ? choice_words(text) : text);
}

/// A row of what is not a parameter but differs all the same.
template <class Part>
ComparedRow row_of_part(const QString& label, const Project& project, Part part) {
    ComparedRow row{label, {}, nullptr, {}};
    const Design& reference = project.variants[reference_of(project)].design;
    for (const Variant& variant : project.variants) {
        const bool same = part(variant.design) == part(reference);
        row.cells.push_back({same ? QStringLiteral("=") : QObject::tr("another"), {}, 0, !same});
    }
    return row;
}

} // namespace

bool ComparedRow::differs() const {
    return std::any_of(cells.begin(), cells.end(), [](const ComparedCell& cell) { return cell.differs; });
}

std::vector<ComparedRow> compared_figures(const Document& document, const TellTaleEngine& engine,
                                          const BuiltVariants& built) {
    const auto& variants = document.project().variants;
    KeptOfVariants kept(built.size());
    for (std::size_t i = 0; i < built.size(); ++i)
        if (built[i]) kept[i].emplace(document, variants[i], *built[i]);
    const std::size_t reference = reference_of(document.project());
    std::vector<ComparedRow> rows;
    for (const KeyFigure& figure : registry<KeyFigure>().all()) {
        const auto applies = [&](const auto& machine) {
            return !figure.applies || !machine || figure.applies(machine->machine.facts());
        };
        if (std::any_of(built.begin(), built.end(), applies))
            rows.push_back(row_of(figure, reference, kept, engine, built));
    }
    return rows;
}

std::vector<ComparedRow> compared_dimensions(const Project& project) {
    const std::size_t first = reference_of(project);
    const Design& reference = project.variants[first].design;
    std::vector<std::set<std::string>> used;
    for (const Variant& variant : project.variants) {
        used.emplace_back();
        for (const Parameter* parameter : used_parameters(variant.design)) used.back().insert(parameter->path);
    }
    std::vector<ComparedRow> rows;
    for (const Parameter& parameter : parameters()) {
        ComparedRow row{spoken(parameter.label), {}, nullptr, {}};
        bool is_used = false;
        for (std::size_t i = 0; i < used.size(); ++i) {
            const Design& design = project.variants[i].design;
            const bool own = used[i].contains(parameter.path);
            is_used = is_used || own;
            row.cells.push_back({own ? written(parameter, design) : QStringLiteral("–"),
                                 {},
                                 0,
                                 own != used[first].contains(parameter.path) ||
                                     (own && design.text(parameter.path) != reference.text(parameter.path))});
        }
        if (is_used) rows.push_back(std::move(row));
    }
    rows.push_back(row_of_part(QObject::tr("Drawn parts and shapes"), project,
                               [](const Design& d) { return std::tie(d.drawings, d.shapes, d.dimensions); }));
    rows.push_back(row_of_part(QObject::tr("Winding by hand"), project,
                               [](const Design& d) { return std::tie(d.coils); }));
    return rows;
}

} // namespace mavlo::app
