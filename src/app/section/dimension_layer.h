#pragma once
// The dimensions that stand on the drawing: where they lie, how they look, which one is under the cursor.

#include "section/close_up.h"
#include "section/view_frame.h"
#include "shell/document.h"

#include <QPainter>
#include <QString>
#include <map>
#include <vector>

namespace mavlo::app {

/// What a change of each dimension does to a figure, as the drawing shows it.
struct DimensionEffects {
    QString title;                        ///< which figure, for which change; empty: none is in hand
    std::map<std::string, QString> texts; ///< by path: "+0.16"
};

class DimensionLayer {
  public:
    struct Label {
        DimensionMark mark;
        double turn = 0; ///< the mark is drawn at the slot or pole turned by this angle
        QString text;    ///< "tooth width 6.40"
        QRectF box;      ///< of the text on screen
        QPointF anchor;  ///< where the leader ends
        bool wrong = false;
        bool shown = true; ///< else it waits until its handle, its row or its part is in hand

        // In the close-up:
        QString value{};                  ///< the number alone
        bool mirrored = false;            ///< its pitch is its own mirror image
        bool on_sheet = false;            ///< drawn as on an engineer's sheet
        QLineF line{};                    ///< the dimension line
        std::vector<QLineF> extensions{}; ///< from what is measured to the line
        QLineF leader{};                  ///< from the text to what is measured; null: the text is on the line
    };

    /// Worn by the labels from the next place() on.
    void set_effects(DimensionEffects effects) { m_effects = std::move(effects); }
    const DimensionEffects& effects() const { return m_effects; }

    /// Dimensions of what stands round the section, repeated every `pitch` (rad), instead of the section's own;
    /// empty for those.
    void set_housing(std::vector<DimensionMark> marks, double pitch) {
        m_housing = std::move(marks);
        m_housing_pitch = pitch;
    }

    /// Places the labels for the present design in a view of this size, as a column or round a close-up.
    /// `part`: the region in hand, whose dimensions stand beside the whole section; with none those of the
    /// whole.
    void place(const Document& document, const ViewFrame& frame, QSizeF view, double rotor_angle,
               const std::string& part, const CloseUp* close_up = nullptr);
    /// `part`: the region in hand; on the sheet its dimensions are at full strength, or all when it is empty.
    void paint(QPainter& painter, const ViewFrame& frame, const std::string& hot,
               const std::string& part = {}) const;

    /// The label or handle at this place; nullptr for none.
    const Label* at(QPointF position, const ViewFrame& frame) const;
    const Label* find(const std::string& path) const;
    const std::vector<Label>& labels() const { return m_labels; }
    /// Where the handle of a label's mark stands on screen.
    static QPointF handle(const Label& label, const ViewFrame& frame);

  private:
    /// `whole`: no part is in hand.
    void place_round(const Machine& machine, const ViewFrame& frame, QSizeF view, double rotor_angle,
                     bool whole);
    void place_close_up(const Machine& machine, const ViewFrame& frame, QSizeF view, const CloseUp& close_up);
    void paint_dimension(QPainter& painter, const ViewFrame& frame, const Label& label) const;
    void paint_on_sheet(QPainter& painter, const ViewFrame& frame, const Label& label, bool is_hot,
                        bool strong) const;
    std::vector<Label> m_labels;
    DimensionEffects m_effects;
    std::vector<DimensionMark> m_housing;
    double m_housing_pitch = 1;
};

/// "6.40", "16.0°", "0.86": the number as a drawing states it, millimetres understood.
QString dimension_text(const Parameter& parameter, double si);
/// SI value rounded to a step that suits one pixel of movement.
double rounded_to_step(const Parameter& parameter, double si, double per_pixel);

} // namespace mavlo::app
