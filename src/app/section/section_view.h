#pragma once
// The live cross-section in the middle of the window: one drawing for Draw, Wind and Probe.

#include "compute/live_field.h"
#include "heat/housing_section.h"
#include "section/dimension_layer.h"
#include "section/field_painter.h"
#include "section/part_material.h"
#include "section/section_tool.h"
#include "section/view_frame.h"
#include "shell/document.h"

#include <QLineEdit>
#include <QWidget>

namespace mavlo::app {

class SectionView : public QWidget {
    Q_OBJECT
  public:
    explicit SectionView(Document& document, QWidget* parent = nullptr);

    /// Shows dimensions to drag and type, materials to change, and offers the close-up.
    void set_editable(bool on);
    /// Beside other things: the section alone, as large as there is room, without ring, scale and facts.
    void make_little();
    void set_overlays(const OverlaySet& overlays);
    const OverlaySet& overlays() const { return m_overlays; }
    void set_result(std::shared_ptr<const LiveResult> result);
    const std::shared_ptr<const LiveResult>& result() const { return m_result; } ///< the field that is shown
    FieldPainter field_painter() const; ///< paints fields as this view shows them
    void set_angle(double radians);     ///< of the rotor
    double angle() const { return m_angle; }
    /// Takes mouse and keys first: the hand of the bench that is open. Not owned, may be null.
    void set_tool(SectionTool* tool) { m_tool = tool; }
    /// The housing round the stack with its dimensions, instead of the section's own.
    void set_housing(bool on);
    void set_hot(const std::string& path); ///< dimension lit from outside
    void set_selected(const std::string& region);
    const std::string& selected() const { return m_selected; }
    /// As a click on it does: lit, and told to the sheet.
    void take_part(const std::string& region, const std::string& material);
    const Document& document() const { return m_document; }
    const ViewFrame& frame() const { return m_frame; }
    void set_range(double low, double high); ///< of the flux density's colours, T
    double range_high() const { return m_high; }
    void fit();
    /// One slot pitch over one pole pitch with its dimensions, instead of the whole section (where it is
    /// editable).
    void set_close_up(bool on);
    /// Where the sentence stands that says why the design cannot be built; a click there leads to its row.
    QRectF problem_box() const { return m_problem_box; }
    bool is_close_up() const { return m_close_up.has_value(); }
    QRectF key_plan() const; ///< where the whole section stands in the close-up; a click there leaves it

    /// For the keyboard and for tests: where a dimension's label and handle are, and the ring's handle.
    std::optional<QPointF> label_position(const std::string& path) const;
    std::optional<QPointF> handle_position(const std::string& path) const;
    QPointF ring_handle() const;
    /// What the dimensions do to a figure in hand, beside their values.
    void set_effects(DimensionEffects effects);
    const DimensionLayer& dimensions() const { return m_dimensions; }

  Q_SIGNALS:
    void hot_changed(const std::string& path);
    /// A region of the section, by its path, and the parameter that names its material (empty for air).
    void part_selected(const std::string& region, const std::string& material);
    void angle_changed(double radians);
    void refused(const QString& sentence); ///< a typed value that cannot be read
    void reading(const QString& text);     ///< what lies under the cursor
    void close_up_changed(bool on);
    void vary_wanted(const std::string& path); ///< a dimension, in a sweep

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;

  private:
    enum class Grab { None, Dimension, Ring, Pan };
    void follow_document();
    void fit_close_up();
    void take_housing();
    void find_housing();
    double shown_radius() const; ///< m, of all that is drawn
    void replace_labels();
    void paint_overlays(const SectionCanvas& canvas, bool over_outlines) const;
    void paint_ring(QPainter& painter) const;
    void paint_ring_angle(QPainter& painter) const;
    void paint_facts(QPainter& painter) const;
    void paint_problem(QPainter& painter) const;
    mutable QRectF m_problem_box; ///< of the sentence that says what is wrong, as it was painted last
    std::shared_ptr<const DrawnMachine> changed_reference() const;
    void paint_changes(QPainter& painter, const DrawnMachine& reference) const;
    void paint_scale(QPainter& painter) const;
    void offer_menu(QPoint at);
    void step_part(int by); ///< the next part, or the one before
    void drag_dimension(QPointF to);
    void type_dimension(const DimensionLayer::Label& label);
    void take_typed();
    void turn_to(QPointF position);
    bool on_ring(QPointF position) const;
    const QImage& field_image() const;
    double overlay_room() const; ///< pixels
    double ring_radius() const;  ///< pixels
    struct RegionPick {
        std::string region, material;
    };
    RegionPick part_at(Point p) const;
    void say_reading(QPointF position);

    Document& m_document;
    bool m_editable = false, m_little = false, m_wants_housing = false;
    std::optional<HousingSection> m_housing; ///< while it is wanted and there is one
    OverlaySet m_overlays;
    ViewFrame m_frame;
    DimensionLayer m_dimensions;
    std::shared_ptr<const LiveResult> m_result;
    std::optional<CloseUp> m_close_up;
    PartMaterial* m_material;
    SectionTool* m_tool = nullptr;
    double m_angle = 0, m_low = 0, m_high = 2;
    std::string m_hot;
    std::string m_selected;
    QLineEdit* m_editor;
    std::string m_typed_path;

    /// The field's picture where the one that came with it no longer fits; made anew only when it changes.
    struct OwnImage {
        std::shared_ptr<const LiveResult> result;
        FieldPainter painter;
        QImage image;
    };
    mutable OwnImage m_own_image;

    Grab m_grab = Grab::None;
    DimensionLayer::Label m_grabbed;
    QPointF m_press;
    double m_start_value = 0, m_ring_offset = 0, m_fitted_radius = 0, m_fitted_room = 0;
    bool m_moved = false;
    int m_gesture = 0;
};

} // namespace mavlo::app
