#pragma once
// What shall be known of each design, chosen as figures: "cogging torque, peak to peak", "efficiency". Which
// question answers a figure is not the user's to know.

#include "shell/document.h"
#include "study/study.h"

#include <QCompleter>
#include <QLineEdit>
#include <QStandardItemModel>
#include <QVBoxLayout>
#include <QWidget>

namespace mavlo::app {

class FigureWishes : public QWidget {
    Q_OBJECT
  public:
    /// The field is named `name`, the wishes `name` and their figure.
    FigureWishes(Document& document, const QString& name, QWidget* parent = nullptr);

    std::vector<StudyQuestion> chosen() const;
    /// The figures that were wished for, each once.
    std::vector<std::string> figures() const;
    /// False: no question of this machine answers it.
    bool wish(const std::string& question, const std::string& figure);

  Q_SIGNALS:
    void changed();

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    struct Wish {
        std::string question, figure;
        bool operator==(const Wish&) const = default;
    };
    void follow_document();
    void offer();
    void take(const QString& words);
    void show_wishes();

    Document& m_document;
    QString m_name;
    QStandardItemModel* m_offered;
    QLineEdit* m_edit;
    QVBoxLayout* m_list;
    std::vector<QWidget*> m_rows;
    std::vector<Wish> m_wishes{{"key-figures", {}}};
};

} // namespace mavlo::app
