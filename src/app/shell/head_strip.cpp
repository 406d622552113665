#include "shell/head_strip.h"

#include "shell/bench.h"
#include "shell/new_variant.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QFileInfo>
#include <QHBoxLayout>
#include <QPainter>

namespace mavlo::app {

void BenchButton::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    QFont font = figure_font(14);
    font.setWeight(isChecked() ? QFont::DemiBold : QFont::Normal);
    painter.setFont(font);
    painter.setPen(isChecked() ? t.accent : underMouse() || hasFocus() ? t.accent : t.ink);
    painter.drawText(rect(), Qt::AlignCenter, text());
    if (isChecked()) painter.fillRect(QRect(12, height() - 3, width() - 24, 3), t.accent);
}

ActivityPill::ActivityPill(Jobs& questions, Jobs& key_figures, QWidget* parent)
    : QPushButton(parent)
    , m_questions(questions)
    , m_key_figures(key_figures)
    , m_menu(new QMenu(this)) {
    setObjectName(QStringLiteral("activity"));
    setAccessibleName(tr("What is being computed"));
    setFixedSize(196, 26);
    setMenu(m_menu);
    setToolTip(tr("What is being computed; click for the queue."));
    connect(m_menu, &QMenu::aboutToShow, this, &ActivityPill::fill_menu);
    connect(&questions, &Jobs::changed, this, &ActivityPill::follow);
    connect(&key_figures, &Jobs::changed, this, &ActivityPill::follow);
    follow();
}

void ActivityPill::follow() {
    auto states = m_questions.states();
    const auto figures = m_key_figures.states();
    states.insert(states.end(), figures.begin(), figures.end());
    m_busy = !states.empty();
    m_share = 0;
    m_text = tr("nothing is being computed");
    if (m_busy) {
        const auto& first = states.front();
        m_text = first.name;
        if (first.total > 0) {
            m_share = double(first.done) / first.total;
            m_text += QStringLiteral(" · %1 of %2").arg(first.done).arg(first.total);
            if (first.paused)
                m_text += tr(" · paused");
            else if (first.done > 0)
                m_text += QStringLiteral(" · %1 s").arg(first.seconds / first.done * (first.total - first.done),
                                                        0, 'f', 1);
        }
    }
    update();
}

void ActivityPill::fill_menu() {
    m_menu->clear();
    int count = 0;
    for (Jobs* jobs : {&m_questions, &m_key_figures})
        for (const auto& state : jobs->states()) {
            const QString text = state.running
                                     ? tr("Stop %1 (%2 of %3)").arg(state.name).arg(state.done).arg(state.total)
                                     : tr("Remove %1 (queued)").arg(state.name);
            connect(m_menu->addAction(text), &QAction::triggered, jobs,
                    [jobs, id = state.id] { jobs->stop(id); });
            if (state.running) {
                auto* pause = m_menu->addAction(state.paused ? tr("Go on with %1").arg(state.name)
                                                             : tr("Pause %1").arg(state.name));
                connect(pause, &QAction::triggered, jobs, [jobs, id = state.id, paused = state.paused] {
                    paused ? jobs->go_on(id) : jobs->pause(id);
                });
            }
            ++count;
        }
    if (count == 0) m_menu->addAction(tr("The queue is empty"))->setEnabled(false);
}

void ActivityPill::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QRectF box = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
    painter.setPen(QPen(hasFocus() ? t.accent : t.line, 1));
    painter.setBrush(t.field);
    painter.drawRoundedRect(box, 12, 12);
    if (m_busy && m_share > 0) {
        painter.save();
        painter.setClipRect(QRectF(box.left(), box.top(), box.width() * m_share, box.height()));
        painter.setPen(Qt::NoPen);
        painter.setBrush(t.tint(0.25));
        painter.drawRoundedRect(box, 12, 12);
        painter.restore();
    }
    painter.setFont(small_font());
    painter.setPen(m_busy ? t.ink : t.soft);
    painter.drawText(box.adjusted(10, 0, -10, 0), Qt::AlignCenter,
                     painter.fontMetrics().elidedText(m_text, Qt::ElideRight, int(box.width()) - 20));
}

