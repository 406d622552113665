#include "shell/document.h"

#include "question/question.h"

#include <QFileInfo>
#include <QUndoCommand>

namespace mavlo::app {

/// One step of the history: the project before and after.
class ProjectEdit : public QUndoCommand {
  public:
    ProjectEdit(Document& document, const QString& label, Project before, Project after, int gesture)
        : QUndoCommand(label)
        , m_document(document)
        , m_before(std::move(before))
        , m_after(std::move(after))
        , m_gesture(gesture) {}
    int id() const override { return m_gesture ? 1 : -1; }
    void undo() override { m_document.show(m_before); }
    void redo() override { m_document.show(m_after); }
    bool mergeWith(const QUndoCommand* next) override {
        const auto* other = static_cast<const ProjectEdit*>(next);
        if (other->m_gesture != m_gesture) return false;
        m_after = other->m_after;
        return true;
    }

  private:
    Document& m_document;
    Project m_before, m_after;
    int m_gesture;
};

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
    : QObject(parent) {
    open_new(QStringLiteral("surface"));
}

double Document::value(const std::string& path) const {
    return m_values.has(path) ? m_values.number(path) : 0;
}

void Document::forget_history() {
    m_undo.clear();
    m_undo.setClean();
}

void Document::open_new(const QString& shape, int slots, int poles) {
    if (auto project = new_project(shape.toStdString())) {
        auto& texts = project->variants.front().design.texts;
        if (slots > 0) texts["stator.slots"] = std::to_string(slots);
        if (poles > 0) texts["rotor.poles"] = std::to_string(poles);
        m_file.clear();
        m_answers = AnswerStore();
        m_built = nullptr;
        forget_history();
        show(*project);
        Q_EMIT file_changed();
    }
}

std::optional<Problem> Document::open(const QString& file) {
    auto project = read_project(file.toStdString());
    if (!project) return project.problems().front();
    m_file = QFileInfo(file).absoluteFilePath();
    m_answers = AnswerStore(m_file.toStdString());
    m_built = nullptr;
    forget_history();
    show(*project);
    Q_EMIT file_changed();
    return std::nullopt;
}

std::optional<Problem> Document::save(const QString& file) {
    Project project = m_project;
    if (project.name == "New machine") project.name = QFileInfo(file).completeBaseName().toStdString();
    if (auto problem = write_project(project, file.toStdString())) return problem;
    m_file = QFileInfo(file).absoluteFilePath();
    m_answers = AnswerStore(m_file.toStdString());
    m_undo.setClean();
    if (project.name != m_project.name) show(project);
    Q_EMIT file_changed();
    return std::nullopt;
}

std::optional<Problem> Document::set_text(const std::string& path, const QString& text, int gesture) {
    const auto changed_design = with_text(design(), path, text.toStdString(), true);
    if (!changed_design) return changed_design.problems().front();
    if (*changed_design == design()) return std::nullopt;
    const Parameter* parameter = find_parameter(path, design());
    edit(
        tr("change %1").arg(QString::fromStdString(parameter->label).toLower()),
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
    m_undo.push(new ProjectEdit(*this, label, m_project, std::move(after), gesture));
}

void Document::show(const Project& project) {
    m_project = project;
    rebuild();
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
