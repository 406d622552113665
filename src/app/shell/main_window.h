#pragma once
// The window: head strip, benches, tell-tales, and what joins them.

#include "ask/ask_bench.h"
#include "compute/live_field.h"
#include "probe/probe_panel.h"
#include "section/section_view.h"
#include "sheet/sheet.h"
#include "shell/head_strip.h"
#include "shell/tell_tales.h"
#include "weigh/weigh_bench.h"
#include "wind/belt.h"
#include "wind/wind_panel.h"

#include <QMainWindow>
#include <QStackedWidget>

namespace mavlo::app {

class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;

    bool open_file(const QString& file); ///< says on the screen what is wrong and returns false
    void show_bench(Bench bench);
    Bench bench() const { return m_bench; }
    bool is_idle() const;                                   ///< nothing is computed and nothing is waited for
    bool field_is_idle() const { return m_live.is_idle(); } ///< the field shown is the one asked for
    Document& document() { return m_document; }
    SectionView& section() { return *m_section; }
    AskBench& ask_bench() { return *m_ask; }
    TellTaleStrip& tell_tales() { return *m_tell_tales; }
    ProbePanel& probe() { return *m_probe; }
    /// The sentence of the last refusal, shown over the window's foot.
    QString notice() const;

  protected:
    void closeEvent(QCloseEvent* event) override;

  private:
    void make_section_page();
    void make_overlay_chips();
    void make_actions();
    void connect_parts();
    void fill_recent();
    void request_field();
    void apply_bench_overlays();
    bool save();
    bool save_as();
    bool may_discard();
    void notify(const QString& sentence);
    void show_help();
    void toggle_theme();
    void remember_file(const QString& file);

    Document m_document;
    ModelCache m_cache;
    LiveField m_live;
    TellTaleEngine m_engine;
    Jobs m_jobs;
    Bench m_bench = Bench::Draw;
    QMenu *m_menu, *m_recent;
    HeadStrip* m_head;
    QStackedWidget *m_pages, *m_side;
    SectionView* m_section;
    Sheet* m_sheet;
    WindPanel* m_wind;
    Belt* m_belt;
    ProbePanel* m_probe;
    AskBench* m_ask;
    WeighBench* m_weigh;
    TellTaleStrip* m_tell_tales;
    QLabel *m_notice, *m_reading;
    QWidget* m_chips = nullptr;
    std::vector<QPushButton*> m_chip_buttons;
    QPushButton* m_close_up = nullptr;
    SectionView::Overlays m_draw_overlays, m_probe_overlays{false, true, true, false};
};

} // namespace mavlo::app
