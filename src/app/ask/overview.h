#pragma once
// What is known of the variant in hand: its answers as small pictures, what is stale and why, and what to ask
// next.

#include "ask/answer_tile.h"

#include <QGridLayout>
#include <QScrollArea>

namespace mavlo::app {

class Overview : public QWidget {
    Q_OBJECT
  public:
    explicit Overview(QWidget* parent = nullptr);

    struct Entry {
        const QuestionKind* kind;
        QString title, tells; ///< as of this machine
        const Answer* answer; ///< null: not asked yet
        AnswerState state;
        QString why;   ///< it is stale
        QString price; ///< of asking it; empty: not known
        double seconds = 0;
    };
    void show_entries(const QString& variant, const std::vector<Entry>& entries);

  Q_SIGNALS:
    void chosen(const std::string& question);
    void all_stale_wanted(const std::vector<std::string>& questions);

  private:
    void add_tiles(const QString& heading, const std::vector<Entry>& entries, int& row);

    QLabel *m_title, *m_told;
    QPushButton* m_again;
    QWidget* m_tiles = nullptr;
    QGridLayout* m_grid = nullptr;
    QScrollArea* m_scroll;
    std::vector<std::string> m_stale;
};

} // namespace mavlo::app
