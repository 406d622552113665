#pragma once
// The magnetisation curve of a steel: pasted or opened, judged, mended, drawn.

#include "material/bh_check.h"
#include "material/bh_repair.h"
#include "material/bh_table.h"
#include "materials/finding_list.h"
#include "materials/material_in_hand.h"
#include "materials/number_table.h"
#include "plot/plot.h"
#include "sheet/table_source.h"

#include <QComboBox>
#include <QPushButton>
#include <optional>

namespace mavlo::app {

class BhPage : public QWidget {
    Q_OBJECT
  public:
    explicit BhPage(MaterialInHand& hand, QWidget* parent = nullptr);

    void paste(const QString& text);
    /// A second material drawn beside, for comparison; empty: none.
    void compare_with(const std::string& name);

  private:
    /// What was pasted or typed and is not taken yet.
    struct Draft {
        std::optional<ColumnTable> table; ///< of a paste, to be read anew in other units
        std::vector<BhPoint> points;
        std::vector<std::string> notes;
    };
    void read_table(const BhColumns& columns);
    void columns_changed();
    void show_columns(const BhColumns& columns);
    BhColumns columns() const;
    void take_rows(const std::vector<std::vector<double>>& rows);
    void judge();
    void mend(bool on);
    void take();
    void drop_draft();
    void refresh();
    void draw();
    std::vector<BhPoint> points() const; ///< of the draft, else of the material
    double warm_kelvin() const;          ///< of the curve in hand; 20 degC: the material's first
    void fill_temperatures();

    MaterialInHand& m_hand;
    std::string m_shown;
    std::optional<Draft> m_draft;
    std::optional<BhRepair> m_repair;
    std::string m_compared;
    Plot* m_plot;
    QComboBox *m_scale, *m_h_unit, *m_b_unit, *m_meaning, *m_temperature;
    QPushButton *m_mend, *m_take, *m_drop;
    TableSource* m_source;
    NumberTable* m_table;
    FindingList* m_findings;
};

} // namespace mavlo::app
