#include "sheet/equivalent_row.h"

#include "quantity/quantity.h"
#include "shell/spoken.h"
#include "shell/typed_number.h"

#include <QGridLayout>

namespace mavlo::app {

EquivalentRow::EquivalentRow(Document& document, const Equivalent& equivalent, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_equivalent(equivalent)
    , m_line(new QLineEdit(this))
    , m_note(new QLabel(this)) {
    setObjectName(QString::fromStdString("equivalent:" + equivalent.name));
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(24, 0, 12, 2);
    layout->setHorizontalSpacing(8);
    layout->setVerticalSpacing(0);
    auto* label = new QLabel(spoken(equivalent.label), this);
    auto* unit = new QLabel(QString::fromStdString(equivalent.unit == "deg" ? "°" : equivalent.unit), this);
    for (QLabel* soft : {label, unit, m_note}) soft->setProperty("soft", true);
    setToolTip(tr("The same dimension as other sheets give it; what is typed here sets “%1”.")
                   .arg(spoken(find_parameter(equivalent.path)->label)));
    m_line->setAccessibleName(spoken(equivalent.label));
    m_line->setObjectName(QString::fromStdString("edit:" + equivalent.name));
    m_line->setAlignment(Qt::AlignRight);
    m_line->setFixedSize(100, 24);
    unit->setFixedWidth(40);
    label->setWordWrap(true);
    layout->addWidget(label, 0, 0);
    layout->addWidget(m_line, 0, 1);
    layout->addWidget(unit, 0, 2);
    layout->setColumnStretch(0, 1);
    m_note->setWordWrap(true);
    m_note->hide();
    layout->addWidget(m_note, 1, 0, 1, 3);
    connect(m_line, &QLineEdit::editingFinished, this, &EquivalentRow::take);
    refresh();
}

QString EquivalentRow::shown() const {
    const auto built = m_document.built();
    const auto value = built ? value_of(m_equivalent, built->machine.values) : std::nullopt;
    if (!value) return {};
    const double number = m_equivalent.unit.empty() ? *value : to_unit(*value, *find_unit(m_equivalent.unit));
    return QString::fromStdString(number_text(number, 5));
}

void EquivalentRow::refresh() {
    const QString text = shown();
    setVisible(!text.isEmpty());
    m_note->hide();
    if (!(m_line->hasFocus() && m_line->isModified())) m_line->setText(text);
}

void EquivalentRow::take() {
    if (!m_line->isModified() || m_line->text() == shown()) return;
    m_line->setModified(false);
    const auto design = with_equivalent(m_document.design(), m_equivalent, typed_number(m_line->text()));
    if (!design) {
        m_note->setText(QString::fromStdString(design.problems().front().sentence));
        m_note->show();
        return;
    }
    m_document.set_design(tr("change %1").arg(spoken(m_equivalent.label).toLower()), *design);
}

} // namespace mavlo::app
