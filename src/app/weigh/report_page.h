#pragma once
// The report: a title, notes and a logo, the variants and the kept answers that go into it, and its file.

#include "shell/desk.h"

#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QTreeWidget>

namespace mavlo::app {

class ReportPage : public QWidget {
    Q_OBJECT
  public:
    explicit ReportPage(Desk& desk, QWidget* parent = nullptr);
    /// Writes the report, .html or .pdf; says what went wrong.
    std::optional<Problem> write(const QString& file);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void follow_document();
    void save_as(const QString& suffix);

    Desk& m_desk;
    QLineEdit *m_title, *m_logo;
    QPlainTextEdit* m_notes;
    QTreeWidget* m_tree;
    QLabel* m_state;
};

} // namespace mavlo::app