HeadStrip::HeadStrip(Document& document, Jobs& questions, Jobs& key_figures, QMenu* project_menu,
                     QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_name(new QPushButton(this))
    , m_variant(new QPushButton(this))
    , m_variants(new QMenu(this)) {
    setFixedHeight(46);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(12, 0, 18, 0);
    layout->setSpacing(6);
    m_name->setProperty("flat", true);
    m_name->setObjectName(QStringLiteral("project"));
    m_name->setFont(figure_font(14));
    m_name->setFocusPolicy(Qt::TabFocus);
    m_name->setMenu(project_menu);
    m_name->setToolTip(tr("Project: open, save, recent files …"));
    m_variant->setObjectName(QStringLiteral("variant"));
    m_variant->setMenu(m_variants);
    m_variant->setToolTip(tr("The variant in hand"));
    connect(m_variants, &QMenu::aboutToShow, this, &HeadStrip::fill_variants);
    layout->addWidget(m_name);
    layout->addWidget(m_variant);
    layout->addStretch();
    int number = 0;
    for (const BenchKind& bench : registry<BenchKind>().all()) {
        auto* button = new BenchButton(spoken(bench.title), this);
        button->setObjectName(QStringLiteral("bench:") + QString::fromStdString(bench.name));
        button->setCheckable(true);
        button->setFixedSize(80, 46);
        button->setToolTip(tr("%1 (Ctrl+%2)").arg(spoken(bench.tells)).arg(++number));
        connect(button, &QPushButton::clicked, this, [this, name = bench.name] { Q_EMIT bench_chosen(name); });
        layout->addWidget(button);
        m_benches[bench.name] = button;
    }
    layout->addStretch();
    layout->addWidget(new ActivityPill(questions, key_figures, this));
    connect(&document, &Document::changed, this, &HeadStrip::follow_document);
    connect(&document, &Document::file_changed, this, &HeadStrip::follow_document);
    connect(&document.undo_stack(), &QUndoStack::cleanChanged, this, &HeadStrip::follow_document);
    follow_document();
}

void HeadStrip::set_bench(const std::string& bench) {
    for (const auto& [name, button] : m_benches) button->setChecked(name == bench);
}

void HeadStrip::follow_document() {
    const QString mark = m_document.undo_stack().isClean() ? QString() : QStringLiteral(" •");
    m_name->setText(
        fontMetrics().elidedText(QString::fromStdString(m_document.project().name), Qt::ElideRight, 190) +
        mark);
    m_variant->setText(
        fontMetrics().elidedText(QString::fromStdString(m_document.variant().name), Qt::ElideRight, 110) +
        QStringLiteral(" ▾"));
}

void HeadStrip::fill_variants() {
    m_variants->clear();
    const Project& project = m_document.project();
    for (const Variant& variant : project.variants) {
        const QString name = QString::fromStdString(variant.name);
        auto* action =
            m_variants->addAction(name + (variant.name == project.reference ? tr("  (reference)") : QString()));
        action->setCheckable(true);
        action->setChecked(variant.name == project.active);
        connect(action, &QAction::triggered, this, [this, name] { m_document.choose_variant(name); });
    }
    m_variants->addSeparator();
    connect(m_variants->addAction(tr("New variant from this one …")), &QAction::triggered, this,
            [this] { make_variant(m_document, window()); });
    const QString active = QString::fromStdString(project.active);
    auto* reference = m_variants->addAction(tr("Compare the others with this one"));
    reference->setEnabled(project.reference != project.active);
    connect(reference, &QAction::triggered, this, [this, active] { m_document.set_reference(active); });
    auto* remove = m_variants->addAction(tr("Remove this variant"));
    remove->setEnabled(project.variants.size() > 1);
    connect(remove, &QAction::triggered, this, [this, active] { m_document.remove_variant(active); });
}

void HeadStrip::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().sheet);
    painter.setPen(theme().line);
    painter.drawLine(0, height() - 1, width(), height() - 1);
}

} // namespace mavlo::app
