#pragma once
// One row of the sheet: a quantity with its word, value and unit; typed with units or as a formula.

#include "shell/document.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>

namespace mavlo::app {

class ParameterRow : public QWidget {
    Q_OBJECT
  public:
    ParameterRow(Document& document, const Parameter& parameter, QWidget* parent = nullptr);

    const std::string& path() const { return m_parameter->path; }
    void set_hot(bool hot);
    void take_cursor(); ///< into the field
    void refresh();

  Q_SIGNALS:
    void hovered(const std::string& path); ///< empty when the cursor leaves
    void vary_wanted(const std::string& path);

  protected:
    void enterEvent(QEnterEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;
    void paintEvent(QPaintEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void offer(QMenu* menu, const QPoint& place);
    void make_editor();
    void take_text(const QString& text);
    void show_text();
    QString shown_value() const;
    void take_namesake(const Parameter& own);

    Document& m_document;
    const Parameter* m_parameter;
    QLabel* m_label;
    QLineEdit* m_line = nullptr;
    QLabel* m_unit = nullptr; ///< beside a number
    QComboBox* m_combo = nullptr;
    QLabel* m_note;
    QPushButton* m_free;                    ///< makes a number of a formula
    bool m_hot = false, m_straight = false; ///< in the words of a straight machine
    QString m_refused;                      ///< sentence about what was typed last, kept until it is corrected
};

} // namespace mavlo::app
