#include "materials/property_rows.h"

#include "quantity/quantity.h"
#include "shell/typed_number.h"

#include <QGridLayout>
#include <nlohmann/json.hpp>

namespace mavlo::app {
namespace {

/// "0.0011/K" is read as "-0.11 %/K".
constexpr const char* per_kelvin = "%/K";

QString unit_word(const std::string& unit) {
    if (unit == "degC") return QStringLiteral("°C");
    if (unit == "Ohm.m") return QStringLiteral("Ω·m");
    if (unit == "J/(kg.K)") return QStringLiteral("J/(kg·K)");
    if (unit == "W/(m.K)") return QStringLiteral("W/(m·K)");
    if (unit == "kg/m3") return QStringLiteral("kg/m³");
    return QString::fromStdString(unit);
}

} // namespace

PropertyRows::PropertyRows(MaterialInHand& hand, std::vector<Property> properties, QWidget* parent)
    : QWidget(parent)
    , m_hand(hand)
    , m_properties(std::move(properties))
    , m_wrong(new QLabel(this)) {
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setVerticalSpacing(4);
    for (std::size_t i = 0; i < m_properties.size(); ++i) {
        auto* label = new QLabel(m_properties[i].label, this);
        auto* field = new QLineEdit(this);
        auto* unit = new QLabel(unit_word(m_properties[i].unit), this);
        field->setObjectName(QStringLiteral("property:") + m_properties[i].label);
        field->setAlignment(Qt::AlignRight);
        field->setFixedWidth(100);
        field->setPlaceholderText(tr("not known"));
        unit->setProperty("soft", true);
        unit->setFixedWidth(64);
        label->setToolTip(m_properties[i].help);
        layout->addWidget(label, int(i), 0);
        layout->addWidget(field, int(i), 1);
        layout->addWidget(unit, int(i), 2);
        m_fields.push_back(field);
        connect(field, &QLineEdit::editingFinished, this, [this, i] { take(i); });
    }
    layout->setColumnStretch(0, 1);
    m_wrong->setProperty("caution", true);
    m_wrong->setWordWrap(true);
    m_wrong->hide();
    layout->addWidget(m_wrong, int(m_properties.size()), 0, 1, 3);
    connect(&hand, &MaterialInHand::changed, this, &PropertyRows::refresh);
    refresh();
}

QString PropertyRows::shown(const Property& property) const {
    Material copy = *m_hand.material();
    const double si = property.of(copy);
    if (si == 0 && property.may_be_unknown) return {};
    if (property.unit == per_kelvin) return QString::fromStdString(number_text(si * 100, 6));
    return QString::fromStdString(
        number_text(property.unit.empty() ? si : to_unit(si, *find_unit(property.unit)), 6));
}

void PropertyRows::refresh() {
    if (!m_hand.material()) return;
    m_wrong->hide();
    for (std::size_t i = 0; i < m_fields.size(); ++i) {
        m_fields[i]->setText(shown(m_properties[i]));
        m_fields[i]->setReadOnly(!m_hand.is_own());
    }
}

void PropertyRows::take(std::size_t row) {
    const Material* material = m_hand.material();
    const Property& property = m_properties[row];
    if (!material || !m_hand.is_own() || m_fields[row]->text() == shown(property)) return;
    const QString typed = QString::fromStdString(typed_number(m_fields[row]->text().trimmed()));
    std::string_view rest;
    double si = 0;
    bool good = true;
    if (typed.isEmpty()) {
        good = property.may_be_unknown;
    } else if (const auto number = read_number(typed.toStdString(), rest); number && rest.empty()) {
        si = property.unit == per_kelvin ? *number / 100
             : property.unit.empty()     ? *number
                                         : from_unit(*number, *find_unit(property.unit));
    } else {
        const auto quantity = parse_quantity(typed.toStdString());
        good = quantity && property.unit != per_kelvin && !property.unit.empty() &&
               quantity->dimension == find_unit(property.unit)->dimension;
        if (good) si = quantity->si;
    }
    if (!good || (!typed.isEmpty() && (si < property.low || si > property.high))) {
        refresh();
        m_wrong->setText(tr("“%1” is no value for %2; it keeps its own.").arg(typed, property.label.toLower()));
        m_wrong->show();
        return;
    }
    Material changed = *material;
    property.of(changed) = si;
    if (auto anew = read_material(changed.name, to_json(changed)))
        changed = std::move(*anew); // what follows from it
    m_hand.put(changed, tr("%1 of %2").arg(property.label.toLower(), QString::fromStdString(changed.name)));
}

std::vector<Property> common_properties() {
    return {
        {QObject::tr("Density"), "kg/m3", [](Material& m) -> double& { return m.density; }, {}, 1, 30000},
        {QObject::tr("Resistivity at 20 °C"), "Ohm.m", [](Material& m) -> double& { return m.resistivity; }},
        {QObject::tr("Its change"),
         "%/K",
         [](Material& m) -> double& { return m.resistivity_per_kelvin; },
         {},
         -1,
         1},
        {QObject::tr("Specific heat"), "J/(kg.K)", [](Material& m) -> double& { return m.specific_heat; }},
        {QObject::tr("Thermal conductivity"), "W/(m.K)",
         [](Material& m) -> double& { return m.thermal_conductivity; }},
        {QObject::tr("Highest temperature"), "degC",
         [](Material& m) -> double& { return m.highest_temperature; }, QObject::tr("In continuous use")},
        {QObject::tr("Young's modulus"), "GPa", [](Material& m) -> double& { return m.youngs_modulus; }},
        {QObject::tr("Yield strength"), "MPa", [](Material& m) -> double& { return m.yield_strength; }},
    };
}

std::vector<Property> magnet_properties() {
    return {
        {QObject::tr("Remanence at 20 °C"),
         "T",
         [](Material& m) -> double& { return m.magnet.remanence; },
         {},
         0.01,
         3,
         false},
        {QObject::tr("Its change"),
         "%/K",
         [](Material& m) -> double& { return m.magnet.remanence_per_kelvin; },
         {},
         -0.1,
         0.1},
        {QObject::tr("Recoil permeability"),
         "",
         [](Material& m) -> double& { return m.magnet.recoil_mu_r; },
         {},
         1,
         20,
         false},
        {QObject::tr("Coercivity HcJ at 20 °C"), "kA/m",
         [](Material& m) -> double& { return m.magnet.coercivity; }},
        {QObject::tr("Its change, HcJ"),
         "%/K",
         [](Material& m) -> double& { return m.magnet.coercivity_per_kelvin; },
         {},
         -0.1,
         0.1},
    };
}

std::vector<Property> sheet_properties() {
    return {{QObject::tr("Thickness of a sheet"),
             "mm",
             [](Material& m) -> double& { return m.thickness; },
             {},
             0,
             0.1},
            {QObject::tr("Conductivity across"), "W/(m.K)",
             [](Material& m) -> double& { return m.thermal_conductivity_across; },
             QObject::tr("Of heat, across a stack of sheets; 0: steel and 0.1 W/(m·K) of varnish in series")}};
}

} // namespace mavlo::app
