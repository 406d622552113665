#include "draw/import_list.h"

#include "shell/spoken.h"
#include "shell/theme.h"

#include <QComboBox>
#include <QHeaderView>
#include <algorithm>
#include <cmath>

namespace mavlo::app {

bool are_alike(const ImportedRegion& a, const ImportedRegion& b) {
    return a.side == b.side && a.role == b.role && std::abs(a.area - b.area) < 1e-3 * b.area &&
           std::abs(norm(a.centroid) - norm(b.centroid)) < 1e-3 * norm(b.centroid);
}

ImportList::ImportList(QWidget* parent)
    : QTreeWidget(parent) {
    setObjectName(QStringLiteral("import_list"));
    setHeaderLabels({tr("part"), tr("is"), tr("alike"), tr("each, mm²")});
    setRootIsDecorated(false);
    setUniformRowHeights(true);
    setMouseTracking(true);
    header()->setSectionResizeMode(QHeaderView::ResizeToContents);
    header()->setStretchLastSection(false);
    connect(this, &QTreeWidget::itemEntered, this, [this](QTreeWidgetItem* item) {
        Q_EMIT pointed(m_numbers[std::size_t(indexOfTopLevelItem(item))]);
    });
    connect(this, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (item) Q_EMIT pointed(m_numbers[std::size_t(indexOfTopLevelItem(item))]);
    });
}

void ImportList::leaveEvent(QEvent*) {
    Q_EMIT pointed({});
}

void ImportList::show_drawing(const ImportedDrawing& drawing) {
    const QSignalBlocker quiet(this);
    clear();
    m_numbers.clear();
    std::vector<std::vector<const ImportedRegion*>> rows;
    for (const ImportedRegion& region : drawing.regions) {
        const auto own = std::find_if(rows.begin(), rows.end(),
                                      [&](const auto& row) { return are_alike(*row.front(), region); });
        if (own == rows.end())
            rows.push_back({&region});
        else
            own->push_back(&region);
    }
    for (const auto& row : rows) add_row(row);
}

void ImportList::add_row(const std::vector<const ImportedRegion*>& alike) {
    const ImportedRegion& first = *alike.front();
    auto* item = new QTreeWidgetItem(this, {QString::fromStdString(to_string(first.side)),
                                            {},
                                            QString::number(alike.size()),
                                            QString::number(first.area * 1e6, 'f', 2)});
    for (int column : {2, 3}) item->setTextAlignment(column, Qt::AlignRight | Qt::AlignVCenter);
    auto* role = new QComboBox(this);
    role->setObjectName(QStringLiteral("import_role:%1").arg(first.number));
    for (const std::string& word : role_words()) role->addItem(spoken(word), QString::fromStdString(word));
    role->setCurrentIndex(role->findData(QString::fromStdString(to_string(first.role))));
    connect(role, &QComboBox::activated, this, [this, role, number = first.number] {
        if (const auto wanted = role_of(role->currentData().toString().toStdString()))
            Q_EMIT role_wanted(number, *wanted);
    });
    setItemWidget(item, 1, role);
    m_numbers.emplace_back();
    for (const ImportedRegion* region : alike) m_numbers.back().push_back(region->number);
}

void ImportList::light(int number) {
    const QSignalBlocker quiet(this);
    setCurrentItem(nullptr);
    for (std::size_t row = 0; row < m_numbers.size(); ++row)
        if (std::find(m_numbers[row].begin(), m_numbers[row].end(), number) != m_numbers[row].end()) {
            setCurrentItem(topLevelItem(int(row)));
            scrollToItem(topLevelItem(int(row)));
        }
}

} // namespace mavlo::app
