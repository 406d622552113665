#include "sheet/choice_box.h"

#include "machine/choice_words.h"
#include "shell/spoken.h"

namespace mavlo::app {

void fill_choices(QComboBox& box, const std::vector<std::string>& choices) {
    box.clear();
    for (const std::string& choice : choices)
        box.addItem(spoken(choice_words(choice)), QString::fromStdString(choice));
}

bool show_choice(QComboBox& box, const QString& choice) {
    const int index = box.findData(choice);
    if (index >= 0) box.setCurrentIndex(index);
    return index >= 0;
}

QString shown_choice(const QComboBox& box) {
    return box.currentData().toString();
}

} // namespace mavlo::app
