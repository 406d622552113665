#pragma once
// Side by side, and in further rows where there is no room.

#include <QLayout>
#include <memory>
#include <vector>

namespace mavlo::app {

class FlowLayout : public QLayout {
  public:
    /// `between`: of neighbours and of rows, pixels.
    explicit FlowLayout(int between, QWidget* parent = nullptr);

    void insert(int index, QWidget* widget);
    void addItem(QLayoutItem* item) override { m_items.emplace_back(item); }
    int count() const override { return int(m_items.size()); }
    QLayoutItem* itemAt(int index) const override;
    QLayoutItem* takeAt(int index) override;
    Qt::Orientations expandingDirections() const override { return {}; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override;
    QSize minimumSize() const override; ///< of the widest item alone
    QSize sizeHint() const override;    ///< all in one row
    void setGeometry(const QRect& room) override;

  private:
    int lay(const QRect& room, bool place) const; ///< bottom of the last row

    std::vector<std::unique_ptr<QLayoutItem>> m_items;
    int m_between;
};

} // namespace mavlo::app
