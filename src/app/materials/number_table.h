#pragma once
// A table of numbers that can be typed, pasted and opened from a file.

#include "material/column_table.h"

#include <QTableWidget>

namespace mavlo::app {

/// Width of the column that holds tables and sentences beside a material's plot.
inline constexpr int material_side_width = 330;

class NumberTable : public QTableWidget {
    Q_OBJECT
  public:
    explicit NumberTable(const QStringList& headers, QWidget* parent = nullptr);

    void show_rows(const std::vector<std::vector<double>>& rows);
    void set_editable(bool editable);
    /// Selects a row and brings it into view; from 1 on.
    void go_to(int row);

  Q_SIGNALS:
    void pasted(const QString& text);
    void edited(const std::vector<std::vector<double>>& rows);
    void wrong_number(const QString& text);

  protected:
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void take_edit();
    std::vector<std::vector<double>> m_rows;
    bool m_editable = true;
};

} // namespace mavlo::app
