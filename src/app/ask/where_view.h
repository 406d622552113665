#pragma once
// Where in the machine an answer lies: losses on the parts that lose them, magnets as near as they are to their
// knee, the strongest wave of force round the gap.

#include "question/answer.h"
#include "shell/document.h"

#include <QWidget>
#include <optional>

namespace mavlo::app {

class WhereView : public QWidget {
    Q_OBJECT
  public:
    explicit WhereView(const Document& document, QWidget* parent = nullptr);

    /// Of the machine in hand; an answer of another design has no place here.
    void show_answer(const Answer& answer);
    bool has_place() const; ///< false, too, where the design has changed since
    QSize sizeHint() const override { return {250, 250}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    using Paint = QStringList (*)(QPainter&, const QRectF& room, const Answer&, const DrawnMachine&);

    const Document& m_document;
    Answer m_answer;
    Paint m_paint = nullptr;
};

} // namespace mavlo::app
