#pragma once
// The materials by kind, the project's own ones first in each; those in use are marked.

#include "materials/material_in_hand.h"

#include <QLineEdit>
#include <QTreeWidget>

namespace mavlo::app {

class MaterialList : public QWidget {
    Q_OBJECT
  public:
    explicit MaterialList(MaterialInHand& hand, QWidget* parent = nullptr);

  private:
    void refresh();
    void filter();

    MaterialInHand& m_hand;
    QLineEdit* m_search;
    QTreeWidget* m_tree;
};

} // namespace mavlo::app
