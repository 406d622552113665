#pragma once
// Steps of the history: the project before and after each.

#include "project/project.h"

#include <QUndoCommand>
#include <QUndoStack>
#include <functional>
#include <memory>

namespace mavlo::app {

/// Neighbouring steps share the project that lies between them.
using SharedProject = std::shared_ptr<const Project>;

class ProjectEdit : public QUndoCommand {
  public:
    using Show = std::function<void(const SharedProject&)>;
    ProjectEdit(Show show, const QString& label, SharedProject before, SharedProject after, int gesture);

    int id() const override { return m_gesture ? 1 : -1; }
    void undo() override { m_show(m_before); }
    void redo() override { m_show(m_after); }
    bool mergeWith(const QUndoCommand* next) override;
    double bytes() const { return m_bytes; } ///< about, of what it keeps
    void forget();                           ///< it can no longer be undone

  private:
    Show m_show;
    SharedProject m_before, m_after;
    int m_gesture;
    double m_bytes; ///< counted once: the history is looked through at each edit
};

/// Forgets the oldest steps where the history keeps more than this, in bytes.
void bound_history(QUndoStack& history, double most = 256e6);

} // namespace mavlo::app
