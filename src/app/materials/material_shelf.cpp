#include "materials/material_shelf.h"

#include "shell/spoken.h"
#include "shell/theme.h"

#include <QHBoxLayout>
#include <QTabBar>
#include <QVBoxLayout>
#include <set>

namespace mavlo::app {
namespace {
constexpr int list_width = 210;
}

MaterialShelf::MaterialShelf(Document& document, const std::string& name, QWidget* parent)
    : QDialog(parent)
    , m_hand(document)
    , m_name(new QLineEdit(this))
    , m_note(new QLabel(this))
    , m_uses(new QLabel(this))
    , m_copy(new QPushButton(tr("Copy to change it"), this))
    , m_remove(new QPushButton(tr("Remove"), this))
    , m_compare(new QComboBox(this))
    , m_tabs(new QTabWidget(this)) {
    setObjectName(QStringLiteral("materials"));
    setWindowTitle(tr("Materials"));
    resize(1120, 700);
    m_hand.choose(name.empty() ? document.design().text("stator.steel") : name);
    if (!m_hand.material()) m_hand.choose(shipped_materials().begin()->first);
    m_bh = new BhPage(m_hand, this);
    m_loss = new LossPage(m_hand, this);
    m_magnet = new MagnetPage(m_hand, this);
    m_figures = new QWidget(this);
    auto* figures = new QVBoxLayout(m_figures);
    auto* common = new PropertyRows(m_hand, common_properties(), m_figures);
    auto* sheet = new PropertyRows(m_hand, sheet_properties(), m_figures);
    sheet->setObjectName(QStringLiteral("sheet_rows"));
    for (PropertyRows* rows : {sheet, common}) {
        rows->setFixedWidth(400);
        figures->addWidget(rows);
    }
    figures->addStretch(1);
    m_tabs->setDocumentMode(true);
    auto* layout = new QHBoxLayout(this);
    auto* list = new MaterialList(m_hand, this);
    list->setFixedWidth(list_width);
    list->findChild<QTreeWidget*>()->setFocus();
    layout->addWidget(list);
    auto* right = new QVBoxLayout;
    right->addWidget(make_head());
    right->addWidget(m_tabs, 1);
    layout->addLayout(right, 1);
    connect(m_copy, &QPushButton::clicked, this, &MaterialShelf::copy);
    connect(m_remove, &QPushButton::clicked, this, &MaterialShelf::remove);
    connect(m_name, &QLineEdit::editingFinished, this, &MaterialShelf::rename);
    connect(m_compare, &QComboBox::activated, this, [this](int index) {
        m_bh->compare_with(index == 0 ? std::string() : m_compare->currentText().toStdString());
    });
    connect(&m_hand, &MaterialInHand::changed, this, &MaterialShelf::refresh);
    for (QPushButton* button : findChildren<QPushButton*>())
        button->setAutoDefault(false); // Enter is the fields'
    refresh();
}

QWidget* MaterialShelf::make_head() {
    auto* head = new QWidget(this);
    auto* layout = new QVBoxLayout(head);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* first = new QHBoxLayout;
    m_name->setObjectName(QStringLiteral("material_name"));
    m_name->setFont(figure_font(18));
    m_name->setMinimumWidth(260);
    m_copy->setObjectName(QStringLiteral("material_copy"));
    m_remove->setObjectName(QStringLiteral("material_remove"));
    m_compare->setObjectName(QStringLiteral("material_compare"));
    m_compare->setMinimumWidth(170);
    m_uses->setObjectName(QStringLiteral("material_uses"));
    first->addWidget(m_name);
    first->addWidget(m_copy);
    first->addWidget(m_remove);
    first->addStretch(1);
    first->addWidget(m_compare);
    layout->addLayout(first);
    for (QLabel* label : {m_note, m_uses}) {
        label->setProperty("soft", true);
        label->setWordWrap(true);
        layout->addWidget(label);
    }
    return head;
}

QString MaterialShelf::where_used() const {
    const auto uses = uses_of(m_hand.document().project(), m_hand.name());
    QStringList places;
    std::set<std::string> seen;
    for (const MaterialUse& use : uses) {
        const Parameter* parameter = find_parameter(use.path);
        places << (m_hand.document().project().variants.size() > 1
                       ? tr("%1 of %2").arg(spoken(parameter->label), QString::fromStdString(use.variant))
                       : spoken(parameter->label));
    }
    if (places.isEmpty()) return tr("Not used in this project.");
    return tr("Used as: %1.").arg(places.join(QStringLiteral(", ")));
}

void MaterialShelf::refresh() {
    const Material* material = m_hand.material();
    if (!material) {
        m_hand.choose(m_hand.document().design().text("stator.steel"));
        material = m_hand.material();
        if (!material) return;
    }
    const bool own = m_hand.is_own();
    if (!m_name->hasFocus()) m_name->setText(QString::fromStdString(material->name));
    m_name->setReadOnly(!own);
    m_remove->setVisible(own);
    const bool used = !uses_of(m_hand.document().project(), m_hand.name()).empty();
    m_remove->setEnabled(!used);
    m_remove->setToolTip(used ? tr("It is in use; give its places another material first") : QString());
    m_copy->setProperty("main", !own);
    m_note->setText((own ? tr("The project's own. ") : tr("From the shelf, read-only. ")) +
                    QString::fromStdString(material->note));
    m_uses->setText(where_used());
    const bool steel = material->kind == MaterialKind::Steel, magnet = material->kind == MaterialKind::Magnet;
    const auto show_tab = [&](QWidget* page, bool wanted, const QString& title, int at) {
        const int index = m_tabs->indexOf(page);
        if (wanted && index < 0) m_tabs->insertTab(at, page, title);
        if (!wanted && index >= 0) m_tabs->removeTab(index);
        if (!wanted) page->hide();
    };
    const QWidget* before = m_tabs->currentWidget();
    show_tab(m_bh, steel, tr("Magnetisation"), 0);
    show_tab(m_loss, steel, tr("Losses"), 1);
    show_tab(m_magnet, magnet, tr("Demagnetisation"), 0);
    show_tab(m_figures, true, tr("Figures"), m_tabs->count());
    if (before != m_tabs->currentWidget() && m_tabs->indexOf(m_figures) != m_tabs->currentIndex() &&
        before != m_figures)
        m_tabs->setCurrentIndex(0);
    findChild<QWidget*>(QStringLiteral("sheet_rows"))->setVisible(steel);
    m_compare->setVisible(steel);
    fill_comparisons();
}

void MaterialShelf::fill_comparisons() {
    const QString before = m_compare->currentText();
    m_compare->clear();
    m_compare->addItem(tr("compare with …"));
    for (const auto* library : {&m_hand.document().project().materials, &shipped_materials()})
        for (const auto& [name, material] : *library)
            if (material.kind == MaterialKind::Steel && name != m_hand.name())
                m_compare->addItem(QString::fromStdString(name));
    const int index = std::max(0, m_compare->findText(before));
    m_compare->setCurrentIndex(index);
    m_bh->compare_with(index == 0 ? std::string() : before.toStdString());
}

void MaterialShelf::copy() {
    Material copy = *m_hand.material();
    copy.name = free_material_name(m_hand.document().project(), copy.name);
    m_hand.document().change(tr("copy of %1").arg(QString::fromStdString(m_hand.name())),
                             [&](Project& p) { put_material(p, copy); });
    m_hand.choose(copy.name);
}

void MaterialShelf::rename() {
    const std::string wanted = m_name->text().trimmed().toStdString();
    if (!m_hand.is_own() || wanted == m_hand.name()) return;
    Project trial = m_hand.document().project();
    if (const auto problem = rename_material(trial, m_hand.name(), wanted)) {
        m_uses->setText(QString::fromStdString(problem->sentence));
        m_name->setText(QString::fromStdString(m_hand.name()));
        return;
    }
    const std::string before = m_hand.name();
    m_hand.follow_rename(wanted);
    m_hand.document().change(tr("rename %1").arg(QString::fromStdString(before)),
                             [&](Project& p) { rename_material(p, before, wanted); });
}

void MaterialShelf::remove() {
    const std::string name = m_hand.name();
    m_hand.document().change(tr("remove %1").arg(QString::fromStdString(name)),
                             [&](Project& p) { remove_material(p, name); });
}

} // namespace mavlo::app
