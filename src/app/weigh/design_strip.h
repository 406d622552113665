#pragma once
// Designs in a row as small pictures with a word under each; a click or the arrow keys take one.

#include "shell/document.h"

#include <QScrollArea>
#include <optional>
#include <vector>

namespace mavlo::app {

struct StripDesign {
    Design design;
    QString caption;     ///< under the picture
    bool marked = false; ///< stands out: of the front, the base
};

class DesignStripRow;

class DesignStrip : public QScrollArea {
    Q_OBJECT
  public:
    explicit DesignStrip(QWidget* parent = nullptr);

    void show_designs(const Project& project, std::vector<StripDesign> designs);
    void pick(std::optional<std::size_t> index); ///< marks it and brings it into view
    std::optional<std::size_t> picked() const;
    QRect place_of(std::size_t index) const; ///< in the row's pixels
    QWidget* row() const;

  Q_SIGNALS:
    void design_picked(std::size_t index);

  private:
    DesignStripRow* m_row;
};

} // namespace mavlo::app
