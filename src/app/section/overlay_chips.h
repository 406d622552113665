#pragma once
// The chips over the section: one for each overlay that the bench in use offers.

#include "section/overlay.h"
#include "shell/flow_layout.h"

#include <QPushButton>
#include <QWidget>
#include <map>

namespace mavlo::app {

class OverlayChips : public QWidget {
    Q_OBJECT
  public:
    explicit OverlayChips(QWidget* parent = nullptr);

    /// Shows the chips of a bench with what was last chosen there.
    void set_bench(const std::string& bench);
    const OverlaySet& chosen() const { return m_chosen.at(m_bench); }
    /// A bench's own chip, before the others; shown on that bench alone.
    QPushButton* add(const std::string& bench, const QString& text);

  Q_SIGNALS:
    void changed();
    void placed(); ///< in other rows than before

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void follow();
    void place(); ///< one after the other, in as many rows as the room needs
    static QPushButton* chip(const QString& text, QWidget* parent);

    struct Chip {
        const Overlay* overlay;
        QPushButton* button;
    };
    struct OwnChip {
        std::string bench;
        QPushButton* button;
    };
    FlowLayout* m_rows;
    std::vector<Chip> m_chips;
    std::vector<OwnChip> m_own;
    std::map<std::string, OverlaySet> m_chosen; ///< by bench
    std::string m_bench;
};

} // namespace mavlo::app
