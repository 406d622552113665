#pragma once
// The shapes drawn onto poles and slots: to draw, to choose, and every number of the chosen one.

#include "draw/shapes/sketch_tool.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>

namespace mavlo::app {

class ShapePanel : public QWidget {
    Q_OBJECT
  public:
    ShapePanel(Document& document, SketchTool& tool, QWidget* parent = nullptr);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void make_tools();
    void make_fields();
    void refresh();
    void show_corners(const FreeShape& shape);
    const FreeShape* chosen() const;
    void edit(const QString& label, const std::function<void(FreeShape&)>& how);
    void take_cell(int row, int column);
    void insert_corner();
    void remove_corner();
    void duplicate();
    void offset();
    void remove();

    Document& m_document;
    SketchTool& m_tool;
    QComboBox *m_use, *m_list, *m_role, *m_material;
    std::vector<QPushButton*> m_kinds;
    QWidget* m_fields;
    QLineEdit *m_name, *m_direction;
    QCheckBox* m_mirrored;
    QLabel *m_direction_label, *m_words, *m_material_label;
    QTableWidget* m_corners;
    QLineEdit* m_whole; ///< the text of the chosen cell, in full
};

} // namespace mavlo::app
