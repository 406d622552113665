#include "weigh/figure_words.h"

#include "quantity/quantity.h"
#include "question/figure_names.h"
#include "question/key_figure.h"
#include "shell/spoken.h"
#include "shell/typed_number.h"

#include <QRegularExpression>
#include <fmt/format.h>

namespace mavlo::app {
namespace {

/// Beside the key figures.
constexpr const char* amounts[] = {"mass_magnets", "mass_copper", "mass_steel", "active_volume"};

const KeyFigure* key_figure(const std::string& name) {
    for (const KeyFigure& figure : registry<KeyFigure>().all())
        if (figure.name == name) return &figure;
    return nullptr;
}

/// Its label with a small letter, unless it begins with an abbreviation.
QString spoken_label(const std::string& name) {
    const KeyFigure* key = key_figure(name);
    const auto known = known_figure_name(name);
    const QString label = spoken(key ? key->label : known ? known->label : name);
    if (label.size() < 2 || label[1].isUpper()) return label;
    return label.left(1).toLower() + label.mid(1);
}

std::vector<std::string> names() {
    std::vector<std::string> list = registry<KeyFigure>().names();
    list.insert(list.end(), std::begin(amounts), std::end(amounts));
    return list;
}

} // namespace

QString expression_words(const std::string& expression) {
    static const QRegularExpression word(QStringLiteral("[a-z][a-z0-9_]*"));
    const QString text = QString::fromStdString(expression);
    QString out;
    qsizetype from = 0;
    for (auto it = word.globalMatch(text); it.hasNext();) {
        const auto match = it.next();
        const std::string name = match.captured().toStdString();
        out += text.mid(from, match.capturedStart() - from);
        out += key_figure(name) || known_figure_name(name) ? spoken_label(name) : match.captured();
        from = match.capturedEnd();
    }
    out += text.mid(from);
    return out.replace(QLatin1Char('*'), QStringLiteral(" · "));
}

QStringList weighed_figures() {
    QStringList list;
    for (const std::string& name : names()) list << spoken_label(name);
    return list;
}

std::string figure_called(const QString& label) {
    for (const std::string& name : names())
        if (spoken_label(name).compare(label.trimmed(), Qt::CaseInsensitive) == 0) return name;
    return {};
}

std::string expression_of(const QString& typed) {
    const std::string name = figure_called(typed);
    return name.empty() ? typed.trimmed().toStdString() : name;
}

Result<std::string> limit_of(const QString& sentence) {
    static const QRegularExpression form(QStringLiteral("^(.+?)\\s*(at most|at least|<=|>=|<|>)\\s*(.+)$"));
    const auto match = form.match(sentence.trimmed());
    if (!match.hasMatch())
        return Problem{"limits", fmt::format("\"{}\" is no limit; write \"slot fill at most 45 %\".",
                                             sentence.trimmed().toStdString())};
    const std::string name = expression_of(match.captured(1)), sign = match.captured(2).toStdString();
    const auto value = parse_quantity(typed_number(match.captured(3)));
    if (!value)
        return Problem{"limits", fmt::format("\"{}\": {}", sentence.trimmed().toStdString(),
                                             value.problems().front().sentence)};
    double si = value->si;
    // A bare number is in the unit that the figure is shown in.
    if (const KeyFigure* key = key_figure(name);
        key && value->dimension.plain() && !match.captured(3).contains('%'))
        si /= sign[0] == 'a' ? key->factor : 1;
    return fmt::format("{} {} {:.12g}", name, sign == "at least" || sign[0] == '>' ? ">=" : "<=", si);
}

} // namespace mavlo::app
