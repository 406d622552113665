#pragma once
// A data sheet's table of dimensions: typed or pasted in its own order, read, compared, taken as one step.

#include "machine/data_sheet.h"
#include "shell/document.h"

#include <QDialog>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>

namespace mavlo::app {

class DataSheetDialog : public QDialog {
    Q_OBJECT
  public:
    explicit DataSheetDialog(Document& document, QWidget* parent = nullptr);

    void paste(const QString& text);

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void read();
    void show_readings();
    void take();

    Document& m_document;
    DataSheet m_sheet;
    QTableWidget* m_table;
    QLabel* m_words;
    QPushButton *m_paste, *m_take;
};

} // namespace mavlo::app
