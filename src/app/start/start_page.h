#pragma once
// The first page: pictured starting shapes, a chooser of slots and poles, recent projects and the demos.

#include "start/pair_map.h"
#include "start/shape_filter.h"
#include "start/shape_tile.h"
#include "storage/journal.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace mavlo::app {

class StartPage : public QWidget {
    Q_OBJECT
  public:
    explicit StartPage(QWidget* parent = nullptr);

    void show_recent(const QStringList& files);
    /// Offers what programs left behind that ended in the middle.
    void show_left_behind(const std::vector<LeftBehind>& list);

  Q_SIGNALS:
    void shape_wanted(const QString& shape, int slots, int poles); ///< zeros: the shape's own
    void file_wanted(const QString& file);
    void left_behind_wanted(const mavlo::LeftBehind& left);
    void open_wanted();
    void drawing_wanted();
    void specification_wanted();
    void first_steps_wanted(const QString& file);

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    void place_tiles(); ///< those that pass, by family, as many across as have room
    QWidget* make_files();
    QWidget* make_shapes();
    QWidget* make_chooser();
    void follow_pair();
    QString words(const SlotPolePair& pair) const;

    QVBoxLayout *m_recent = nullptr, *m_left = nullptr;
    std::vector<ShapeTile*> m_tiles;
    QGridLayout* m_grid = nullptr;
    PairMap* m_map;
    QComboBox *m_phases, *m_layers, *m_shown;
    QLabel *m_words, *m_title;
    QPushButton* m_own;
    ShapeFilter* m_filter;
    std::vector<QLabel*> m_families; ///< the words over them
};

} // namespace mavlo::app
