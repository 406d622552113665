#pragma once
// One slot with its real conductors, to scale: whether they fit, and by how much not.

#include "machine/slot_space.h"
#include "shell/document.h"

#include <QWidget>

namespace mavlo::app {

class SlotView : public QWidget {
    Q_OBJECT
  public:
    explicit SlotView(Document& document, QWidget* parent = nullptr);
    /// "80 of 80 conductors lie in the slot; 135 would." or what does not fit.
    QString words() const { return m_words; }
    QSize sizeHint() const override { return {360, 230}; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void refresh();

    Document& m_document;
    std::vector<PackingSpace> m_spaces;
    SlotFilling m_filling;
    QString m_words;
    bool m_fresh = false;
};

} // namespace mavlo::app
