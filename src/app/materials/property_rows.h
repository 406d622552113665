#pragma once
// The plain figures of a material as rows: a name, a value with its unit, a word on it.

#include "materials/material_in_hand.h"

#include <QLabel>
#include <QLineEdit>
#include <functional>
#include <vector>

namespace mavlo::app {

/// One figure: how it is read and written. `unit` empty: a plain number; "%/K" and "degC" are shown so.
struct Property {
    QString label;
    std::string unit;
    std::function<double&(Material&)> of;
    QString help{};
    double low = 0, high = 1e30; ///< in SI
    bool may_be_unknown = true;  ///< 0 stands for that
};

class PropertyRows : public QWidget {
    Q_OBJECT
  public:
    PropertyRows(MaterialInHand& hand, std::vector<Property> properties, QWidget* parent = nullptr);

  private:
    void refresh();
    void take(std::size_t row);
    QString shown(const Property& property) const;

    MaterialInHand& m_hand;
    std::vector<Property> m_properties;
    std::vector<QLineEdit*> m_fields;
    QLabel* m_wrong;
};

/// Density, electric, thermal and mechanical figures, which any material may have.
std::vector<Property> common_properties();
std::vector<Property> magnet_properties();
std::vector<Property> sheet_properties();

} // namespace mavlo::app
