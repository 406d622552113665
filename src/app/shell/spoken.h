#pragma once
// Words of the core on a screen, by way of the catalogue.

#include <QCoreApplication>
#include <QString>
#include <string>

namespace mavlo::app {

/// A label, title, group or sentence of help that the core keeps, in the window's language: the catalogue has
/// it in the context "core" under its English text.
inline QString spoken(const std::string& text) {
    return text.empty() ? QString() : QCoreApplication::translate("core", text.c_str());
}

} // namespace mavlo::app
