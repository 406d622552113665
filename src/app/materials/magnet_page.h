#pragma once
// A magnet's demagnetisation curves over temperature, its knee, and the load line of the design in hand.

#include "compute/jobs.h"
#include "figure/magnet_load.h"
#include "materials/finding_list.h"
#include "materials/material_in_hand.h"
#include "plot/plot.h"
#include "sheet/table_source.h"

#include <QComboBox>
#include <QPushButton>
#include <optional>

namespace mavlo::app {

class MagnetPage : public QWidget {
    Q_OBJECT
  public:
    explicit MagnetPage(MaterialInHand& hand, QWidget* parent = nullptr);

    /// A curve (H, then J or B) at one temperature; the grade's figures follow from all of its curves.
    void paste(const QString& text, double kelvin);
    bool is_idle() const { return !m_computing; }

  private:
    void ask_temperature_and_paste(const QString& text);
    void drop_curves();
    void refresh();
    void compute_load();
    void draw();
    void describe(std::vector<std::string> notes);
    double design_kelvin() const; ///< of the design's magnets

    MaterialInHand& m_hand;
    Plot *m_plot, *m_knee;
    QComboBox* m_scale;
    TableSource* m_source;
    QPushButton* m_drop;
    FindingList* m_words;
    Jobs m_jobs;
    std::string m_load_of; ///< hash of the design whose load line is known or under way
    std::optional<MagnetLoad> m_load;
    bool m_computing = false;
};

} // namespace mavlo::app
