#pragma once
// From a specification: what the machine shall do is typed, two or three sized proposals come up as pictures
// with their figures, and open as drawings.

#include "compute/beside.h"
#include "study/sizing.h"

#include <QComboBox>
#include <QDialog>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace mavlo::app {

class SpecificationDialog : public QDialog {
    Q_OBJECT
  public:
    explicit SpecificationDialog(QWidget* parent = nullptr);
    bool is_idle() const { return m_beside.is_idle(); }

  Q_SIGNALS:
    void design_wanted(const QString& name, const mavlo::Design& design);

  private:
    QWidget* make_form();
    QLineEdit* add_field(class QGridLayout* grid, const char* name, const QString& label, const QString& unit,
                         const QString& text);
    /// What is typed; what is wrong with it stands under the form.
    Result<Specification> specification() const;
    void propose();
    void add_proposal(const std::string& shape, const Result<SizedDesign>& sized);

    QLineEdit *m_torque = nullptr, *m_speed = nullptr, *m_voltage = nullptr, *m_outer = nullptr,
              *m_length = nullptr, *m_ambient = nullptr;
    QComboBox* m_cooling;
    QPushButton* m_run;
    QLabel* m_state;
    QWidget* m_proposals;
    QHBoxLayout* m_row;
    Beside m_beside;
};

/// Shows the dialog over a window; `opened` is told which proposal is taken.
void open_specification(QWidget* parent,
                        const std::function<void(const QString& name, const Design& design)>& opened);

} // namespace mavlo::app
