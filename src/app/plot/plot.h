#pragma once
// A plot to read: values under the cursor, zoom with the wheel, export as picture or table.

#include "question/answer.h"

#include <QWidget>
#include <vector>

class QCustomPlot;
class QCPItemTracer;
class QCPItemText;
class QCPItemStraightLine;

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
    bool strong = false; ///< the one in hand
    /// What a picked place stands for: one number for all of the curve, or one a point; empty: nothing.
    std::vector<std::size_t> keys{};
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
    QPointF place_of(double x, double y) const; ///< on the widget

  Q_SIGNALS:
    void picked(std::size_t key); ///< a click on a curve that stands for something
    void cursor_moved(const std::string& x_name, double x);

  public Q_SLOTS:
    /// A line at this place, with what the curves are there; nothing where another quantity runs along the
    /// axis.
    void show_cursor(const std::string& x_name, double x);

  protected:
    void changeEvent(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

  private:
    void dress();
    void add_curve(const PlotCurve& curve);
    void place_legend(); ///< above the plot, never on what it explains
    struct Near {
        const PlotCurve* curve = nullptr;
        std::size_t point = 0;
        double pixels = 1e9; ///< how far
    };
    Near nearest(QPoint position) const;
    void read_at(QPoint position);
    void pick_at(QPoint position);
    QCustomPlot* m_plot;
    QCPItemTracer* m_tracer;
    QCPItemText* m_text;
    QCPItemStraightLine* m_cursor;
    std::vector<PlotCurve> m_curves;
    QString m_reading;
    QPoint m_pressed;
    bool m_compact = false, m_log_x = false, m_log_y = false;
};

} // namespace mavlo::app
