#pragma once
// The figures of several answers to one question, column beside column.

#include "question/answer.h"

#include <QTableWidget>

namespace mavlo::app {

class SideBySide : public QTableWidget {
    Q_OBJECT
  public:
    explicit SideBySide(QWidget* parent = nullptr);
    /// The first answer is what the others are compared with: behind each of their values stands by how much it
    /// is larger or smaller.
    void show_answers(const std::vector<std::pair<QString, const Answer*>>& answers);
    QString as_text() const; ///< rows of columns parted by tabs
    void copy_table();

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    void fit_columns();
    void add_title(const QString& title);
    void add_figure(const Figure& figure, const std::vector<std::pair<QString, const Answer*>>& answers);
};

} // namespace mavlo::app
