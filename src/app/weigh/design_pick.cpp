#include "weigh/design_pick.h"

#include "shell/changed_dimensions.h"

#include <QHBoxLayout>
#include <QVBoxLayout>
#include <fmt/format.h>

namespace mavlo::app {

DesignPick::DesignPick(Document& document, const QString& prefix, const QString& kept, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_kept(kept)
    , m_picture(new DesignPicture(this))
    , m_words(new QLabel(this))
    , m_keep(new QPushButton(tr("Keep as variant"), this)) {
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    m_picture->setFixedSize(150, 150);
    layout->addWidget(m_picture);
    auto* column = new QVBoxLayout;
    m_words->setObjectName(prefix + QStringLiteral("_picked"));
    m_words->setWordWrap(true);
    m_words->setTextInteractionFlags(Qt::TextSelectableByMouse);
    column->addWidget(m_words, 1);
    m_keep->setObjectName(prefix + QStringLiteral("_keep"));
    column->addWidget(m_keep, 0, Qt::AlignLeft);
    layout->addLayout(column, 1);
    connect(m_keep, &QPushButton::clicked, this, &DesignPick::keep);
    hide();
}

void DesignPick::show_design(const Design& design, const QStringList& figures) {
    m_design = design;
    m_picture->show_design(m_document.project(), design);
    const QStringList changes = changed_dimensions(m_document.design(), design);
    QStringList lines{changes.isEmpty() ? tr("as the variant in hand") : changes.join(QStringLiteral(", "))};
    m_words->setText((lines + figures).join(QLatin1Char('\n')));
    m_keep->setEnabled(!changes.isEmpty());
    show();
}

void DesignPick::keep() {
    m_document.change(tr("keep a design as variant"), [&](Project& project) {
        Variant variant;
        for (int n = 1; variant.name.empty() || project.find(variant.name); ++n)
            variant.name = fmt::format("{} {}", m_kept.toStdString(), n);
        variant.design = m_design;
        project.active = variant.name;
        project.variants.push_back(std::move(variant));
    });
}

} // namespace mavlo::app
