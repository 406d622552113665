#pragma once
// A box that offers the words of a choice as they are spoken, and tells them as files have them.

#include <QComboBox>
#include <string>
#include <vector>

namespace mavlo::app {

void fill_choices(QComboBox& box, const std::vector<std::string>& choices);
/// False: the box does not offer it.
bool show_choice(QComboBox& box, const QString& choice);
QString shown_choice(const QComboBox& box);

} // namespace mavlo::app
