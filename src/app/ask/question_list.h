#pragma once
// All questions as rows in the order of the work: those of the machine in hand by groups, the others folded
// with their reasons; found by typing.

#include "ask/question_card.h"

#include <QScrollArea>

namespace mavlo::app {

class QuestionList : public QWidget {
    Q_OBJECT
  public:
    explicit QuestionList(Document& document, QWidget* parent = nullptr);

    QuestionCard* card(const std::string& question) const; ///< null: there is none
    const std::vector<QuestionCard*>& cards() const { return m_cards; }
    /// Unfolds this one; empty: the overview is in hand.
    void set_chosen(const std::string& question);
    /// Sorts out what the design in hand cannot be asked.
    void follow_document();

  Q_SIGNALS:
    void chosen(const std::string& question); ///< empty: the overview
    void asked(const std::string& question);
    void stop_wanted(const std::string& question);
    void inputs_changed(const std::string& question);

  private:
    void add_card(const QuestionKind& kind);
    void arrange();
    QWidget* unfit_row(const QuestionCard& card);
    bool is_found(const QuestionCard& card) const;

    Document& m_document;
    QScrollArea* m_scroll;
    QVBoxLayout* m_column;
    QLineEdit* m_find;
    QPushButton *m_overview, *m_unfit;
    std::vector<QuestionCard*> m_cards;
    std::map<std::string, QLabel*> m_headings; ///< by group
    std::map<std::string, QLabel*> m_reasons;  ///< by question, of those that do not apply
    std::string m_chosen;
};

} // namespace mavlo::app
