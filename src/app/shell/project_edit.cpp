#include "shell/project_edit.h"

namespace mavlo::app {
namespace {

double bytes_of(const std::map<std::string, std::string>& texts) {
    double bytes = 0;
    for (const auto& [key, text] : texts) bytes += double(key.size() + text.size() + 96);
    return bytes;
}

double bytes_of(const Project& project) {
    double bytes = 4096 + bytes_of(project.material_texts) * 4 + bytes_of(project.unknown);
    for (const Variant& variant : project.variants) {
        const Design& design = variant.design;
        bytes += 512 + bytes_of(design.texts) + bytes_of(variant.unknown) + bytes_of(design.circuits) +
                 double(design.coils.size() * sizeof(Coil));
        for (const auto& [side, part] : design.drawings)
            bytes +=
                double(part.pieces.size() * sizeof(Piece) + part.regions.size() * sizeof(DrawnPart::Region));
        bytes += 400.0 * double(design.shapes.size() + design.dimensions.size());
    }
    return bytes;
}

} // namespace

ProjectEdit::ProjectEdit(Show show, const QString& label, SharedProject before, SharedProject after,
                         int gesture)
    : QUndoCommand(label)
    , m_show(std::move(show))
    , m_before(std::move(before))
    , m_after(std::move(after))
    , m_gesture(gesture)
    , m_bytes(bytes_of(*m_before)) {}

bool ProjectEdit::mergeWith(const QUndoCommand* next) {
    const auto* other = static_cast<const ProjectEdit*>(next);
    if (other->m_gesture != m_gesture) return false;
    m_after = other->m_after;
    return true;
}

void ProjectEdit::forget() {
    m_before.reset();
    m_after.reset();
    m_bytes = 0;
    setObsolete(true);
}

void bound_history(QUndoStack& history, double most) {
    double bytes = 0;
    for (int k = history.count() - 1; k >= 0; --k) {
        // The stack gives its commands as const; what it holds is ours.
        auto* edit = static_cast<ProjectEdit*>(const_cast<QUndoCommand*>(history.command(k)));
        bytes += edit->bytes();
        if (bytes > most && k < history.index() && !edit->isObsolete()) edit->forget();
    }
}

} // namespace mavlo::app
