#pragma once
// The strip at the top: project, variant, the benches, and what is being computed.

#include "compute/jobs.h"
#include "shell/document.h"

#include <QMenu>
#include <QPushButton>
#include <QWidget>
#include <map>
#include <string>

namespace mavlo::app {

/// A bench's name, underlined when it is in use.
class BenchButton : public QPushButton {
  public:
    using QPushButton::QPushButton;

  protected:
    void paintEvent(QPaintEvent* event) override;
};

/// What is computed and how much is left; its menu is the queue.
class ActivityPill : public QPushButton {
    Q_OBJECT
  public:
    ActivityPill(Jobs& questions, Jobs& key_figures, QWidget* parent = nullptr);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void fill_menu();
    void follow();
    Jobs &m_questions, &m_key_figures;
    QMenu* m_menu;
    QString m_text;
    double m_share = 0;
    bool m_busy = false;
};

class HeadStrip : public QWidget {
    Q_OBJECT
  public:
    HeadStrip(Document& document, Jobs& questions, Jobs& key_figures, QMenu* project_menu,
              QWidget* parent = nullptr);
    void set_bench(const std::string& bench);

  Q_SIGNALS:
    void bench_chosen(const std::string& bench);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void follow_document();
    void fill_variants();

    Document& m_document;
    QPushButton *m_name, *m_variant;
    QMenu* m_variants;
    std::map<std::string, BenchButton*> m_benches;
};

} // namespace mavlo::app
