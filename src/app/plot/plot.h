#pragma once
// A plot to read: values under the cursor, zoom with the wheel, export as picture or table.

#include "question/answer.h"

#include <QWidget>
#include <vector>

class QCustomPlot;
class QCPItemTracer;
class QCPItemText;

namespace mavlo::app {

/// A curve with the words and colour it wears in a plot.
struct PlotCurve {
    Curve curve;
    QString name;
    QColor colour;
    bool bars = false;   ///< as bars, for spectra
    bool dashed = false; ///< of another variant or stale
    bool points = false; ///< measured points, without a line
    bool listed = true;  ///< in the legend
};

class Plot : public QWidget {
    Q_OBJECT
  public:
    explicit Plot(QWidget* parent = nullptr);

    void show_curves(const std::vector<PlotCurve>& curves, const QString& x_label, const QString& y_label);
    void clear();
    void set_compact(bool compact); ///< small fonts and no legend, for panels
    void set_logarithmic(bool x, bool y);
    bool save(const QString& file); ///< .png, .svg or .pdf
    void copy_picture();
    QString copied_table() const; ///< tab-separated columns of what is shown
    QString reading() const { return m_reading; }

  protected:
    void changeEvent(QEvent* event) override;

  private:
    void dress();
    Qt::Alignment emptiest_corner() const; ///< where the legend hides least
    void read_at(QPoint position);
    QCustomPlot* m_plot;
    QCPItemTracer* m_tracer;
    QCPItemText* m_text;
    std::vector<PlotCurve> m_curves;
    QString m_reading;
    bool m_compact = false, m_log_x = false, m_log_y = false;
};

} // namespace mavlo::app
