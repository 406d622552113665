#pragma once
// The coils as a table: changed cell by cell, pasted, copied; and whether they treat the phases alike.

#include "shell/document.h"

#include <QLabel>
#include <QPushButton>
#include <QTableWidget>

namespace mavlo::app {

class CoilEditor : public QWidget {
    Q_OBJECT
  public:
    explicit CoilEditor(Document& document, QWidget* parent = nullptr);
    /// Takes a table of coils as text; false when it is none (said under the table).
    bool take_table(const QString& text);

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void showEvent(QShowEvent* event) override; ///< hidden, it keeps still

  private:
    void refresh();
    void take_cell(int row, int column);
    void set_coils(const QString& label, std::vector<Coil> coils);
    void add_coil();
    void remove_coil();
    void open_file();
    void save_file();
    int phases() const;
    const std::vector<Coil>& coils() const;

    Document& m_document;
    QTableWidget* m_table;
    QLabel *m_head, *m_balance, *m_words;
    QPushButton* m_back;
};

} // namespace mavlo::app
