#pragma once
// The window: head strip, benches, tell-tales, and what joins them.

#include "shell/bench.h"
#include "shell/explain.h"
#include "shell/first_steps.h"
#include "shell/head_strip.h"
#include "shell/refusal_label.h"
#include "shell/what_moves.h"

#include <QLabel>
#include <QMainWindow>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <map>
#include <string>

namespace mavlo::app {

class StartPage;

class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;

    void show_start();                     ///< the first page
    bool open_file(const QString& file);   ///< says on the screen what is wrong and returns false
    void import_part(const QString& file); ///< opens what the drawing was understood as
    void export_to(const QString& file);   ///< the section, by the file's ending
    /// Opens the shelf at a material; empty: at the stator's steel.
    void show_materials(const std::string& name = {});
    void show_circuits();
    void show_bench(const std::string& name);
    void show_place(const std::string& path);
    void notify(const QString& sentence); ///< over the window's foot, until the next change
    const std::string& bench() const { return m_bench; }
    bool is_idle() const;                                   ///< nothing is computed and nothing is waited for
    bool field_is_idle() const { return m_live.is_idle(); } ///< the field shown is the one asked for
    Document& document() { return m_document; }
    SectionView& section() { return *m_section; }
    TellTaleStrip& tell_tales() { return *m_tell_tales; }
    /// A bench's part, e.g. `part<AskBench>()`; the program ends where no bench has one.
    template <class Part>
    Part& part() {
        auto* found = findChild<Part*>();
        if (!found) qFatal("no bench has a part of this kind");
        return *found;
    }
    /// The sentence of the last refusal, shown over the window's foot.
    QString notice() const;

  protected:
    void closeEvent(QCloseEvent* event) override;

  private:
    void make_section_page();
    void make_start_page();
    void choose_file();
    void choose_drawing();
    void make_benches();
    void place_chips();
    void make_actions();
    void connect_parts();
    void fill_recent();
    void start_from_specification();
    void request_field();
    void show_overlays();
    bool save();
    bool save_as();
    bool may_discard();
    bool may_stop_computing();
    bool may_write_over();
    void recover(const LeftBehind& left);
    void tell_left_behind(const QString& file);
    void show_first_steps();
    void show_help();
    void toggle_theme();
    void remember_file(const QString& file);

    Document m_document;
    ModelCache m_cache;
    LiveField m_live;
    TellTaleEngine m_engine;
    Jobs m_jobs;
    std::map<std::string, BenchView> m_views; ///< by the bench's name
    std::string m_bench;
    QMenu *m_menu, *m_recent;
    HeadStrip* m_head;
    QStackedWidget *m_pages, *m_side;
    QWidget* m_section_page;
    StartPage* m_start = nullptr; ///< made when it is first wanted: it builds every starting shape
    QVBoxLayout* m_under_section; ///< the section, and the feet of the benches
    SectionView* m_section;
    OverlayChips* m_chips;
    TellTaleStrip* m_tell_tales;
    WhatMoves* m_what_moves;
    RefusalLabel* m_notice;
    QLabel* m_reading;
    Explain* m_explain;
    FirstSteps* m_first_steps = nullptr;
    Desk m_desk;
};

} // namespace mavlo::app
