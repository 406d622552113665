#pragma once
// A map to read: even colours, labelled contours, its envelope, the value under the cursor, and a point picked.

#include "plot/contours.h"

#include <QWidget>
#include <optional>

class QCustomPlot;
class QCPColorMap;
class QCPColorScale;
class QCPItemTracer;
class QCPItemText;

namespace mavlo::app {

class MapPlot : public QWidget {
    Q_OBJECT
  public:
    explicit MapPlot(QWidget* parent = nullptr);

    /// What is drawn over a map: lines that bound it (the envelope), points (a duty), and lines across it with
    /// their names.
    struct Over {
        std::vector<Curve> bounds, marks, limits{};
    };
    void show_map(const Map& map, Over over);
    void set_picked(std::optional<MapPoint> point);
    bool save(const QString& file); ///< .png, .svg or .pdf
    void copy_picture();
    QString reading() const { return m_reading; }
    QCustomPlot* canvas() { return m_plot; }

  Q_SIGNALS:
    void picked(double x, double y); ///< a click inside the map

  protected:
    void changeEvent(QEvent* event) override;

  private:
    void draw();
    void draw_spectrum();
    void set_scale(bool logarithmic);
    void dress();
    QCPItemText& add_label(MapPoint at, const QString& text);
    void add_contours();
    void add_limits();
    bool inside(double x, double y) const;
    using ContourLines = std::vector<ContourLine>;
    void cut(const ContourLine& line, ContourLines& pieces) const;
    void read_at(QPoint position);

    QCustomPlot* m_plot;
    QCPColorMap* m_colours;
    QCPColorScale* m_scale;
    QCPItemTracer* m_mark;
    QCPItemText* m_text;
    Map m_map, m_whole; ///< as given; with its edge carried on to the envelope
    Over m_over;
    std::optional<MapPoint> m_picked;
    QString m_reading;
    QPoint m_pressed;
};

} // namespace mavlo::app
