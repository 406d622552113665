#pragma once
// The material of the part in hand, named on it and changed there.

#include "shell/document.h"

#include <QComboBox>

namespace mavlo::app {

class PartMaterial : public QComboBox {
    Q_OBJECT
  public:
    PartMaterial(Document& document, QWidget* parent);
    /// Beside a click on the part; `path` names the parameter with its material (empty: air, nothing is shown).
    void show_at(QPointF click, const std::string& path);

  private:
    void refresh();
    Document& m_document;
    std::string m_path;
};

} // namespace mavlo::app
