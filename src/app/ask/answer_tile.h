#pragma once
// An answer small: its name, its figures, a sketch of what it shows, and its state.

#include "ask/question_card.h"

#include <QAbstractButton>

namespace mavlo::app {

class AnswerTile : public QAbstractButton {
    Q_OBJECT
  public:
    AnswerTile(const QuestionKind& kind, const QString& title, QString tells, QWidget* parent = nullptr);
    /// `why` it is stale; empty: it is not.
    void show_answer(const Answer& answer, AnswerState state, const QString& why);
    /// Of a question that was not asked yet.
    void show_price(const QString& price);
    QSize sizeHint() const override { return {264, height()}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paint_figures(QPainter& painter, QRectF& room) const;

    QString m_tells;
    std::optional<Answer> m_answer; ///< its curves in the units that read best
    AnswerState m_state = AnswerState::None;
    QString m_why, m_price;
};

/// The first map or curves of an answer, without axes.
void paint_sketch(QPainter& painter, const QRectF& room, const Answer& answer);

} // namespace mavlo::app
