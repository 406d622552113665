#pragma once
// Sentences about a curve, each with a mark of its weight; a click goes to its row.

#include "material/bh_check.h"

#include <QListWidget>

namespace mavlo::app {

class FindingList : public QListWidget {
    Q_OBJECT
  public:
    explicit FindingList(QWidget* parent = nullptr);
    void show_findings(const std::vector<Finding>& findings, const std::vector<std::string>& notes);
    QString all_words() const;

  Q_SIGNALS:
    void row_wanted(int row); ///< from 1 on
};

} // namespace mavlo::app
