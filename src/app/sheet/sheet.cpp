#include "sheet/sheet.h"

#include <QHBoxLayout>

namespace mavlo::app {
namespace {

const std::vector<SheetPage>& pages() {
    static const std::vector<SheetPage> list{
        {"Stator",
         {{"Stack",
           {"stator.outer_diameter", "stator.bore_diameter", "machine.stack_length", "gap", "stator.steel",
            "stator.stacking_factor", "stator.building_factor"}},
          {"Slots",
           {"stator.slots", "stator.slot.kind", "stator.slot.tooth_width", "stator.slot.body_angle",
            "stator.slot.depth", "stator.slot.opening", "stator.slot.opening_angle", "stator.slot.tip_depth",
            "stator.slot.tip_angle", "stator.slot.corner_radius"}}}},
        {"Rotor",
         {{"Yoke",
           {"rotor.kind", "rotor.poles", "rotor.shaft_diameter", "rotor.shaft_resistivity", "rotor.steel",
            "rotor.stacking_factor", "rotor.building_factor"}},
          {"Magnets",
           {"rotor.magnet.width", "rotor.magnet.thickness", "rotor.magnet.arc", "rotor.magnet.magnetisation",
            "rotor.pocket.angle", "rotor.pocket.depth", "rotor.pocket.bridge", "rotor.pocket.post",
            "rotor.pocket.corner_radius", "rotor.magnet.segments", "rotor.magnet.grade",
            "rotor.magnet.temperature"}}}},
        {"Winding",
         {{"Layout",
           {"winding.layers", "winding.span", "winding.turns", "winding.paths", "winding.connection"}},
          {"Conductor",
           {"winding.conductor.material", "winding.conductor.diameter", "winding.conductor.strands",
            "winding.fill_factor", "winding.overhang", "winding.temperature"}}}},
        {"Rating",
         {{"At rated load", {"rating.speed", "rating.current", "rating.advance", "machine.friction_torque"}},
          {"Limits", {"rating.dc_voltage", "rating.max_current", "rating.max_speed"}}}},
    };
    return list;
}

int page_of(Role role) {
    switch (role) {
    case Role::Magnet:
    case Role::RotorIron:
    case Role::Shaft:
        return 1;
    case Role::Conductor:
        return 2;
    default:
        return 0;
    }
}

Role role_of(int page) {
    switch (page) {
    case 1:
        return Role::Magnet;
    case 2:
        return Role::Conductor;
    case 0:
        return Role::StatorIron;
    default:
        return Role::Air;
    }
}

} // namespace

SheetRows::SheetRows(Document& document, const SheetPage& page, QWidget* parent)
    : QWidget(parent)
    , m_document(document) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 4, 8, 12);
    layout->setSpacing(2);
    for (const SheetGroup& group : page.groups) {
        auto* title = new QLabel(QString::fromLatin1(group.title), this);
        title->setProperty("group", true);
        title->setContentsMargins(12, 12, 0, 4);
        layout->addWidget(title);
        for (const std::string& path : group.paths) {
            auto* row = new ParameterRow(document, *find_parameter(path), this);
            connect(row, &ParameterRow::hovered, this, &SheetRows::hovered);
            m_rows.push_back(row);
            layout->addWidget(row);
            if (path == "stator.slot.depth") {
                m_slot_note = new QLabel(this);
                m_slot_note->setProperty("soft", true);
                m_slot_note->setContentsMargins(12, 0, 0, 2);
                layout->addWidget(m_slot_note);
            }
        }
    }
    layout->addStretch();
    connect(&document, &Document::changed, this, &SheetRows::refresh);
    refresh();
}

void SheetRows::refresh() {
    for (ParameterRow* row : m_rows) row->refresh();
    if (!m_slot_note) return;
    const auto built = m_document.built();
    const SlotKind* kind = built ? find_slot_kind(built->machine.values.word("stator.slot.kind")) : nullptr;
    QString text;
    if (kind && m_document.is_good()) {
        const Machine& m = built->machine;
        const auto contour = kind->contour({m.bore_radius, m.outer_radius, m.slots}, m.values);
        if (contour && contour->conductor_from > 0) {
            const double tip = m.values.number("stator.slot.tip_depth"),
                         body = m.bore_radius + m.values.number("stator.slot.depth");
            const double wedge_end = norm(contour->steps[contour->conductor_from].to);
            text = tr("tip %1 + wedge %2 + body %3 mm")
                       .arg(tip * 1e3, 0, 'f', 2)
                       .arg(std::max(0.0, wedge_end - m.bore_radius - tip) * 1e3, 0, 'f', 2)
                       .arg((body - wedge_end) * 1e3, 0, 'f', 2);
        }
    }
    m_slot_note->setText(text);
    m_slot_note->setVisible(!text.isEmpty());
}

void SheetRows::set_hot(const std::string& path) {
    for (ParameterRow* row : m_rows) row->set_hot(row->path() == path);
}

ParameterRow* SheetRows::row(const std::string& path) const {
    for (ParameterRow* row : m_rows)
        if (row->path() == path) return row;
    return nullptr;
}

Sheet::Sheet(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_scroll(new QScrollArea(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 12, 0, 0);
    layout->setSpacing(4);
    auto* tabs = new QHBoxLayout;
    tabs->setContentsMargins(12, 0, 12, 0);
    tabs->setSpacing(0);
    layout->addLayout(tabs);
    layout->addWidget(m_scroll, 1);
    m_scroll->setWidgetResizable(true);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* stack = new QWidget;
    auto* stack_layout = new QVBoxLayout(stack);
    stack_layout->setContentsMargins(0, 0, 0, 0);
    for (std::size_t i = 0; i < pages().size(); ++i) {
        auto* tab = new QPushButton(QString::fromLatin1(pages()[i].title), this);
        tab->setObjectName(QStringLiteral("part:") + QString::fromLatin1(pages()[i].title));
        tab->setProperty("flat", true);
        tab->setCheckable(true);
        tabs->addWidget(tab);
        m_tabs.push_back(tab);
        auto* rows = new SheetRows(document, pages()[i], stack);
        connect(rows, &SheetRows::hovered, this, &Sheet::hovered);
        stack_layout->addWidget(rows);
        m_pages.push_back(rows);
        const int index = int(i);
        connect(tab, &QPushButton::clicked, this, [this, index] {
            show_page(index);
            Q_EMIT part_chosen(role_of(index));
        });
    }
    tabs->addStretch();
    m_scroll->setWidget(stack);
    show_page(0);
}

void Sheet::show_page(int index) {
    m_page = index;
    for (std::size_t i = 0; i < m_pages.size(); ++i) {
        m_pages[i]->setVisible(int(i) == index);
        m_tabs[i]->setChecked(int(i) == index);
    }
}

void Sheet::show_part(Role role) {
    if (role != Role::Air) show_page(page_of(role));
}

void Sheet::set_hot(const std::string& path) {
    for (std::size_t i = 0; i < m_pages.size(); ++i) {
        m_pages[i]->set_hot(path);
        if (!path.empty() && m_pages[i]->row(path) && int(i) != m_page) show_page(int(i));
    }
    if (m_page >= 0 && !path.empty())
        if (auto* row = m_pages[std::size_t(m_page)]->row(path)) m_scroll->ensureWidgetVisible(row);
}

} // namespace mavlo::app
