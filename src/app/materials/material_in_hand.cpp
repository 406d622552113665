#include "materials/material_in_hand.h"

namespace mavlo::app {

MaterialInHand::MaterialInHand(Document& document, QObject* parent)
    : QObject(parent)
    , m_document(document) {
    connect(&document, &Document::changed, this, &MaterialInHand::changed);
}

const Material* MaterialInHand::material() const {
    return material_named(m_document.project(), m_name);
}

void MaterialInHand::choose(const std::string& name) {
    if (name == m_name) return;
    m_name = name;
    Q_EMIT changed();
}

void MaterialInHand::put(const Material& changed_material, const QString& label) {
    if (!is_own()) return;
    m_document.change(label, [&](Project& p) { put_material(p, changed_material); });
}

} // namespace mavlo::app
