#pragma once
// The winding unrolled: slots in a row, coil sides in their phase's colour, coils as arches above.

#include "shell/document.h"

#include <QWidget>

namespace mavlo::app {

class Belt : public QWidget {
    Q_OBJECT
  public:
    explicit Belt(Document& document, QWidget* parent = nullptr);

  protected:
    void paintEvent(QPaintEvent* event) override;
    QSize sizeHint() const override { return {900, 132}; }

  private:
    Document& m_document;
};

} // namespace mavlo::app
