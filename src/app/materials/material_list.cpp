#include "materials/material_list.h"

#include "shell/theme.h"

#include <QHeaderView>
#include <QVBoxLayout>

namespace mavlo::app {

MaterialList::MaterialList(MaterialInHand& hand, QWidget* parent)
    : QWidget(parent)
    , m_hand(hand)
    , m_search(new QLineEdit(this))
    , m_tree(new QTreeWidget(this)) {
    m_search->setObjectName(QStringLiteral("material_search"));
    m_search->setPlaceholderText(tr("search"));
    m_tree->setObjectName(QStringLiteral("material_list"));
    m_tree->setHeaderHidden(true);
    m_tree->setRootIsDecorated(false);
    m_tree->setIndentation(12);
    m_tree->setFrameShape(QFrame::NoFrame);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_search);
    layout->addWidget(m_tree, 1);
    connect(m_search, &QLineEdit::textChanged, this, &MaterialList::filter);
    connect(m_tree, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (item && item->parent()) m_hand.choose(item->data(0, Qt::UserRole).toString().toStdString());
    });
    connect(&hand, &MaterialInHand::changed, this, &MaterialList::refresh);
    refresh();
}

void MaterialList::refresh() {
    const QSignalBlocker quiet(m_tree);
    const Project& project = m_hand.document().project();
    m_tree->clear();
    QTreeWidgetItem* present = nullptr;
    for (const auto& [kind, title] : {std::pair{MaterialKind::Steel, tr("Steels")},
                                      {MaterialKind::Magnet, tr("Magnets")},
                                      {MaterialKind::Conductor, tr("Conductors")},
                                      {MaterialKind::Insulator, tr("Insulators")}}) {
        auto* group = new QTreeWidgetItem(m_tree, {title});
        group->setFlags(Qt::ItemIsEnabled);
        group->setForeground(0, theme().soft);
        const auto add = [&](const std::string& name, bool own) {
            const auto uses = uses_of(project, name);
            QString text = QString::fromStdString(name);
            if (own) text += tr("  · own");
            if (!uses.empty()) text += tr("  · in use");
            auto* item = new QTreeWidgetItem(group, {text});
            item->setData(0, Qt::UserRole, QString::fromStdString(name));
            if (!uses.empty()) {
                QFont font = item->font(0);
                font.setWeight(QFont::DemiBold);
                item->setFont(0, font);
            }
            if (name == m_hand.name()) present = item;
        };
        for (const auto& [name, material] : project.materials)
            if (material.kind == kind) add(name, true);
        for (const auto& [name, material] : shipped_materials())
            if (material.kind == kind && !project.materials.contains(name)) add(name, false);
        group->setExpanded(true);
    }
    if (present) m_tree->setCurrentItem(present);
    filter();
}

void MaterialList::filter() {
    const QString wanted = m_search->text().trimmed();
    for (int g = 0; g < m_tree->topLevelItemCount(); ++g) {
        auto* group = m_tree->topLevelItem(g);
        bool any = false;
        for (int i = 0; i < group->childCount(); ++i) {
            const bool fits = group->child(i)->text(0).contains(wanted, Qt::CaseInsensitive);
            group->child(i)->setHidden(!fits);
            any = any || fits;
        }
        group->setHidden(!any);
    }
}

} // namespace mavlo::app
