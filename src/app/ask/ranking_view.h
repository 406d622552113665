#pragma once
// A ranking as bars, the longest first, with how sure each is.

#include "question/answer.h"

#include <QWidget>

namespace mavlo::app {

class RankingView : public QWidget {
    Q_OBJECT
  public:
    explicit RankingView(QWidget* parent = nullptr);
    /// The curve's labels and values; `doubt` may be null. A slope of the same label stands beside in the
    /// trade's units, e.g. for 0.1 mm.
    void show_ranking(const Curve& curve, const Curve* doubt, const Curve* slope, const QString& unit);
    QStringList labels() const; ///< as shown

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Bar {
        QString label, words;
        double value, doubt;
    };
    std::vector<Bar> m_bars;
};

} // namespace mavlo::app
