#include "start/shape_filter.h"

#include <QBoxLayout>
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
    {Family::Place, QT_TRANSLATE_NOOP("mavlo::app::ShapeFilter", "rotor inside"),
     [](const Machine& m) { return !is_flat(m.facts()) && !m.outer_rotor(); }},
    {Family::Place, QT_TRANSLATE_NOOP("mavlo::app::ShapeFilter", "outside"),
     [](const Machine& m) { return !is_flat(m.facts()) && m.outer_rotor(); }},
    {Family::Place, QT_TRANSLATE_NOOP("mavlo::app::ShapeFilter", "disc"),
     [](const Machine& m) { return m.facts().axial; }},
    {Family::Place, QT_TRANSLATE_NOOP("mavlo::app::ShapeFilter", "straight"),
     [](const Machine& m) { return m.facts().linear; }},
    {Family::Drive, QT_TRANSLATE_NOOP("mavlo::app::ShapeFilter", "magnets"),
     [](const Machine& m) { return m.facts().magnets; }},
    {Family::Drive, QT_TRANSLATE_NOOP("mavlo::app::ShapeFilter", "reluctance"),
     [](const Machine& m) { return m.facts().wound && !m.facts().magnets && !m.facts().induced; }},
    {Family::Drive, QT_TRANSLATE_NOOP("mavlo::app::ShapeFilter", "switched"),
     [](const Machine& m) { return m.facts().switched; }},
    {Family::Drive, QT_TRANSLATE_NOOP("mavlo::app::ShapeFilter", "cage"),
     [](const Machine& m) { return m.facts().cage; }},
};

} // namespace

ShapeFilter::ShapeFilter(QWidget* parent)
    : QWidget(parent)
    , m_families(new FlowLayout(6, this)) {
    setObjectName(QStringLiteral("chips"));
    setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    QHBoxLayout* row = nullptr;
    for (const Chip& chip : chips) {
        if (m_chips.empty() || chip.family != chips[m_chips.size() - 1].family) {
            auto* family = new QWidget(this);
            row = new QHBoxLayout(family);
            row->setContentsMargins(0, 0, 0, 0);
            row->setSpacing(4);
            m_families->addWidget(family);
        }
        auto* button = new QPushButton(tr(chip.words), row->parentWidget());
        button->setObjectName(QStringLiteral("start_filter:") + QLatin1String(chip.words));
        button->setCheckable(true);
        button->setProperty("narrow", true);
        connect(button, &QPushButton::toggled, this, &ShapeFilter::changed);
        row->addWidget(button);
        m_chips.push_back(button);
    }
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
