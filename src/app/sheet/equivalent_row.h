#pragma once
// A dimension as data sheets give it, beside the parameter that it stands for.

#include "machine/equivalent.h"
#include "shell/document.h"

#include <QLabel>
#include <QLineEdit>
#include <QWidget>

namespace mavlo::app {

class EquivalentRow : public QWidget {
    Q_OBJECT
  public:
    EquivalentRow(Document& document, const Equivalent& equivalent, QWidget* parent = nullptr);
    void refresh();

  private:
    void take();
    QString shown() const;

    Document& m_document;
    const Equivalent& m_equivalent;
    QLineEdit* m_line;
    QLabel* m_note;
};

} // namespace mavlo::app
