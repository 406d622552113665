#include "shell/one_question.h"

#include <QAbstractButton>

namespace mavlo::app {

QMessageBox::StandardButton one_question(QWidget* parent, const QString& title, const QString& question,
                                         const std::vector<Choice>& choices) {
    QMessageBox box(QMessageBox::Question, title, question, QMessageBox::NoButton, parent);
    QStringList kept;
    for (const Choice& choice : choices) {
        box.addButton(choice.button)->setText(choice.words);
        kept << QStringLiteral("%1: %2").arg(choice.words, choice.keeps);
    }
    box.setInformativeText(kept.join(QLatin1Char('\n')));
    box.setDefaultButton(choices.back().button);
    box.setEscapeButton(choices.back().button);
    box.exec();
    return box.standardButton(box.clickedButton());
}

} // namespace mavlo::app
