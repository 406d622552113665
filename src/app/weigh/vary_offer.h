#pragma once
// Before a sweep there is the machine with its dimensions: a click on one begins.

#include "weigh/design_picture.h"

#include <QGridLayout>
#include <QPushButton>
#include <vector>

namespace mavlo::app {

class VaryOffer : public QWidget {
    Q_OBJECT
  public:
    explicit VaryOffer(Document& document, QWidget* parent = nullptr);

  Q_SIGNALS:
    void vary_wanted(const std::string& path);

  protected:
    void showEvent(QShowEvent* event) override;

  private:
    void follow_document();

    Document& m_document;
    DesignPicture* m_picture;
    QGridLayout* m_grid;
    std::vector<QPushButton*> m_buttons;
};

} // namespace mavlo::app
