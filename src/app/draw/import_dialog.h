#pragma once
// Takes a part of the machine from a DXF drawing, shown as it was understood before it is taken.

#include "compute/beside.h"
#include "draw/import_canvas.h"
#include "draw/import_list.h"
#include "shell/document.h"

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <memory>

namespace mavlo::app {

class ImportDialog : public QDialog {
    Q_OBJECT
  public:
    ImportDialog(Document& document, const QString& file, QWidget* parent = nullptr);
    bool is_idle() const { return m_reading->is_idle(); } ///< what is shown is what was asked for

  private:
    void read();
    void show_progress(double share);
    void show_read(Result<ImportedDrawing> drawing, OpenDrawing open);
    void change_role(int number);
    void set_role(int number, Role role); ///< and of its like
    void make_side(QVBoxLayout& side);
    void join();
    void touch_magnet(int number);
    void turn_magnet(int number, double direction); ///< and its like in the other poles
    std::optional<ImportedRegion> region(int number) const;
    void take();
    QString words() const;

    Document& m_document;
    QString m_file;
    std::shared_ptr<const Result<DxfDrawing>> m_read; ///< what the file holds; null until it was read
    ImportOptions m_options;
    std::optional<ImportedDrawing> m_drawing;
    ImportCanvas* m_canvas;
    ImportList* m_list;
    QComboBox *m_part, *m_unit;
    QLineEdit *m_tolerance, *m_direction, *m_pitches;
    int m_magnet = 0; ///< number of the one that was touched last
    QLabel* m_words;
    QPushButton *m_take, *m_stop;
    Beside* m_reading;
};

} // namespace mavlo::app
