#pragma once
// What else could be wound for these slots and poles, best first; a click takes one.

#include "shell/document.h"
#include "winding/alternatives.h"

#include <QLabel>
#include <QTableWidget>

namespace mavlo::app {

class AlternativesList : public QWidget {
    Q_OBJECT
  public:
    explicit AlternativesList(Document& document, QWidget* parent = nullptr);

  private:
    void refresh();
    void take(int row);

    Document& m_document;
    QTableWidget* m_table;
    QLabel* m_words;
    WindingInput m_asked;
    std::vector<WindingAlternative> m_list;
};

} // namespace mavlo::app
