#include "wind/alternatives_list.h"

#include "shell/spoken.h"

#include <QHeaderView>
#include <QVBoxLayout>
#include <algorithm>

namespace mavlo::app {
namespace {

QString paths_word(const std::vector<int>& paths) {
    QStringList words;
    for (int a : paths) words << QString::number(a);
    if (words.size() > 4) words = {words[0], words[1], QStringLiteral("…"), words.back()};
    return words.join(QStringLiteral(" "));
}

} // namespace

AlternativesList::AlternativesList(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_table(new QTableWidget(0, 6, this))
    , m_words(new QLabel(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 4, 16, 8);
    auto* title = new QLabel(tr("What else fits these slots and poles"), this);
    title->setProperty("group", true);
    layout->addWidget(title);
    m_table->setObjectName(QStringLiteral("alternatives"));
    m_table->setAccessibleName(tr("Other windings"));
    m_table->setHorizontalHeaderLabels(
        {tr("layers"), tr("span"), tr("factor"), tr("leakage"), tr("end"), tr("paths")});
    const char* const tips[] = {QT_TR_NOOP("Coil sides in a slot, and the form of the coils"),
                                QT_TR_NOOP("Slots between a coil's sides"),
                                QT_TR_NOOP("Winding factor of the poles' order"),
                                QT_TR_NOOP("Differential leakage: the MMF's other waves over the main one"),
                                QT_TR_NOOP("Mean span over the pole pitch: what end turns cost"),
                                QT_TR_NOOP("Numbers of parallel paths that are alike")};
    for (int i = 0; i < 6; ++i) m_table->horizontalHeaderItem(i)->setToolTip(tr(tips[i]));
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(24);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    layout->addWidget(m_table);
    m_words->setProperty("soft", true);
    m_words->setWordWrap(true);
    layout->addWidget(m_words);
    connect(m_table, &QTableWidget::cellClicked, this, &AlternativesList::take);
    connect(&document, &Document::changed, this, &AlternativesList::refresh);
    refresh();
}

void AlternativesList::refresh() {
    const auto& built = m_document.built();
    setVisible(built && built->machine.wound());
    if (!built || !built->machine.wound()) return;
    const WindingInput now = built->machine.winding.layout.input;
    WindingInput asked = now;
    asked.span = asked.layers = asked.layer_shift = 0;
    asked.form = WindingForm::Lap;
    if (!(asked == m_asked)) {
        m_asked = asked;
        m_list = winding_alternatives(now);
        m_table->setRowCount(int(m_list.size()));
        m_table->setFixedHeight(40 + 24 * std::clamp(int(m_list.size()), 1, 9));
        for (std::size_t i = 0; i < m_list.size(); ++i) {
            const WindingAlternative& a = m_list[i];
            const QString layers =
                QStringLiteral("%1 %2").arg(a.input.layers).arg(spoken(to_string(a.input.form)));
            const QString cells[] = {a.empty_slots ? layers + tr(", %1 empty").arg(a.empty_slots) : layers,
                                     a.input.form == WindingForm::Lap ? QString::number(a.input.span)
                                                                      : QStringLiteral("–"),
                                     QString::number(a.winding_factor, 'f', 3),
                                     QString::number(a.harmonic_leakage, 'f', 3),
                                     QString::number(a.end_length, 'f', 2),
                                     paths_word(a.paths)};
            for (int c = 0; c < 6; ++c) m_table->setItem(int(i), c, new QTableWidgetItem(cells[c]));
        }
    }
    m_table->clearSelection();
    for (std::size_t i = 0; i < m_list.size() && !built->machine.winding.layout.by_hand; ++i)
        if (m_list[i].input == now) m_table->selectRow(int(i));
    m_words->setText(built->machine.winding.layout.by_hand
                         ? tr("The winding in hand was made by hand; a row goes back to a proposal.")
                         : QString());
    m_words->setVisible(!m_words->text().isEmpty());
}

void AlternativesList::take(int row) {
    if (row < 0 || row >= int(m_list.size())) return;
    const WindingInput& in = m_list[std::size_t(row)].input;
    Design design = m_document.design();
    design.coils.clear();
    design.texts["winding.layers"] = std::to_string(in.layers);
    design.texts["winding.form"] = to_string(in.form);
    design.texts["winding.span"] = in.form == WindingForm::Lap ? std::to_string(in.span) : "auto";
    design.texts.erase("winding.layer_shift");
    m_document.set_design(tr("take a winding"), design);
}

} // namespace mavlo::app
