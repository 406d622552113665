#pragma once
// The losses of a steel: the table of its data sheet, the law fitted to it, and how well it fits.

#include "materials/finding_list.h"
#include "materials/material_in_hand.h"
#include "materials/number_table.h"
#include "plot/plot.h"
#include "sheet/table_source.h"

#include <QComboBox>

namespace mavlo::app {

class LossPage : public QWidget {
    Q_OBJECT
  public:
    explicit LossPage(MaterialInHand& hand, QWidget* parent = nullptr);

    void paste(const QString& text);

  private:
    void refresh();
    void take(std::vector<LossPoint> points, LossLaw law, const std::vector<std::string>& notes);
    void describe(const IronLossLaw& law, std::vector<std::string> notes);
    void draw(const IronLossLaw& law);

    MaterialInHand& m_hand;
    Plot* m_plot;
    QComboBox* m_law;
    TableSource* m_source;
    NumberTable* m_table;
    FindingList* m_words;
};

} // namespace mavlo::app
