#include "section/section_accessible.h"

#include "section/section_parts.h"
#include "section/section_view.h"

#include <QAccessibleWidget>
#include <memory>

namespace mavlo::app {
namespace {

class PartAccessible : public QAccessibleInterface, public QAccessibleActionInterface {
  public:
    PartAccessible(SectionView& view, SectionPart part)
        : m_view(&view)
        , m_part(std::move(part)) {}

    bool isValid() const override { return m_view != nullptr; }
    QObject* object() const override { return nullptr; }
    QAccessibleInterface* childAt(int, int) const override { return nullptr; }
    QAccessibleInterface* parent() const override { return QAccessible::queryAccessibleInterface(m_view); }
    QAccessibleInterface* child(int) const override { return nullptr; }
    int childCount() const override { return 0; }
    int indexOfChild(const QAccessibleInterface*) const override { return -1; }
    QString text(QAccessible::Text which) const override {
        return which == QAccessible::Name ? m_part.words : QString();
    }
    void setText(QAccessible::Text, const QString&) override {}
    QRect rect() const override {
        const QPoint at = m_view->mapToGlobal(m_view->frame().to_screen(m_part.place).toPoint());
        return {at - QPoint(8, 8), QSize(16, 16)};
    }
    QAccessible::Role role() const override { return QAccessible::Graphic; }
    QAccessible::State state() const override {
        QAccessible::State state;
        state.selectable = true;
        state.selected = m_view->selected() == m_part.region;
        return state;
    }
    void* interface_cast(QAccessible::InterfaceType type) override {
        return type == QAccessible::ActionInterface ? static_cast<QAccessibleActionInterface*>(this) : nullptr;
    }
    QStringList actionNames() const override { return {pressAction()}; }
    void doAction(const QString& name) override {
        if (name == pressAction()) m_view->take_part(m_part.region, m_part.material);
    }
    QStringList keyBindingsForAction(const QString&) const override { return {}; }

  private:
    SectionView* m_view;
    SectionPart m_part;
};

class SectionAccessible : public QAccessibleWidget {
  public:
    explicit SectionAccessible(SectionView& view)
        : QAccessibleWidget(&view, QAccessible::Graphic, SectionView::tr("Section of the machine"))
        , m_view(&view) {}
    ~SectionAccessible() override { forget(); }

    int childCount() const override { return int(parts().size()); }
    QAccessibleInterface* child(int index) const override {
        const auto& list = parts();
        return index >= 0 && index < int(list.size())
                   ? QAccessible::accessibleInterface(list[std::size_t(index)])
                   : nullptr;
    }
    int indexOfChild(const QAccessibleInterface* child) const override {
        for (int k = 0; k < childCount(); ++k)
            if (this->child(k) == child) return k;
        return -1;
    }

  private:
    void forget() const {
        for (QAccessible::Id id : m_ids) QAccessible::deleteAccessibleInterface(id);
        m_ids.clear();
    }
    /// Of the machine as it stands.
    const std::vector<QAccessible::Id>& parts() const {
        const auto built = m_view->document().built();
        if (built == m_built) return m_ids;
        forget();
        m_built = built;
        if (built)
            for (SectionPart& part : section_parts(*built))
                m_ids.push_back(
                    QAccessible::registerAccessibleInterface(new PartAccessible(*m_view, std::move(part))));
        return m_ids;
    }

    SectionView* m_view;
    mutable std::shared_ptr<const DrawnMachine> m_built;
    mutable std::vector<QAccessible::Id> m_ids;
};

QAccessibleInterface* made(const QString&, QObject* object) {
    auto* view = qobject_cast<SectionView*>(object);
    return view ? new SectionAccessible(*view) : nullptr;
}

} // namespace

void install_section_accessible() {
    static const bool once = (QAccessible::installFactory(made), true);
    (void)once;
}

} // namespace mavlo::app
