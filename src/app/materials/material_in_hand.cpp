#include "materials/material_in_hand.h"

namespace mavlo::app {

MaterialInHand::MaterialInHand(Document& document, QObject* parent)
    : QObject(parent)
    , m_document(document) {
    connect(&document, &Document::changed, this, &MaterialInHand::changed);
}

const Material* MaterialInHand::material() const {
    const auto& own = m_document.project().materials;
    if (const auto found = own.find(m_name); found != own.end()) return &found->second;
    const auto found = shipped_materials().find(m_name);
    return found == shipped_materials().end() ? nullptr : &found->second;
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
