#pragma once
// Questions to be ticked, with the inputs they have by themselves or as typed.

#include "shell/document.h"
#include "study/study.h"

#include <QListWidget>

namespace mavlo::app {

class QuestionChecks : public QListWidget {
    Q_OBJECT
  public:
    QuestionChecks(Document& document, const QString& name, QWidget* parent = nullptr);
    std::vector<StudyQuestion> chosen() const;
    void choose(const QString& question, bool on);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void follow_document();
    Document& m_document;
};

} // namespace mavlo::app
