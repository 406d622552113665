#include "weigh/sweep_page.h"

#include "quantity/failure.h"
#include "weigh/heading.h"
#include "weigh/study_shelf.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QStandardPaths>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

constexpr Sampled samplings[] = {Sampled::Grid, Sampled::Paired, Sampled::Sobol, Sampled::Latin};

bool takes_samples(Sampled sampling) {
    return sampling == Sampled::Sobol || sampling == Sampled::Latin;
}

QString seconds_words(double seconds) {
    return seconds < 90 ? QObject::tr("about %1 s").arg(std::max(1L, std::lround(seconds)))
                        : QObject::tr("about %1 min").arg(std::lround(seconds / 60));
}

} // namespace

SweepPage::SweepPage(Desk& desk, QWidget* parent)
    : QWidget(parent)
    , m_desk(desk)
    , m_vary(new VaryRows(desk.document, QStringLiteral("vary"), tr("0.8:1.2:5 mm, or 1, 2, 4 mm"),
                          VaryRows::Takes::Values))
    , m_sampling(new QComboBox)
    , m_quality(new QComboBox)
    , m_samples(new QSpinBox)
    , m_cluster(new QCheckBox(tr("on the cluster, as a job array")))
    , m_questions(new FigureWishes(desk.document, QStringLiteral("sweep_questions")))
    , m_price(new RefusalLabel)
    , m_run(new RunButtons(desk.jobs, tr("Run"), QStringLiteral("sweep")))
    , m_view(new SweepView(desk.document))
    , m_soon(new QTimer(this)) {
    setObjectName(QStringLiteral("sweep"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(28, 6, 28, 12);
    layout->setSpacing(24);
    layout->addWidget(make_setup());
    layout->addWidget(m_view, 1);
    m_soon->setSingleShot(true);
    m_soon->setInterval(250);
    connect(m_soon, &QTimer::timeout, this, &SweepPage::ask_price);
    const auto soon = [this] { m_soon->start(); };
    connect(m_vary, &VaryRows::changed, this, soon);
    connect(m_sampling, &QComboBox::currentIndexChanged, this, [this, soon](int index) {
        m_samples->setVisible(takes_samples(samplings[index]));
        soon();
    });
    connect(m_quality, &QComboBox::currentIndexChanged, this, soon);
    connect(m_samples, &QSpinBox::valueChanged, this, soon);
    connect(m_questions, &FigureWishes::changed, this, soon);
    connect(&desk.document, &Document::changed, this, [this, soon] {
        if (isVisible()) soon();
    });
    connect(m_view, &SweepView::vary_wanted, this, &SweepPage::vary);
    connect(m_run, &RunButtons::run_wanted, this, &SweepPage::run);
    connect(&desk.jobs, &Jobs::changed, this, &SweepPage::report_progress);
    connect(m_price, &RefusalLabel::place_wanted, &desk, &Desk::place_wanted);
}

QWidget* SweepPage::make_setup() {
    auto* setup = new QWidget(this);
    setup->setFixedWidth(300);
    auto* column = new QVBoxLayout(setup);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(heading(tr("Vary"), setup));
    column->addWidget(m_vary);
    m_sampling->setObjectName(QStringLiteral("sampling"));
    m_sampling->addItems({tr("every value with every other"), tr("side by side"), tr("samples, spread evenly"),
                          tr("samples, a Latin hypercube")});
    m_samples->setObjectName(QStringLiteral("samples"));
    m_samples->setRange(2, 10000);
    m_samples->setValue(32);
    m_samples->hide();
    m_quality->setObjectName(QStringLiteral("sweep_quality"));
    m_quality->addItems({tr("draft"), tr("normal"), tr("fine")});
    m_quality->setCurrentIndex(1);
    auto* how = new QHBoxLayout;
    how->addWidget(m_sampling, 1);
    how->addWidget(m_samples);
    column->addLayout(how);
    column->addWidget(heading(tr("To be known of each design"), setup));
    column->addWidget(m_questions);
    column->addStretch(1);
    auto* quality = new QHBoxLayout;
    quality->addWidget(heading(tr("Quality"), setup));
    quality->addWidget(m_quality, 1);
    column->addLayout(quality);
    m_price->setObjectName(QStringLiteral("sweep_price"));
    m_price->say(tr("Choose what varies; the price stands here before it runs."));
    column->addWidget(m_price);
    m_cluster->setObjectName(QStringLiteral("sweep_cluster"));
    m_cluster->setToolTip(tr("Slurm runs the designs; the answers are collected from the project's folder"));
    m_cluster->setVisible(!QStandardPaths::findExecutable(QStringLiteral("sbatch")).isEmpty());
    column->addWidget(m_cluster);
    column->addWidget(m_run);
    return setup;
}

Result<Study> SweepPage::study() const {
    Study study;
    study.base =
        ask_of(m_desk.document.project(), m_desk.document.variant(), quality_at(m_quality->currentIndex()));
    const auto variations = m_vary->variations();
    if (!variations) return variations.problems();
    for (const Variation& v : *variations) study.paths.push_back(v.path);
    auto settings = settings_of(*variations, samplings[m_sampling->currentIndex()], m_samples->value(), 1,
                                m_desk.document.design());
    if (!settings) return settings.problems();
    study.settings = std::move(*settings);
    study.questions = m_questions->chosen();
    if (study.questions.empty()) return Problem{"", "Say what shall be known of each design."};
    return study;
}

/// Beside the window: it solves one design's quick fields to know the pace.
void SweepPage::ask_price() {
    if (m_job != 0 || m_vary->texts().empty()) return;
    const auto wanted = study();
    if (!wanted) {
        m_price->show_problem(wanted.problems().front());
        m_run->allow(false);
        return;
    }
    if (m_pricing != 0) m_desk.jobs.stop(m_pricing);
    const auto shelf = shelf_of(m_desk.document.answers());
    auto price = std::make_shared<std::optional<Result<StudyPrice>>>();
    const int number = m_desk.jobs.submit(
        tr("price of the sweep"),
        [wanted = *wanted, shelf, price](const Watch& watch) {
            if (!watch.stop.stop_requested()) *price = study_price(wanted, {}, shelf, 0);
        },
        [this, price] {
            m_pricing = 0;
            if (*price) show_price(**price);
        });
    m_pricing = number;
}

void SweepPage::show_price(const Result<StudyPrice>& price) {
    m_run->allow(bool(price));
    if (!price) return m_price->show_problem(price.problems().front());
    QString text = tr("%1 designs, %2 questions").arg(price->designs).arg(m_questions->chosen().size());
    if (price->fields > 0) text += tr(", %1 fields, %2").arg(price->fields).arg(seconds_words(price->seconds));
    if (price->kept > 0)
        text += tr("; %1 of %2 answers are there already").arg(price->kept).arg(price->answers);
    if (price->failed > 0) text += tr("; %1 cannot be built").arg(price->failed);
    m_price->say(text + '.');
}

/// Nodes read the project from its file.
std::optional<SlurmJob> SweepPage::cluster_job(const Study& study) const {
    const Document& document = m_desk.document;
    if (!m_cluster->isChecked()) return std::nullopt;
    StudyCall call;
    call.program = (QCoreApplication::applicationDirPath() + QStringLiteral("/mavlo-cli")).toStdString();
    call.file = QFileInfo(document.file()).absoluteFilePath().toStdString();
    call.variant = document.variant().name;
    call.quality = to_string(study.base.quality);
    call.vary = m_vary->texts();
    for (const StudyQuestion& question : study.questions) call.ask.push_back(question.label);
    const Sampled sampling = samplings[m_sampling->currentIndex()];
    call.samples = takes_samples(sampling) ? m_samples->value() : 0;
    call.paired = sampling == Sampled::Paired;
    call.latin = sampling == Sampled::Latin;
    SlurmJob job;
    job.command = words_of(call);
    job.shards = int(std::min<std::size_t>(study.settings.size(), 64));
    job.folder = std::filesystem::absolute(document.answers().folder());
    for (const std::string& word : job.command) job.subject += word + ' ';
    return job;
}

namespace {

/// The array submitted and waited for; then nothing is left to solve but what failed.
Problems on_cluster(const SlurmJob& job, const Study& study, const AnswerShelf& shelf, const Watch& watch) {
    const auto number = submit(job, watch.stop);
    if (!number) return number.problems();
    const int total = int(study.settings.size() * study.questions.size());
    return follow_array(*number, study, shelf, watch.stop, [&](const SlurmState&, int answers) {
        if (watch.progress) watch.progress(answers, total);
    });
}

} // namespace

void SweepPage::run() {
    const auto wanted = study();
    if (!wanted) return m_price->show_problem(wanted.problems().front());
    const auto job = cluster_job(*wanted);
    if (job && (m_desk.document.file().isEmpty() || !m_desk.document.undo_stack().isClean()))
        return m_price->say(tr("Save the project first: the cluster's nodes read it from its file."));
    const auto shelf = shelf_of(m_desk.document.answers());
    const PointStore points(m_desk.document.answers().folder());
    auto rows = std::make_shared<std::vector<StudyRow>>();
    auto problems = std::make_shared<Problems>();
    m_job = m_desk.jobs.submit(
        tr("sweep"),
        [wanted = *wanted, shelf, points, rows, job, problems](const Watch& watch) {
            StudyRun run = study_run(watch, points);
            const auto work = [&]() -> Result<std::vector<StudyRow>> {
                if (job) *problems = on_cluster(*job, wanted, shelf, watch);
                run.collect = job.has_value();
                return run_study(wanted, {}, shelf, run);
            };
            auto found = guarded(work);
            if (found)
                *rows = std::move(*found);
            else
                *problems = found.problems();
        },
        [this, wanted = *wanted, rows, problems] {
            finished(wanted, std::move(*rows));
            if (!problems->empty() && !is_stopped(*problems)) m_price->show_problem(problems->front());
        });
    m_run->follow(m_job, !job); // the cluster goes on by itself
}

void SweepPage::finished(const Study& study, std::vector<StudyRow> rows) {
    m_job = 0;
    m_run->ended();
    int answered = 0;
    for (const StudyRow& row : rows)
        answered +=
            std::all_of(row.answers.begin(), row.answers.end(), [](const auto& a) { return a.has_value(); });
    m_price->say(answered == int(rows.size())
                     ? tr("%1 designs answered.").arg(answered)
                     : tr("%1 of %2 designs answered; the table says why others are not. Run again to go on.")
                           .arg(answered)
                           .arg(rows.size()));
    m_view->show_study(study, std::move(rows), m_questions->figures());
}

void SweepPage::report_progress() {
    if (m_job == 0) return;
    for (const Jobs::State& state : m_desk.jobs.states())
        if (state.id == m_job && state.paused)
            m_price->say(tr("Paused at %1 of %2 answers.").arg(state.done).arg(state.total));
        else if (state.id == m_job && state.running && state.done > 0)
            m_price->say(tr("%1 of %2 answers, %3 left")
                             .arg(state.done)
                             .arg(state.total)
                             .arg(seconds_words(state.seconds / state.done * (state.total - state.done))));
}

} // namespace mavlo::app
