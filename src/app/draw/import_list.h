#pragma once
// The regions of a drawing in a list, those that are alike in one row: what they are, how many, how large.
// Joined to the drawing: a row under the cursor lights its regions, and the other way round.

#include "drawing/import.h"

#include <QTreeWidget>
#include <vector>

namespace mavlo::app {

/// In every pitch, and mirrored within it.
bool are_alike(const ImportedRegion& a, const ImportedRegion& b);

class ImportList : public QTreeWidget {
    Q_OBJECT
  public:
    explicit ImportList(QWidget* parent = nullptr);

    void show_drawing(const ImportedDrawing& drawing);
    void light(int number); ///< the row of this region; 0: none

  Q_SIGNALS:
    void pointed(const std::vector<int>& numbers); ///< regions of the row under the cursor; empty: of none
    void role_wanted(int number, mavlo::Role role);

  protected:
    void leaveEvent(QEvent* event) override;

  private:
    void add_row(const std::vector<const ImportedRegion*>& alike);

    std::vector<std::vector<int>> m_numbers; ///< of each row
};

} // namespace mavlo::app
