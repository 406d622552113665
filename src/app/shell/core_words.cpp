#include "shell/core_words.h"

#include "drawing/roles.h"
#include "machine/choice_words.h"
#include "machine/equivalent.h"
#include "machine/machine.h"
#include "project/project.h"
#include "question/figure_names.h"
#include "question/key_figure.h"
#include "question/straight.h"
#include "section/overlay.h"
#include "shell/bench.h"

#include <QXmlStreamWriter>
#include <algorithm>
#include <cctype>

namespace mavlo::app {
namespace {

using Words = std::set<std::string>;

/// As they are read of machines that turn and of straight ones.
void add_read(Words& words, const std::string& text) {
    words.insert(text);
    words.insert(straight_words(text, 1));
}

void add_parameters(Words& words) {
    for (const Parameter& p : parameters()) {
        add_read(words, p.label);
        add_read(words, p.help);
        words.insert({p.page, p.group});
        if (p.kind == ParameterKind::Choice)
            for (const std::string& choice : p.choices()) words.insert(choice_words(choice));
    }
    for (const Equivalent& equivalent : registry<Equivalent>().all()) words.insert(equivalent.label);
}

void add_questions(Words& words) {
    for (const QuestionKind& kind : question_kinds()) {
        words.insert(kind.group);
        add_read(words, kind.title);
        add_read(words, kind.tells);
        for (const bool linear : {false, true})
            for (const QuestionInput& input : shown_inputs(kind, linear)) {
                add_read(words, input.label);
                add_read(words, input.help);
                if (input.kind == InputKind::Choice)
                    for (const std::string& choice : input.choices()) words.insert(choice_words(choice));
            }
    }
}

void add_figures(Words& words) {
    for (const FigureName& name : all_figure_names()) {
        add_read(words, name.label);
        words.insert(name.group);
    }
    for (const QuestionKind& kind : question_kinds())
        for (const std::string& figure : answering_figures(kind.name))
            add_read(words, figure_name(figure).label);
    for (const KeyFigure& figure : registry<KeyFigure>().all()) add_read(words, figure.label);
}

/// Words that follow the design: rows that have another sense in it, and titles of key figures. Those with its
/// rating in them are composed.
void add_words_of(Words& words, const Design& design) {
    for (const Parameter& p : parameters())
        if (const Parameter* own = find_parameter(p.path, design)) {
            add_read(words, own->label);
            add_read(words, own->help);
        }
    const auto machine = build_machine(design, {});
    if (!machine) return;
    for (const KeyFigure& figure : registry<KeyFigure>().all()) {
        if (!figure.title) continue;
        const std::string title = figure.title(*machine);
        if (std::none_of(title.begin(), title.end(), [](unsigned char c) { return std::isdigit(c); }))
            words.insert(title);
    }
}

} // namespace

std::set<std::string> core_words() {
    Words words;
    add_parameters(words);
    add_questions(words);
    add_figures(words);
    for (const StartingShape& shape : starting_shapes()) {
        words.insert({shape.title, shape.tells});
        add_words_of(words, new_project(shape.name)->in_hand().design);
    }
    for (const BenchKind& bench : registry<BenchKind>().all()) words.insert({bench.title, bench.tells});
    for (const Overlay& overlay : registry<Overlay>().all()) words.insert(overlay.name);
    words.insert(role_words().begin(), role_words().end());
    words.erase("");
    return words;
}

QByteArray catalogue_of(const std::set<std::string>& words) {
    QByteArray text;
    QXmlStreamWriter xml(&text);
    xml.setAutoFormatting(true);
    xml.writeStartDocument();
    xml.writeDTD(QStringLiteral("<!DOCTYPE TS>"));
    xml.writeStartElement(QStringLiteral("TS"));
    xml.writeAttribute(QStringLiteral("version"), QStringLiteral("2.1"));
    xml.writeStartElement(QStringLiteral("context"));
    xml.writeTextElement(QStringLiteral("name"), QStringLiteral("core"));
    for (const std::string& word : words) {
        xml.writeStartElement(QStringLiteral("message"));
        xml.writeTextElement(QStringLiteral("source"), QString::fromStdString(word));
        xml.writeStartElement(QStringLiteral("translation"));
        xml.writeAttribute(QStringLiteral("type"), QStringLiteral("unfinished"));
        xml.writeEndElement();
        xml.writeEndElement();
    }
    xml.writeEndDocument();
    return text;
}

} // namespace mavlo::app
