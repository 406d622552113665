#pragma once
// An axial machine seen along the axis, unrolled at a radius that is dragged, and cut along the axis, side by
// side; of a straight machine what stands along its motion.

#include "machine/discs.h"
#include "shell/document.h"

#include <QTransform>
#include <QWidget>
#include <memory>

namespace mavlo::app {

class DiscView : public QWidget {
    Q_OBJECT
  public:
    explicit DiscView(Document& document, QWidget* parent = nullptr);
    void set_selected(const std::string& part); ///< "rotor.magnet", "stator.slot", …; empty: none
    double radius() const { return m_radius; }  ///< of the unrolled section, m
    /// Where the face's circle at this radius can be taken hold of.
    QPointF on_face(double radius) const;
    /// Where a layer of the cut along the axis is drawn; empty: there is none.
    QRectF layer(const std::string& path) const;

    const std::shared_ptr<const Discs>& discs() const { return m_discs; } ///< null: the machine has none

  Q_SIGNALS:
    void discs_changed(const std::shared_ptr<const mavlo::Discs>& discs);
    void part_chosen(const std::string& part, const std::string& material);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void follow_document();
    void set_radius(double radius);
    QRectF face_room() const;
    QRectF strip_room() const;
    double strip_length() const;        ///< that is shown, m
    QTransform strip_to_screen() const; ///< from metres along it and across
    std::string part_in_strip(QPointF position) const;
    QRectF cut_room() const;
    QRectF placed(const DiscLayer& layer) const;
    double radius_at(QPointF position) const;
    std::string part_at(QPointF position) const;
    void paint_face(QPainter& painter) const;
    void paint_strip(QPainter& painter) const;
    void paint_cut(QPainter& painter) const;
    void paint_title(QPainter& painter, const QRectF& room, const QString& title) const;

    /// A region of the unrolled section, m: along it, and across.
    struct StripPart {
        Use use;
        std::string path;
        int pitch, layer, polarity;
        Polygon outline;
        std::vector<double> seams{}; ///< along the strip, m: there it goes on in its other half
    };
    void lay_strip();
    void paint_part(QPainter& painter, const StripPart& part, const QPolygonF& polygon,
                    const QColor& colour) const;
    static std::vector<double> seams_of(const Region& region, const Tile& tile, int pitch, double sign);

    Document& m_document;
    std::shared_ptr<const Discs> m_discs; ///< of the last good design
    std::vector<StripPart> m_strip;
    double m_radius = 0, m_low = 0, m_high = 0; ///< of the strip; its heights from the gap's middle
    std::string m_selected;
    bool m_dragging = false, m_straight = false;
};

} // namespace mavlo::app
