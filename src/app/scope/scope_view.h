#pragma once
// The scope: circuit, section and strips of a run in time, moved by one cursor.

#include "compute/live_field.h"
#include "scope/schematic.h"
#include "scope/strips.h"
#include "scope/time_bar.h"
#include "section/section_view.h"

#include <QLabel>
#include <QPushButton>
#include <QTimer>

namespace mavlo::app {

class ScopeView : public QWidget {
    Q_OBJECT
  public:
    explicit ScopeView(Document& document, QWidget* parent = nullptr);

    /// `fresh`: the answer is of the design as it stands, whose field can then be shown.
    void show_record(const TimeRecord& record, bool fresh);
    Strips& strips() { return *m_strips; }
    const Schematic& schematic() const { return *m_schematic; }
    const SectionView& section() const { return *m_section; }
    bool is_idle() const { return m_live.is_idle(); }
    bool save(const QString& file) { return m_strips->save(file); }
    /// A picture of the whole scope for each of so many instants, numbered, into a folder; the one that could
    /// not be written, if any.
    QString save_frames(const QString& folder, int count);

  Q_SIGNALS:
    void reading(const QString& text);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void follow(double seconds);
    void play(bool on);
    void choose_frames();

    Document& m_document;
    ModelCache m_cache;
    LiveField m_live;
    Strips* m_strips;
    Schematic* m_schematic;
    SectionView* m_section;
    QLabel *m_moment, *m_stale;
    QPushButton *m_lines, *m_play;
    TimeBar* m_bar;
    QTimer m_timer;
    std::optional<TimeRecord> m_record;
    bool m_fresh = false;
};

} // namespace mavlo::app
