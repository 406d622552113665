#pragma once
// First steps: a dozen things to do on a machine, each noticed when it is done.

#include "shell/desk.h"

#include <QFrame>
#include <QLabel>
#include <QPushButton>
#include <QTimer>
#include <functional>
#include <vector>

namespace mavlo::app {

/// What the steps look at beside the desk.
struct StepsSurroundings {
    std::function<std::string()> bench; ///< the one that is open
    std::function<void(const std::string&)> show_bench;
};

class FirstSteps : public QFrame {
    Q_OBJECT
  public:
    FirstSteps(Desk& desk, StepsSurroundings surroundings, QWidget* parent = nullptr);

    void begin(); ///< on the project as it stands
    int done() const;
    int count() const { return int(m_steps.size()); }

  protected:
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;

  private:
    struct Step {
        QString words;
        std::function<bool()> is_done;
        bool done = false;
        QPushButton* row = nullptr;
    };
    void add(const QString& words, const char* bench, std::function<bool()> is_done);
    void add_drawing_steps();
    void add_asking_steps();
    void look();
    void show_progress();

    Desk& m_desk;
    StepsSurroundings m_at;
    std::size_t m_variants = 1; ///< and design and file, as it began
    Design m_design;
    QString m_file;
    bool m_asked = false, m_varied = false;
    std::vector<Step> m_steps;
    QLabel* m_progress;
    QTimer m_timer;
    QPoint m_grabbed;
};

} // namespace mavlo::app
