#include "wind/wind_panel.h"

#include "quantity/quantity.h"
#include "shell/theme.h"

#include <QHBoxLayout>
#include <QScrollArea>
#include <QVBoxLayout>
#include <cmath>

namespace mavlo::app {
namespace {

const SheetPage& page() {
    static const SheetPage list{"Winding",
                                {{"Layout",
                                  {"stator.slots", "rotor.poles", "winding.layers", "winding.span",
                                   "winding.turns", "winding.paths", "winding.connection"}},
                                 {"Conductor",
                                  {"winding.conductor.diameter", "winding.conductor.strands",
                                   "winding.fill_factor", "winding.overhang", "winding.temperature"}}}};
    return list;
}

} // namespace

WindPanel::WindPanel(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_facts(new QLabel(this))
    , m_found(new QLabel(this))
    , m_wanted(new QLineEdit(this))
    , m_plot(new Plot(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 8, 0, 8);
    layout->setSpacing(4);
    auto* rows = new SheetRows(document, page());
    connect(rows, &SheetRows::hovered, this, &WindPanel::hovered);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidget(rows);
    layout->addWidget(scroll, 1);
    auto* wanted_row = new QHBoxLayout;
    wanted_row->setContentsMargins(20, 0, 20, 0);
    auto* label = new QLabel(tr("Wanted phase resistance"), this);
    wanted_row->addWidget(label, 1);
    m_wanted->setObjectName(QStringLiteral("wanted_resistance"));
    m_wanted->setFixedSize(100, 26);
    m_wanted->setAlignment(Qt::AlignRight);
    m_wanted->setPlaceholderText(tr("e.g. 1.2 Ω"));
    m_wanted->setToolTip(
        tr("Type a resistance; the fill factor, or the strand's diameter, that gives it is set."));
    wanted_row->addWidget(m_wanted);
    auto* unit = new QLabel(QStringLiteral("Ω"), this);
    unit->setProperty("soft", true);
    unit->setFixedWidth(40);
    wanted_row->addWidget(unit);
    layout->addLayout(wanted_row);
    for (QLabel* text : {m_found, m_facts}) {
        text->setProperty("soft", true);
        text->setWordWrap(true);
        text->setContentsMargins(20, 0, 16, 4);
        layout->addWidget(text);
    }
    m_found->hide();
    m_plot->set_compact(true);
    m_plot->setFixedHeight(146);
    layout->addWidget(m_plot);
    connect(m_wanted, &QLineEdit::returnPressed, this, &WindPanel::find_conductor);
    connect(&document, &Document::changed, this, &WindPanel::refresh);
    refresh();
}

void WindPanel::refresh() {
    const auto built = m_document.built();
    if (!built || !built->machine.wound()) {
        m_facts->setText(tr("A smooth stator carries no winding."));
        m_plot->clear();
        return;
    }
    const Machine& m = built->machine;
    const Conductor c = machine_conductor(m);
    m_facts->setText(tr("%1 coils a phase, %2 turns in series · strand ⌀ %3 mm · turn %4 mm long\n%5 Ω a phase "
                        "· slot fill %6 · slot area %7 mm²")
                         .arg(m.winding.layout.coils_per_phase())
                         .arg(m.winding.layout.coils_per_phase() * m.winding.turns / m.winding.paths)
                         .arg(c.strand_diameter * 1e3, 0, 'f', 2)
                         .arg(c.turn_length * 1e3, 0, 'f', 0)
                         .arg(c.resistance, 0, 'g', 4)
                         .arg(c.fill, 0, 'f', 3)
                         .arg(m.winding.slot_area * 1e6, 0, 'f', 0));
    Curve factors{"winding_factor", "1", "mechanical_order", "1", {}, {}}, main = factors;
    const int p = m.pole_pairs();
    for (int n = 1; n <= std::max(30, 3 * p); ++n) {
        auto& into = n == p ? main : factors;
        into.x.push_back(n);
        into.y.push_back(std::abs(winding_factor(m.winding.layout, n)));
    }
    m_plot->show_curves({{factors, tr("winding factor"), theme().soft, true, false},
                         {main, tr("of the poles' order"), theme().accent, true, false}},
                        tr("periods a turn (mechanical order)"), tr("winding factor"));
}

void WindPanel::find_conductor() {
    const auto built = m_document.built();
    auto wanted = parse_quantity(m_wanted->text().toStdString());
    if (wanted && wanted->dimension.plain()) wanted->dimension = dimension::resistance;
    if (!built || !built->machine.wound() || !wanted || wanted->dimension != dimension::resistance ||
        wanted->si <= 0) {
        Q_EMIT refused(tr("A resistance such as \"1.2 Ohm\" is wanted."));
        return;
    }
    // R goes with the inverse of the copper's area, so the area follows at once.
    const Conductor now = machine_conductor(built->machine);
    const double share = now.resistance / wanted->si;
    const bool from_fill = built->machine.values.is_auto("winding.conductor.diameter");
    const double fill = now.fill * share;
    if (fill > 0.9) {
        m_found->setText(tr("%1 Ω needs %2 % of the slot as copper, more than fits; fewer turns or a deeper "
                            "slot would do it.")
                             .arg(wanted->si, 0, 'g', 4)
                             .arg(fill * 100, 0, 'f', 0));
        m_found->show();
        return;
    }
    if (from_fill)
        m_document.set_text("winding.fill_factor", QString::number(fill, 'g', 6));
    else
        m_document.set_text(
            "winding.conductor.diameter",
            QStringLiteral("%1 mm").arg(now.strand_diameter * std::sqrt(share) * 1e3, 0, 'g', 6));
    const Conductor after = machine_conductor(m_document.built()->machine);
    m_found->setText(tr("Strand ⌀ %1 mm gives %2 Ω with a slot fill of %3.")
                         .arg(after.strand_diameter * 1e3, 0, 'f', 3)
                         .arg(after.resistance, 0, 'g', 4)
                         .arg(after.fill, 0, 'f', 3));
    m_found->show();
}

} // namespace mavlo::app
