#include "start/shape_filter.h"

#include <algorithm>
#include <iterator>

namespace mavlo::app {
namespace {

bool is_flat(const Facts& facts) {
    return facts.axial || facts.linear;
}

enum class Family { Place, Drive };

struct Chip {
    Family family;
    const char* words;
    bool (*holds)(const Machine&);
};

const Chip chips[] = {
    {Family::Place, QT_TRANSLATE_NOOP("ShapeFilter", "rotor inside"),
     [](const Machine& m) { return !is_flat(m.facts()) && !m.outer_rotor(); }},
    {Family::Place, QT_TRANSLATE_NOOP("ShapeFilter", "outside"),
     [](const Machine& m) { return !is_flat(m.facts()) && m.outer_rotor(); }},
    {Family::Place, QT_TRANSLATE_NOOP("ShapeFilter", "disc"), [](const Machine& m) { return m.facts().axial; }},
    {Family::Place, QT_TRANSLATE_NOOP("ShapeFilter", "straight"),
     [](const Machine& m) { return m.facts().linear; }},
    {Family::Drive, QT_TRANSLATE_NOOP("ShapeFilter", "magnets"),
     [](const Machine& m) { return m.facts().magnets; }},
    {Family::Drive, QT_TRANSLATE_NOOP("ShapeFilter", "reluctance"),
     [](const Machine& m) { return m.facts().wound && !m.facts().magnets && !m.facts().induced; }},
    {Family::Drive, QT_TRANSLATE_NOOP("ShapeFilter", "switched"),
     [](const Machine& m) { return m.facts().switched; }},
    {Family::Drive, QT_TRANSLATE_NOOP("ShapeFilter", "cage"), [](const Machine& m) { return m.facts().cage; }},
};

} // namespace

ShapeFilter::ShapeFilter(QWidget* parent)
    : QWidget(parent)
    , m_families(new QBoxLayout(QBoxLayout::LeftToRight, this)) {
    setObjectName(QStringLiteral("chips"));
    m_families->setContentsMargins(0, 0, 0, 0);
    m_families->setSpacing(6);
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    QHBoxLayout* row = nullptr;
    for (const Chip& chip : chips) {
        if (m_chips.empty() || chip.family != chips[m_chips.size() - 1].family) {
            row = new QHBoxLayout;
            row->setSpacing(4);
            m_families->addLayout(row);
        }
        auto* button = new QPushButton(tr(chip.words), this);
        button->setObjectName(QStringLiteral("start_filter:") + QLatin1String(chip.words));
        button->setCheckable(true);
        button->setProperty("narrow", true);
        connect(button, &QPushButton::toggled, this, &ShapeFilter::changed);
        row->addWidget(button);
        m_chips.push_back(button);
    }
    m_families->addStretch(1);
}

void ShapeFilter::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    int needed = 0;
    for (const QPushButton* chip : m_chips) needed += chip->sizeHint().width() + 6;
    m_families->setDirection(width() < needed ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

bool ShapeFilter::passes(const Machine& machine) const {
    for (Family family : {Family::Place, Family::Drive}) {
        bool is_asked = false, holds = false;
        for (std::size_t i = 0; i < m_chips.size(); ++i) {
            if (chips[i].family != family || !m_chips[i]->isChecked()) continue;
            is_asked = true;
            holds = holds || chips[i].holds(machine);
        }
        if (is_asked && !holds) return false;
    }
    return true;
}

QString family_of(const Machine& machine) {
    const Facts facts = machine.facts();
    if (facts.linear) return ShapeFilter::tr("Straight");
    if (facts.axial) return ShapeFilter::tr("Discs");
    if (facts.cage) return ShapeFilter::tr("Cages");
    if (!facts.wound) return ShapeFilter::tr("For checks");
    if (facts.magnets)
        return machine.outer_rotor() ? ShapeFilter::tr("Magnets, rotor outside")
                                     : ShapeFilter::tr("Magnets, rotor inside");
    return ShapeFilter::tr("Reluctance");
}

} // namespace mavlo::app
