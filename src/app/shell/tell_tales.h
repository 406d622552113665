#pragma once
// The strip along the bottom: key figures of the variant in hand against the reference, always fresh.

#include "compute/jobs.h"
#include "question/quick.h"
#include "shell/document.h"

#include <QTimer>
#include <QWidget>
#include <map>
#include <optional>
#include <set>

namespace mavlo::app {

/// Computes the quick figures of the design in hand and of the reference, beside the window.
class TellTaleEngine : public QObject {
    Q_OBJECT
  public:
    explicit TellTaleEngine(Document& document, QObject* parent = nullptr);

    /// Figures of the design as it stands; empty while they are computed.
    const QuickFigures* present() const;
    const QuickFigures* last() const {
        return m_last ? &*m_last : nullptr;
    } ///< the newest there are, perhaps of an older design
    const QuickFigures* reference() const;
    const QuickFigures* of(const std::string& hash) const; ///< of any design that was computed
    void
    want(std::shared_ptr<const DrawnMachine> built); ///< computes another design too, e.g. another variant's
    bool is_idle() const;
    double seconds_per_solve() const { return m_seconds_per_solve; } ///< draft quality, one thread
    Jobs& jobs() { return m_jobs; }

  Q_SIGNALS:
    void changed();

  private:
    void follow_document();
    void start();
    void compute(std::shared_ptr<const DrawnMachine> built);
    void complete(const std::shared_ptr<const DrawnMachine>& built);

    Document& m_document;
    QTimer m_delay;
    std::map<std::string, QuickFigures> m_known; ///< by design hash
    std::optional<QuickFigures> m_last;
    double m_seconds_per_solve = 0.02;
    std::set<std::string> m_waiting; ///< hashes being computed
    Jobs m_jobs;
};

class TellTaleStrip : public QWidget {
    Q_OBJECT
  public:
    TellTaleStrip(Document& document, TellTaleEngine& engine, QWidget* parent = nullptr);

    struct Cell {
        QString figure; ///< the key figure's name
        QString title, value, unit, change;
        int direction = 0; ///< of the change: +1 up, -1 down
        int verdict = 0;   ///< +1 better, -1 worse, 0 neither
        bool quick = false;
    };
    std::vector<Cell> cells() const;
    void set_full(const QString& figure,
                  std::optional<double> value); ///< value of a full answer to the design as it stands

    void set_chosen(const QString& figure); ///< marked as the one in hand
    /// Where each of these cells begins and the last one ends, pixels.
    std::vector<double> edges(const std::vector<Cell>& list) const;

  Q_SIGNALS:
    void figure_clicked(const QString& figure);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    QSize sizeHint() const override { return {1280, 92}; }

  private:
    void paint_cell(QPainter& painter, const Cell& cell, double left, double wide, int size) const;
    void paint_change(QPainter& painter, const Cell& cell, double x) const;

    Document& m_document;
    TellTaleEngine& m_engine;
    std::map<QString, double> m_full;
    QString m_chosen;
};

} // namespace mavlo::app
