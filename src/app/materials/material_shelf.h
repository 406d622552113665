#pragma once
// The shelf: every material with its curves and figures; the project's own ones can be changed.

#include "materials/bh_page.h"
#include "materials/loss_page.h"
#include "materials/magnet_page.h"
#include "materials/material_list.h"
#include "materials/property_rows.h"

#include <QDialog>
#include <QLineEdit>
#include <QPushButton>
#include <QTabWidget>

namespace mavlo::app {

class MaterialShelf : public QDialog {
    Q_OBJECT
  public:
    /// Opens at `name`; empty: at the stator's steel.
    MaterialShelf(Document& document, const std::string& name, QWidget* parent = nullptr);

    MaterialInHand& hand() { return m_hand; }

  private:
    QWidget* make_head();
    void copy();
    void rename();
    void remove();
    void refresh();
    void fill_comparisons();
    QString where_used() const;

    MaterialInHand m_hand;
    QLineEdit* m_name;
    QLabel *m_note, *m_uses;
    QPushButton *m_copy, *m_remove;
    QComboBox* m_compare;
    QTabWidget* m_tabs;
    BhPage* m_bh;
    LossPage* m_loss;
    MagnetPage* m_magnet;
    QWidget* m_figures;
};

} // namespace mavlo::app
