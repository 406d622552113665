#include "shell/first_steps.h"

#include "shell/theme.h"

#include <QHBoxLayout>
#include <QMouseEvent>
#include <QVBoxLayout>
#include <algorithm>

namespace mavlo::app {
namespace {
constexpr int look_every = 300; // ms
constexpr double turned = 1e-3; // rad
} // namespace

FirstSteps::FirstSteps(Desk& desk, StepsSurroundings surroundings, QWidget* parent)
    : QFrame(parent)
    , m_desk(desk)
    , m_at(std::move(surroundings))
    , m_progress(new QLabel(this)) {
    setObjectName(QStringLiteral("first_steps"));
    setAutoFillBackground(true);
    setFixedWidth(312);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(14, 10, 10, 12);
    layout->setSpacing(1);
    auto* head = new QHBoxLayout;
    auto* title = new QLabel(tr("First steps"), this);
    title->setProperty("title", true);
    head->addWidget(title, 1);
    auto* close = new QPushButton(QStringLiteral("×"), this);
    close->setObjectName(QStringLiteral("first_steps_close"));
    close->setProperty("flat", true);
    close->setToolTip(tr("Puts the steps away; the project's menu brings them back"));
    close->setAccessibleName(close->toolTip());
    connect(close, &QPushButton::clicked, this, &QWidget::hide);
    head->addWidget(close);
    layout->addLayout(head);
    m_progress->setProperty("soft", true);
    layout->addWidget(m_progress);
    add_drawing_steps();
    add_asking_steps();
    m_timer.setInterval(look_every);
    connect(&m_timer, &QTimer::timeout, this, &FirstSteps::look);
    connect(&desk.jobs, &Jobs::changed, this, [this] { m_asked = m_asked || !m_desk.jobs.states().empty(); });
    connect(&desk, &Desk::vary_wanted, this, [this] { m_varied = true; });
    hide();
}

void FirstSteps::add(const QString& words, const char* bench, std::function<bool()> is_done) {
    auto* row = new QPushButton(this);
    row->setProperty("flat", true);
    row->setStyleSheet(QStringLiteral("text-align: left"));
    row->setObjectName(QStringLiteral("first_step:%1").arg(m_steps.size()));
    row->setToolTip(tr("A click goes to the bench where it is done"));
    connect(row, &QPushButton::clicked, this, [this, to = std::string(bench)] { m_at.show_bench(to); });
    layout()->addWidget(row);
    m_steps.push_back({words, std::move(is_done), false, row});
}

void FirstSteps::add_drawing_steps() {
    Document& document = m_desk.document;
    add(tr("Turn the rotor by the ring round it"), "draw",
        [this] { return std::abs(m_desk.section.angle()) > turned; });
    add(tr("Take a magnet in hand with a click"), "draw",
        [this] { return !m_desk.section.selected().empty(); });
    add(tr("Look closer with a double click"), "draw", [this] { return m_desk.section.is_close_up(); });
    add(tr("Drag a dimension"), "draw", [this, &document] { return !(document.design() == m_design); });
    add(tr("Undo it (Ctrl+Z)"), "draw", [&document] { return document.undo_stack().canRedo(); });
    add(tr("Colour the flux density"), "draw",
        [this] { return m_at.bench() == "draw" && m_desk.section.overlays().has("flux density"); });
    add(tr("See the coils on Wind"), "wind", [this] { return m_at.bench() == "wind"; });
    add(tr("Look into the gap on Probe"), "probe", [this] { return m_at.bench() == "probe"; });
}

void FirstSteps::add_asking_steps() {
    Document& document = m_desk.document;
    add(tr("Ask for the cogging torque"), "ask", [this] { return m_asked; });
    add(tr("Vary the gap (right button on it)"), "draw", [this] { return m_varied; });
    add(tr("Make a variant (menu by the name)"), "draw",
        [this, &document] { return document.project().variants.size() > m_variants; });
    add(tr("Weigh both"), "weigh", [this, &document] {
        return m_at.bench() == "weigh" && document.project().variants.size() > m_variants;
    });
    add(tr("Save it as your own (Ctrl+Shift+S)"), "draw",
        [this, &document] { return !document.file().isEmpty() && document.file() != m_file; });
}

void FirstSteps::begin() {
    m_design = m_desk.document.design();
    m_file = m_desk.document.file();
    m_variants = m_desk.document.project().variants.size();
    m_asked = m_varied = false;
    for (Step& step : m_steps) step.done = false;
    m_desk.section.set_selected({});
    show_progress();
    show();
    raise();
    m_timer.start();
}

/// What was done once stays done.
void FirstSteps::look() {
    if (!isVisible()) return m_timer.stop();
    const int before = done();
    for (Step& step : m_steps) step.done = step.done || step.is_done();
    if (done() != before) show_progress();
}

int FirstSteps::done() const {
    return int(std::count_if(m_steps.begin(), m_steps.end(), [](const Step& step) { return step.done; }));
}

void FirstSteps::show_progress() {
    for (const Step& step : m_steps) {
        step.row->setText((step.done ? QStringLiteral("✓  ") : QStringLiteral("○  ")) + step.words);
        step.row->setAccessibleDescription(step.done ? tr("done") : tr("not done yet"));
    }
    m_progress->setText(done() == count()
                            ? tr("All done. The benches have more: F1 explains what is under the cursor.")
                            : tr("%1 of %2 done").arg(done()).arg(count()));
    setStyleSheet(QStringLiteral("#first_steps { background: %1; border: 1px solid %2; border-radius: 8px; }")
                      .arg(theme().sheet.name(), theme().line.name()));
    adjustSize();
}

void FirstSteps::mousePressEvent(QMouseEvent* event) {
    m_grabbed = event->pos();
}

/// Moved by its ground, within the window.
void FirstSteps::mouseMoveEvent(QMouseEvent* event) {
    if (!(event->buttons() & Qt::LeftButton)) return;
    const QPoint to = mapToParent(event->pos() - m_grabbed);
    const QSize room = parentWidget()->size() - size();
    move(std::clamp(to.x(), 0, std::max(0, room.width())), std::clamp(to.y(), 0, std::max(0, room.height())));
}

} // namespace mavlo::app
