#pragma once
// The design's own circuits: each a list of elements, with its schematic beside it.

#include "circuits/network_schematic.h"
#include "shell/document.h"

#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QTimer>

namespace mavlo::app {

class CircuitDialog : public QDialog {
    Q_OBJECT
  public:
    explicit CircuitDialog(Document& document, QWidget* parent = nullptr);
    void show_circuit(const QString& name);

  private:
    QWidget* make_names();
    QWidget* make_list();
    void follow_document();
    void select(const QString& circuit);
    void add();
    void remove();
    void rename();
    void open_file();
    void save_file();
    void read();
    void keep();
    void go_to_line(int line);
    std::string name() const;

    Document& m_document;
    QListWidget* m_names;
    QLineEdit* m_name;
    QPlainTextEdit* m_list;
    NetworkSchematic* m_schematic;
    QLabel* m_says;
    QTimer m_soon; ///< the list is taken when the hand rests
    int m_gesture = 0;
};

} // namespace mavlo::app
