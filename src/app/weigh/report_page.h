#pragma once
// The report: a title, notes and a logo, the variants and the kept answers that go into it, and its file.

#include "compute/beside.h"
#include "report/report.h"
#include "shell/desk.h"
#include "weigh/kept_answers.h"
#include "weigh/report_preview.h"

#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QTimer>
#include <QTreeWidget>

namespace mavlo::app {

class ReportPage : public QWidget {
    Q_OBJECT
  public:
    explicit ReportPage(Desk& desk, QWidget* parent = nullptr);
    /// Writes the report, .html or .pdf, beside the window; says how it went.
    void write(const QString& file);
    bool is_idle() const { return m_writing->is_idle() && m_reading->is_idle(); }

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    QLayout* make_words();
    QLayout* make_choice();
    Result<Report> gathered() const;
    void show_pages();
    void follow_document();
    void fill_tree();
    /// Those that are ticked of a variant's.
    static std::vector<const KeptAnswer*> ticked(const QTreeWidgetItem& top, const KeptVariant& variant);
    PreviewPage first_page(const Report& report, const KeptVariant& variant) const;
    void save_as(const QString& suffix);

    Desk& m_desk;
    QLineEdit *m_title, *m_logo;
    QPlainTextEdit* m_notes;
    QTreeWidget* m_tree;
    QLabel* m_state;
    ReportPreview* m_preview;
    QTimer* m_soon; ///< its pages are laid out when the hand rests
    Beside *m_writing, *m_reading;
    std::vector<KeptVariant> m_kept; ///< in the tree's order
};

} // namespace mavlo::app
