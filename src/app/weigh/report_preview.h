#pragma once
// The pages of a report as they will stand, small, while one chooses.

#include "report/answer_sheet.h"
#include "shell/document.h"

#include <QPixmap>
#include <QTimer>
#include <QWidget>
#include <optional>
#include <vector>

namespace mavlo::app {

struct PreviewPage {
    QString title;
    std::shared_ptr<const DrawnMachine> section{}; ///< of a variant's first page
    std::optional<AnswerSheet> sheet{};            ///< of an answer's page
    QString text{};                                ///< under the title, where there is no answer
};

class ReportPreview : public QWidget {
    Q_OBJECT
  public:
    explicit ReportPreview(QWidget* parent = nullptr);

    void show_pages(std::vector<PreviewPage> pages);
    std::size_t pages() const { return m_pages.size(); }

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    QRectF place_of(std::size_t page) const;
    int across() const;
    double page_width() const;
    void fit_height();
    void draw_next();
    QPixmap drawn(const PreviewPage& page, QSizeF size) const;

    std::vector<PreviewPage> m_pages;
    std::vector<QPixmap> m_drawn; ///< a null one is not drawn yet
    QTimer* m_next;
};

} // namespace mavlo::app
