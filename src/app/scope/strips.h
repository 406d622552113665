#pragma once
// Curves over time in strips on top of each other, with one cursor through all of them.

#include "scope/time_record.h"

#include <QColor>
#include <QString>
#include <QWidget>
#include <optional>
#include <utility>

class QCustomPlot;
class QCPAxisRect;
class QCPItemStraightLine;
class QCPItemText;

namespace mavlo::app {

/// One curve of a strip.
struct StripCurve {
    Curve curve;
    QString name;
    QColor colour;
};

struct Strip {
    QString title;
    QString unit;
    std::vector<StripCurve> curves;
    bool steps = false;   ///< gates: drawn as rows of on and off
    int weight = 2;       ///< of its height
    QStringList states{}; ///< words of steps at 1, 0 and -1
};

/// What is drawn of a run: gates (where there are any), voltages of the phases or between the lines, currents,
/// torque, the link's current.
std::vector<Strip> strips_of(const TimeRecord& record, bool at_terminals);
/// Currents and torque of a run that goes on.
std::vector<Strip> growing_strips(const std::vector<Curve>& curves);

class Strips : public QWidget {
    Q_OBJECT
  public:
    explicit Strips(QWidget* parent = nullptr);

    void show_strips(std::vector<Strip> strips);
    const std::vector<Strip>& strips() const { return m_strips; }
    double cursor() const { return m_cursor; } ///< s
    void set_cursor(double seconds);
    /// A second cursor: readings are then those of the stretch between both.
    std::optional<double> mark() const { return m_mark; }
    void set_mark(std::optional<double> seconds);
    /// The stretch of time that is shown, s.
    void set_stretch(double from, double to);
    void set_lanes(bool on);   ///< phases one over the other, each about a zero of its own
    void set_spectra(bool on); ///< beside each strip, of the stretch between the cursors or of all
    int count() const { return int(m_strips.size()); }
    bool save(const QString& file); ///< .png, .svg or .pdf
    void copy_picture();
    /// Where an instant stands in this widget's own pixels, for tests and the keyboard.
    int pixel_of(double seconds) const;

  Q_SIGNALS:
    void cursor_moved(double seconds);
    void stretch_changed(double from, double to);

  protected:
    void changeEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void build();
    void add_strip(const Strip& strip, int row);
    void move_to(QPointF position);
    void place_cursor();
    QString reading(const Strip& strip) const;
    QString measured_reading(const Strip& strip) const;
    void add_spectrum(const Strip& strip, int row);
    void fill_spectra();
    std::pair<double, double> measured_stretch() const; ///< s

    QCustomPlot* m_plot;
    std::vector<Strip> m_strips;
    std::vector<QCPAxisRect*> m_rects;
    std::vector<QCPItemStraightLine*> m_lines, m_marks;
    std::vector<QCPAxisRect*> m_spectra; ///< null for strips without
    bool m_with_spectra = false, m_lanes = false;
    std::optional<double> m_mark;
    std::vector<QCPItemText*> m_readings;
    double m_cursor = 0, m_end = 1;
};

} // namespace mavlo::app
