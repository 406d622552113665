#include "wind/wind_panel.h"

#include "section/phase_focus.h"
#include "sheet/sheet.h"
#include "wind/alternatives_list.h"
#include "wind/coil_editor.h"
#include "wind/conductor_page.h"
#include "wind/waves_page.h"

#include <cmath>

namespace mavlo::app {
namespace {

const SheetPage& layout_rows() {
    static const SheetPage list{"Winding",
                                {{"Layout",
                                  {"stator.slots", "rotor.poles", "winding.phases", "winding.set_shift",
                                   "winding.form", "winding.layers", "winding.sharing", "winding.layer_shift",
                                   "winding.span", "winding.turns", "winding.paths", "winding.connection"}}}};
    return list;
}

} // namespace

WindPanel::WindPanel(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_facts(new QLabel(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* tabs = new PageTabs(QStringLiteral("wind:"), this);
    layout->addWidget(tabs);
    tabs->add(tr("Layout"), make_layout_page());
    tabs->add(tr("Coils"), new CoilEditor(document, this));
    auto* conductor = new ConductorPage(document, this);
    connect(conductor, &ConductorPage::hovered, this, &WindPanel::hovered);
    connect(conductor, &ConductorPage::refused, this, &WindPanel::refused);
    tabs->add(tr("Conductor"), conductor);
    tabs->add(tr("Waves"), new WavesPage(document, PhaseFocus::shared(), this));
    connect(&document, &Document::changed, this, &WindPanel::refresh);
    refresh();
}

QWidget* WindPanel::make_layout_page() {
    auto* page_widget = new QWidget(this);
    auto* layout = new QVBoxLayout(page_widget);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* rows = new SheetRows(m_document, layout_rows());
    connect(rows, &SheetRows::hovered, this, &WindPanel::hovered);
    layout->addWidget(rows);
    m_facts->setProperty("soft", true);
    m_facts->setWordWrap(true);
    m_facts->setContentsMargins(20, 0, 16, 4);
    layout->addWidget(m_facts);
    layout->addWidget(new AlternativesList(m_document, page_widget));
    layout->addStretch(1);
    return page_widget;
}

void WindPanel::refresh() {
    const auto& built = m_document.built();
    if (!built || !built->machine.wound()) return m_facts->setText(tr("A smooth stator carries no winding."));
    const Machine& m = built->machine;
    const double q = double(m.slots) / (m.poles * m.winding.phases);
    m_facts->setText(
        tr("%1 coils a phase, %2 turns in series · %3 slots a pole and phase · winding factor %4")
            .arg(m.winding.layout.coils_per_phase())
            .arg(m.winding.layout.turns_of_phase(0) / m.winding.paths)
            .arg(q, 0, 'g', 3)
            .arg(std::abs(winding_factor(m.winding.layout, m.winding.layout.main_order())), 0, 'f', 4));
}

} // namespace mavlo::app
