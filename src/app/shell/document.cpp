#include "shell/document.h"

#include "question/question.h"
#include "shell/kept_folders.h"
#include "shell/spoken.h"
#include "shell/typed_number.h"
#include "storage/file.h"

#include <QFileInfo>

namespace mavlo::app {

namespace {

constexpr int journal_after = 500; ///< ms

/// Of what a project's file says; empty where it cannot be read.
std::string hash_of_file(const QString& file) {
    const auto text = read_file(file.toStdString());
    return text ? sha256(*text) : std::string();
}

} // namespace

std::shared_ptr<const DrawnMachine> build_design(const Project& project, const Design& design,
                                                 Problems& problems) {
    auto built = build(design, project.materials);
    if (!built) {
        problems = built.problems();
        return nullptr;
    }
    auto drawn = std::make_shared<DrawnMachine>(DrawnMachine{std::move(*built), {}});
    drawn->drawing = make_drawing(drawn->machine);
    return drawn;
}

Document::Document(QObject* parent)
    : QObject(parent)
    , m_journal(journal_folder()) {
    m_journal_delay.setSingleShot(true);
    m_journal_delay.setInterval(journal_after);
    connect(&m_journal_delay, &QTimer::timeout, this, &Document::write_journal);
    open_new(QStringLiteral("surface"));
}

Document::~Document() {
    m_undo.disconnect(this);
    std::error_code error;
    for (const auto& folder : m_scratch) std::filesystem::remove_all(folder, error);
}

double Document::value(const std::string& path) const {
    return m_values.has(path) ? m_values.number(path) : 0;
}

void Document::begin(SharedProject project, const QString& file, AnswerStore answers) {
    ++m_generation;
    m_journal_delay.stop();
    m_journal.forget();
    m_file = file;
    m_file_hash = file.isEmpty() ? std::string() : hash_of_file(file);
    m_answers = std::move(answers);
    if (m_file.isEmpty()) m_scratch.push_back(m_answers.folder());
    m_built = nullptr;
    m_undo.clear();
    m_undo.setClean();
    show(project);
    Q_EMIT opened();
    Q_EMIT file_changed();
}

void Document::open_new(const QString& shape, int slots, int poles) {
    if (auto project = new_project(shape.toStdString())) {
        auto& texts = project->variants.front().design.texts;
        if (slots > 0) texts["stator.slots"] = std::to_string(slots);
        if (poles > 0) texts["rotor.poles"] = std::to_string(poles);
        begin(std::make_shared<const Project>(std::move(*project)), {},
              AnswerStore::in_folder(scratch_folder()));
    }
}

int Document::next_gesture() {
    static int counter = 0;
    return ++counter;
}

void Document::open_design(const QString& name, const Design& design) {
    auto project = std::make_shared<Project>();
    project->name = name.toStdString();
    project->variants.front().design = design;
    begin(std::move(project), {}, AnswerStore::in_folder(scratch_folder()));
}

std::optional<Problem> Document::open(const QString& file) {
    auto project = read_project(file.toStdString());
    if (!project) return project.problems().front();
    const QString whole = QFileInfo(file).absoluteFilePath();
    begin(std::make_shared<const Project>(std::move(*project)), whole, AnswerStore(whole.toStdString()));
    return std::nullopt;
}

std::optional<Problem> Document::recover(const LeftBehind& left) {
    auto project = parse_project(left.project);
    if (!project) return project.problems().front();
    const QString file = QString::fromStdString(left.file.string());
    begin(std::make_shared<const Project>(std::move(*project)), file,
          file.isEmpty() && !left.answers.empty() ? AnswerStore::in_folder(left.answers)
                                                  : AnswerStore(left.file));
    m_undo.resetClean();
    write_journal();
    Journal::drop(left.journal);
    return std::nullopt;
}

std::optional<Problem> Document::save(const QString& file) {
    Project project = m_project;
    if (project.name == "New machine") project.name = QFileInfo(file).completeBaseName().toStdString();
    if (auto problem = save_project(project, file.toStdString())) return problem;
    const AnswerStore before = m_answers;
    const bool had_file = !m_file.isEmpty();
    m_file = QFileInfo(file).absoluteFilePath();
    m_file_hash = hash_of_file(m_file);
    m_answers = AnswerStore(m_file.toStdString());
    m_answers.take_over(before, had_file ? AnswerStore::Take::Answers : AnswerStore::Take::All);
    m_undo.setClean();
    m_journal_delay.stop();
    m_journal.forget();
    if (project.name != m_project.name) show(std::make_shared<const Project>(std::move(project)));
    Q_EMIT file_changed();
    return std::nullopt;
}

bool Document::is_changed_elsewhere() const {
    if (m_file.isEmpty() || !QFileInfo::exists(m_file)) return false;
    return hash_of_file(m_file) != m_file_hash;
}

std::optional<Problem> Document::keep(const Answer& answer, const Ask& ask) {
    if (m_file.isEmpty()) m_journal_delay.start();
    return m_answers.keep(answer, ask);
}

void Document::write_journal() {
    std::error_code error;
    const bool has_answers = m_file.isEmpty() && std::filesystem::exists(m_answers.folder(), error);
    if (m_undo.isClean() && !has_answers) return m_journal.forget();
    m_journal.write(
        {{}, project_text(m_project), m_project.name, m_file.toStdString(), m_answers.folder(), {}});
}

/// Words and names as they are, quantities with a point.
std::string Document::typed_text(const std::string& path, const QString& text) const {
    const Parameter* parameter = find_parameter(path, design());
    return parameter && parameter->is_word() ? text.toStdString() : typed_number(text);
}

std::optional<Problem> Document::set_text(const std::string& path, const QString& text, int gesture) {
    const auto changed_design = with_text(design(), path, typed_text(path, text), true);
    if (!changed_design) return changed_design.problems().front();
    if (*changed_design == design()) return std::nullopt;
    const Parameter* parameter = find_parameter(path, design());
    edit(
        tr("change %1").arg(spoken(parameter->label).toLower()),
        [&](Project& p) { p.find(p.in_hand().name)->design = *changed_design; }, gesture);
    return std::nullopt;
}

void Document::set_design(const QString& label, const Design& design, int gesture) {
    edit(
        label, [&](Project& p) { p.find(p.in_hand().name)->design = design; }, gesture);
}

void Document::add_variant(const QString& name) {
    const std::string wanted = name.trimmed().toStdString();
    if (wanted.empty() || m_project.find(wanted)) return;
    edit(tr("new variant"), [&](Project& p) {
        Variant copy = p.in_hand();
        copy.name = wanted;
        p.variants.push_back(copy);
        p.active = wanted;
    });
}

void Document::remove_variant(const QString& name) {
    if (m_project.variants.size() < 2) return;
    edit(tr("remove variant"), [&](Project& p) {
        std::erase_if(p.variants, [&](const Variant& v) { return v.name == name.toStdString(); });
        if (!p.find(p.active)) p.active = p.variants.front().name;
        if (!p.find(p.reference)) p.reference = p.variants.front().name;
    });
}

void Document::choose_variant(const QString& name) {
    if (m_project.active == name.toStdString() || !m_project.find(name.toStdString())) return;
    m_built = nullptr; // another variant's drawing is no ghost of this one
    edit(tr("go to variant"), [&](Project& p) { p.active = name.toStdString(); });
}

void Document::set_reference(const QString& name) {
    edit(tr("set reference"), [&](Project& p) { p.reference = name.toStdString(); });
}

void Document::edit(const QString& label, const std::function<void(Project&)>& change, int gesture) {
    Project after = m_project;
    change(after);
    if (after == m_project) return;
    m_undo.push(new ProjectEdit([this](const SharedProject& project) { show(project); }, label, m_shared,
                                std::make_shared<const Project>(std::move(after)), gesture));
    bound_history(m_undo);
}

void Document::show(const SharedProject& project) {
    m_shared = project;
    m_project = *project;
    rebuild();
    if (!m_journal_delay.isActive()) m_journal_delay.start();
    Q_EMIT changed();
}

const Parameter* Document::used(const std::string& path) const {
    const auto found = m_used.find(path);
    return found == m_used.end() ? nullptr : found->second;
}

void Document::rebuild() {
    m_problems.clear();
    if (auto values = resolve(design())) m_values = std::move(*values);
    m_used.clear();
    for (const Parameter* parameter : used_parameters(design())) m_used.emplace(parameter->path, parameter);
    if (auto built = build_design(m_project, design(), m_problems)) m_built = built;
    Problems ignored;
    if (m_project.reference == m_project.active)
        m_reference = m_problems.empty() ? m_built : nullptr;
    else if (const Variant* reference = m_project.find(m_project.reference))
        if (!m_reference || m_reference->design != reference->design ||
            m_reference->materials != m_project.materials)
            m_reference = build_design(m_project, reference->design, ignored);
}

} // namespace mavlo::app
