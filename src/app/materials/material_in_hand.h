#pragma once
// The material that the shelf shows: one of the project's own, or one of the shelf's, which is read-only.

#include "project/project_materials.h"
#include "shell/document.h"

namespace mavlo::app {

class MaterialInHand : public QObject {
    Q_OBJECT
  public:
    explicit MaterialInHand(Document& document, QObject* parent = nullptr);

    Document& document() const { return m_document; }
    const std::string& name() const { return m_name; }
    /// Null where the project has lost it, as an undo may do.
    const Material* material() const;
    bool is_own() const { return m_document.project().materials.contains(m_name); }
    void choose(const std::string& name);
    void follow_rename(const std::string& name) { m_name = name; } ///< before the project's change is told
    /// Takes the changed record into the project, as one step to undo. Only of own ones.
    void put(const Material& changed, const QString& label);

  Q_SIGNALS:
    void changed(); ///< another material, or another value of it

  private:
    Document& m_document;
    std::string m_name;
};

} // namespace mavlo::app
