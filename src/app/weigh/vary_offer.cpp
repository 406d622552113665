#include "weigh/vary_offer.h"

#include "quantity/quantity.h"
#include "question/words.h"
#include "shell/spoken.h"

#include <QLabel>
#include <QVBoxLayout>
#include <algorithm>

namespace mavlo::app {
namespace {

constexpr int most_offered = 14, across = 2;

/// What is no mark of the section but moves most: at the head.
constexpr const char* always[] = {"gap", "machine.stack_length", "winding.turns", "rating.current"};

/// A depth is a slot's or a pocket's.
QString words_with_place(const Parameter& p) {
    const QString label = spoken(p.label), group = spoken(p.group);
    const bool told = group.isEmpty() || group == QStringLiteral("Stack") ||
                      label.contains(group, Qt::CaseInsensitive) || p.page == p.group;
    return told ? label : group + QStringLiteral(": ") + label.left(1).toLower() + label.mid(1);
}

/// Dimensions of the section and what goes with them, each once, as far as they are numbers.
std::vector<const Parameter*> offered(const DrawnMachine& built) {
    std::vector<const Parameter*> list;
    const auto add = [&](const std::string& path) {
        const Parameter* p = find_parameter(path, built.design);
        if (p && !p->is_word() && built.machine.values.has(path) && list.size() < most_offered &&
            std::find(list.begin(), list.end(), p) == list.end())
            list.push_back(p);
    };
    for (const char* path : always) add(path);
    for (const DimensionMark& mark : built.machine.marks) add(mark.path);
    return list;
}

} // namespace

VaryOffer::VaryOffer(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_picture(new DesignPicture(this))
    , m_grid(new QGridLayout) {
    setObjectName(QStringLiteral("vary_offer"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 0, 20, 0);
    layout->setSpacing(10);
    auto* title = new QLabel(tr("What shall vary?"), this);
    title->setProperty("title", true);
    layout->addWidget(title);
    auto* words = new QLabel(
        tr("A click takes a dimension. The right button does the same on the drawing and on the sheet; "
           "families of curves, figures and maps will stand here."),
        this);
    words->setProperty("soft", true);
    words->setWordWrap(true);
    layout->addWidget(words);
    m_picture->setMinimumHeight(180);
    layout->addWidget(m_picture, 1);
    m_grid->setSpacing(6);
    layout->addLayout(m_grid);
    connect(&document, &Document::changed, this, &VaryOffer::follow_document);
}

void VaryOffer::showEvent(QShowEvent*) {
    follow_document();
}

void VaryOffer::follow_document() {
    const auto built = m_document.built();
    if (!isVisible() || !built) return;
    m_picture->show_built(built);
    qDeleteAll(m_buttons);
    m_buttons.clear();
    for (const Parameter* p : offered(*built)) {
        const std::string now = text_for(*p, built->machine.values.number(p->path), 4);
        auto* button = new QPushButton(
            QStringLiteral("%1  %2").arg(words_with_place(*p), QString::fromStdString(now)), this);
        button->setObjectName(QString::fromStdString("vary_offer:" + p->path));
        button->setProperty("narrow", true);
        button->setToolTip(spoken(p->help));
        connect(button, &QPushButton::clicked, this, [this, path = p->path] { Q_EMIT vary_wanted(path); });
        m_grid->addWidget(button, int(m_buttons.size()) / across, int(m_buttons.size()) % across);
        m_buttons.push_back(button);
        button->show();
    }
}

} // namespace mavlo::app
