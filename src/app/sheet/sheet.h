#pragma once
// The sheet on the right: what the selected part is made of, in the order an engineer would dimension it.

#include "sheet/equivalent_row.h"
#include "sheet/page_tabs.h"
#include "sheet/parameter_row.h"

#include <vector>

namespace mavlo::app {

/// A heading and the parameters under it.
struct SheetGroup {
    std::string title;
    std::vector<std::string> paths;
};

/// A page of the sheet, chosen by the part that was clicked.
struct SheetPage {
    std::string title;
    std::vector<SheetGroup> groups;
};

/// Pages and groups as the parameters name them, in their order.
const std::vector<SheetPage>& sheet_pages();

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
    void vary_wanted(const std::string& path);

  private:
    Document& m_document;
    struct Heading {
        QLabel* label;
        std::size_t first, end; ///< of the rows under it
    };
    std::vector<ParameterRow*> m_rows;
    std::vector<EquivalentRow*> m_equivalents;
    std::vector<Heading> m_headings;
    QLabel* m_slot_note = nullptr;
};

class Sheet : public QWidget {
    Q_OBJECT
  public:
    explicit Sheet(Document& document, QWidget* parent = nullptr);

    /// The page of a region of the section, with the row of its material lit.
    void show_part(const std::string& region, const std::string& material);
    void set_hot(const std::string& path);
    /// The same, from whatever page, and the cursor goes there; nothing where there is no such row.
    void show_row(const std::string& path);
    /// A further page of the bench's own, behind those of the parameters.
    void add_page(const QString& title, QWidget* page);
    void show_page_of(QWidget* page);

  Q_SIGNALS:
    void hovered(const std::string& path);
    void vary_wanted(const std::string& path); ///< in a sweep
    void page_shown(const QString& title);
    void part_chosen(const std::string& region); ///< what a page is about

  private:
    void explain(const std::string& path);

    Document& m_document;
    std::vector<SheetRows*> m_pages; ///< of parameters; further ones stand behind them
    PageTabs* m_tabs;
    QLabel* m_help;
};

} // namespace mavlo::app
