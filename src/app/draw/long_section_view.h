#pragma once
// The machine cut along its axis, to scale, with the dimensions of housing and ends to drag.

#include "heat/long_section.h"
#include "shell/document.h"

#include <QWidget>
#include <optional>

namespace mavlo::app {

class LongSectionView : public QWidget {
    Q_OBJECT
  public:
    explicit LongSectionView(Document& document, QWidget* parent = nullptr);
    void set_hot(const std::string& path); ///< a row of the sheet is under the cursor
    /// Where the handle of a dimension stands; null: it is not drawn.
    QPointF handle(const std::string& path) const;

  Q_SIGNALS:
    void hot_changed(const std::string& path);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    void follow_document();
    double scale() const; ///< pixels a metre
    QPointF placed(double z, double r) const;
    QLineF drawn_line(const LongSection::Dimension& dimension) const;
    const LongSection::Dimension* at(QPointF position) const;
    void paint_body(QPainter& painter, const LongSection::Body& body) const;
    void paint_dimension(QPainter& painter, const LongSection::Dimension& dimension) const;
    void drag(QPointF to);

    Document& m_document;
    std::optional<LongSection> m_section;
    QString m_missing; ///< why there is none
    std::string m_hot;
    std::optional<LongSection::Dimension> m_grabbed; ///< as it was when it was pressed
    QPointF m_pressed;
    double m_grabbed_scale = 1;
    int m_gesture = 0;
};

} // namespace mavlo::app
