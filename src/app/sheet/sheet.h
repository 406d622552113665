#pragma once
// The sheet on the right: what the selected part is made of, in the order an engineer would dimension it.

#include "sheet/parameter_row.h"

#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <vector>

namespace mavlo::app {

/// A heading and the parameters under it.
struct SheetGroup {
    const char* title;
    std::vector<std::string> paths;
};

/// A page of the sheet, chosen by the part that was clicked.
struct SheetPage {
    const char* title;
    std::vector<SheetGroup> groups;
};

/// Rows of one page.
class SheetRows : public QWidget {
    Q_OBJECT
  public:
    SheetRows(Document& document, const SheetPage& page, QWidget* parent = nullptr);
    void refresh();
    void set_hot(const std::string& path);
    ParameterRow* row(const std::string& path) const;

  Q_SIGNALS:
    void hovered(const std::string& path);

  private:
    Document& m_document;
    std::vector<ParameterRow*> m_rows;
    QLabel* m_slot_note = nullptr;
};

class Sheet : public QWidget {
    Q_OBJECT
  public:
    explicit Sheet(Document& document, QWidget* parent = nullptr);

    void show_part(Role role);
    void set_hot(const std::string& path);

  Q_SIGNALS:
    void hovered(const std::string& path);
    void part_chosen(mavlo::Role role);

  private:
    void show_page(int index);
    std::vector<QPushButton*> m_tabs;
    std::vector<SheetRows*> m_pages;
    QScrollArea* m_scroll;
    int m_page = -1;
};

} // namespace mavlo::app
