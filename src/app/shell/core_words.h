#pragma once
// All words of the core that a screen takes from the catalogue (see shell/spoken.h), for who translates them.

#include <QByteArray>
#include <set>
#include <string>

namespace mavlo::app {

/// Of parameters, questions, figures, shapes, benches and overlays, as their registries have them. Sentences
/// that are composed of numbers and words are not among them.
std::set<std::string> core_words();

/// A catalogue without translations (Qt Linguist's TS, an XML) with these words in the context "core".
QByteArray catalogue_of(const std::set<std::string>& words);

} // namespace mavlo::app
