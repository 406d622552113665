#pragma once
// Where a table comes from: the clipboard, or a file of any ending.

#include <QPushButton>
#include <QWidget>

namespace mavlo::app {

/// Text of a file that the user chooses; empty where none is, or it cannot be read (`wrong` says why).
QString open_table(QWidget* parent, const QString& title, QString& wrong, const QString& filter = {});

class TableSource : public QWidget {
    Q_OBJECT
  public:
    /// Words of the two buttons, and what their object names begin with.
    TableSource(const QString& paste, const QString& open, const QString& name, QWidget* parent = nullptr);

  Q_SIGNALS:
    void given(const QString& text);
    void failed(const QString& sentence); ///< the file cannot be read
};

} // namespace mavlo::app
