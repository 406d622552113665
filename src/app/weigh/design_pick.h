#pragma once
// A design that was picked among others: its section, what differs from the one in hand, and what can be done
// with it.

#include "weigh/design_picture.h"

#include <QLabel>
#include <QPushButton>

namespace mavlo::app {

/// Hidden until one is picked.
class DesignPick : public QWidget {
    Q_OBJECT
  public:
    /// Its button is named `prefix` and "_keep", its words `prefix` and "_picked". Variants are called `kept`
    /// and a number.
    DesignPick(Document& document, const QString& prefix, const QString& kept, QWidget* parent = nullptr);

    /// `figures` stand below what differs, a line each.
    void show_design(const Design& design, const QStringList& figures);

  private:
    void keep();

    Document& m_document;
    QString m_kept;
    Design m_design;
    DesignPicture* m_picture;
    QLabel* m_words;
    QPushButton* m_keep;
};

} // namespace mavlo::app
