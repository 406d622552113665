#include "section/part_material.h"

#include "sheet/material_names.h"

#include <algorithm>

namespace mavlo::app {

PartMaterial::PartMaterial(Document& document, QWidget* parent)
    : QComboBox(parent)
    , m_document(document) {
    setObjectName(QStringLiteral("part_material"));
    setToolTip(tr("Material of this part"));
    setProperty("ground", true);
    hide();
    connect(this, &QComboBox::textActivated, this,
            [this](const QString& name) { m_document.set_text(m_path, name); });
    connect(&document, &Document::changed, this, &PartMaterial::refresh);
}

void PartMaterial::refresh() {
    if (m_path.empty()) return;
    const Parameter* parameter = m_document.used(m_path);
    if (!parameter) {
        hide();
        return;
    }
    const QSignalBlocker quiet(this);
    QStringList names = material_names(*parameter, m_document.project().materials);
    const QString now = QString::fromStdString(m_document.design().text(m_path));
    if (!names.contains(now)) names.prepend(now); // one that is written out, such as linear(1000)
    QStringList shown;
    for (int i = 0; i < count(); ++i) shown << itemText(i);
    if (shown != names) { // not while it tells of a choice from this very list
        clear();
        addItems(names);
        adjustSize();
    }
    setCurrentText(now);
}

void PartMaterial::show_at(QPointF click, const std::string& path) {
    m_path = path;
    if (path.empty()) {
        hide();
        return;
    }
    refresh();
    const QRect room = parentWidget()->rect().adjusted(8, 8, -8, -8);
    move(std::clamp(int(click.x()) + 10, room.left(), std::max(room.left(), room.right() - width())),
         std::clamp(int(click.y()) + 10, room.top(), std::max(room.top(), room.bottom() - height())));
    show();
    raise();
}

} // namespace mavlo::app
