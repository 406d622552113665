#pragma once
// One question in plain words, with what each choice keeps.

#include <QMessageBox>
#include <vector>

namespace mavlo::app {

struct Choice {
    QMessageBox::StandardButton button;
    QString words; ///< on the button
    QString keeps; ///< what becomes of things then
};

/// The last choice is taken by Esc and where nothing is chosen.
QMessageBox::StandardButton one_question(QWidget* parent, const QString& title, const QString& question,
                                         const std::vector<Choice>& choices);

} // namespace mavlo::app
