#include "sheet/parameter_row.h"

#include "machine/axial.h"
#include "quantity/formula.h"
#include "quantity/quantity.h"
#include "question/straight.h"
#include "question/words.h"
#include "sheet/choice_box.h"
#include "sheet/material_names.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QContextMenuEvent>
#include <QEvent>
#include <QGridLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QPainter>
#include <QStyle>
#include <algorithm>

namespace mavlo::app {
namespace {

void set_wrong(QWidget* widget, bool wrong) {
    if (widget->property("wrong").toBool() == wrong) return;
    widget->setProperty("wrong", wrong);
    widget->style()->unpolish(widget);
    widget->style()->polish(widget);
}

} // namespace

ParameterRow::ParameterRow(Document& document, const Parameter& parameter, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_parameter(&parameter)
    , m_label(new QLabel(spoken(parameter.label), this))
    , m_note(new QLabel(this))
    , m_free(new QPushButton(tr("free"), this)) {
    setObjectName(QString::fromStdString("row:" + parameter.path));
    setToolTip(spoken(parameter.help));
    auto* layout = new QGridLayout(this);
    layout->setContentsMargins(12, 3, 12, 3);
    layout->setHorizontalSpacing(8);
    layout->setVerticalSpacing(1);
    m_label->setWordWrap(true); // a longer language takes a second line
    layout->addWidget(m_label, 0, 0);
    make_editor();
    QWidget* editor = m_line ? static_cast<QWidget*>(m_line) : m_combo;
    m_label->setBuddy(editor);
    editor->setFixedWidth(m_line ? 100 : 148);
    editor->setFixedHeight(26);
    layout->addWidget(editor, 0, 1, Qt::AlignRight);
    if (m_line) {
        m_unit = new QLabel(QString::fromStdString(shown_unit(parameter.unit)), this);
        m_unit->setProperty("soft", true);
        m_unit->setFixedWidth(40);
        layout->addWidget(m_unit, 0, 2);
    } else {
        layout->setColumnMinimumWidth(2, 0);
        layout->removeWidget(editor);
        layout->addWidget(editor, 0, 1, 1, 2, Qt::AlignRight);
    }
    layout->setColumnStretch(0, 1);
    m_note->setProperty("soft", true);
    m_note->setWordWrap(true);
    m_note->hide();
    auto* foot = new QHBoxLayout;
    foot->addWidget(m_note, 1);
    m_free->setObjectName(QString::fromStdString("free:" + parameter.path));
    m_free->setProperty("flat", true);
    m_free->setProperty("soft", true);
    m_free->setToolTip(tr("Linked by this formula; free keeps the value and drops the formula"));
    m_free->setFocusPolicy(Qt::NoFocus);
    m_free->hide();
    foot->addWidget(m_free, 0, Qt::AlignTop);
    layout->addLayout(foot, 1, 0, 1, 3);
    connect(m_free, &QPushButton::clicked, this, [this] {
        const double value = m_document.value(m_parameter->path);
        take_text(QString::fromStdString(text_for(*m_parameter, value, 9)));
    });
    refresh();
}

void ParameterRow::make_editor() {
    if (!m_parameter->is_word()) {
        m_line = new QLineEdit(this);
        m_line->setAlignment(Qt::AlignRight);
        m_line->setObjectName(QString::fromStdString("edit:" + m_parameter->path));
        m_line->installEventFilter(this);
        connect(m_line, &QLineEdit::returnPressed, this, [this] {
            m_line->setModified(false); // taken: what Ctrl+Z undoes now is the project's change
            take_text(m_line->text());
            m_line->selectAll();
        });
        return;
    }
    m_combo = new QComboBox(this);
    m_combo->setObjectName(QString::fromStdString("edit:" + m_parameter->path));
    if (m_parameter->kind == ParameterKind::Choice)
        fill_choices(*m_combo, m_parameter->choices());
    else {
        m_combo->setEditable(true); // an inline material may be typed
        m_combo->setInsertPolicy(QComboBox::NoInsert);
        m_combo->addItems(material_names(*m_parameter, m_document.project().materials));
    }
    connect(m_combo, &QComboBox::activated, this,
            [this] { take_text(m_combo->isEditable() ? m_combo->currentText() : shown_choice(*m_combo)); });
    if (m_combo->isEditable())
        connect(m_combo->lineEdit(), &QLineEdit::returnPressed, this,
                [this] { take_text(m_combo->currentText()); });
}

void ParameterRow::take_text(const QString& text) {
    const auto problem = m_document.set_text(m_parameter->path, text);
    m_refused = problem ? QString::fromStdString(problem->sentence) : QString();
    refresh();
}

QString ParameterRow::shown_value() const {
    const std::string text = m_document.design().text(m_parameter->path);
    if (m_parameter->auto_allowed && trim(text) == "auto") return QStringLiteral("auto");
    const double si = m_document.value(m_parameter->path);
    const double number = m_parameter->unit.empty() ? si : to_unit(si, *find_unit(m_parameter->unit));
    return QString::fromStdString(number_text(number, is_formula(text) ? 4 : 6)); // a result needs no more
}

void ParameterRow::show_text() {
    if (m_combo) {
        const QString text = QString::fromStdString(m_document.design().text(m_parameter->path));
        if (m_combo->isEditable())
            m_combo->setEditText(text);
        else
            show_choice(*m_combo, text);
        if (m_combo->isEditable()) m_combo->lineEdit()->setCursorPosition(0);
        return;
    }
    // With the cursor in it the field shows what was written, else the value that follows.
    const std::string text = m_document.design().text(m_parameter->path);
    const bool formula = is_formula(text);
    if (!m_refused.isEmpty()) return;
    if (m_line->hasFocus() && m_line->isModified()) return;
    m_line->setText(m_line->hasFocus() && formula ? QString::fromStdString(text) : shown_value());
}

/// Of namesakes the one that the design uses: its words, unit and choices.
void ParameterRow::take_namesake(const Parameter& own) {
    const bool straight = is_linear(m_document.design());
    if (&own == m_parameter && m_straight == straight) return;
    m_straight = straight;
    m_label->setText(spoken(straight ? straight_words(own.label, 1) : own.label));
    setToolTip(spoken(straight ? straight_words(own.help, 1) : own.help));
    if (&own == m_parameter || own.is_word() != m_parameter->is_word()) return;
    m_parameter = &own;
    if (m_unit) m_unit->setText(QString::fromStdString(shown_unit(own.unit)));
    if (!m_combo || own.kind != ParameterKind::Choice) return;
    fill_choices(*m_combo, own.choices());
}

void ParameterRow::refresh() {
    const Parameter* own = m_document.used(m_parameter->path);
    if (own) take_namesake(*own);
    const Problems& problems = m_document.problems();
    const auto problem = std::find_if(problems.begin(), problems.end(),
                                      [&](const Problem& p) { return p.path == m_parameter->path; });
    QString note = m_refused;
    if (note.isEmpty() && problem != problems.end()) note = QString::fromStdString(problem->sentence);
    const bool wrong = !note.isEmpty();
    const std::string text = m_document.design().text(m_parameter->path);
    const bool linked = note.isEmpty() && m_line && is_formula(text);
    if (linked) note = QString::fromStdString(text);
    m_free->setVisible(linked);
    show_text();
    if (m_line) set_wrong(m_line, wrong);
    m_note->setText(note);
    m_note->setVisible(!note.isEmpty());
    setVisible(own);
}

void ParameterRow::take_cursor() {
    QWidget* field = m_line ? static_cast<QWidget*>(m_line) : m_combo;
    if (field) field->setFocus(Qt::ShortcutFocusReason);
}

void ParameterRow::set_hot(bool hot) {
    if (hot == m_hot) return;
    m_hot = hot;
    update();
}

void ParameterRow::enterEvent(QEnterEvent*) {
    Q_EMIT hovered(m_parameter->path);
}

void ParameterRow::contextMenuEvent(QContextMenuEvent* event) {
    if (!m_parameter->is_word()) offer(new QMenu(this), event->globalPos());
}

/// What else can be done with a dimension than to set it, before what the menu has.
void ParameterRow::offer(QMenu* menu, const QPoint& place) {
    menu->setObjectName(QStringLiteral("row_menu"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    auto* vary = new QAction(tr("Vary “%1” in a sweep").arg(spoken(m_parameter->label)), menu);
    menu->insertAction(menu->actions().value(0), vary);
    connect(vary, &QAction::triggered, this, [this] { Q_EMIT vary_wanted(m_parameter->path); });
    menu->popup(place);
}

void ParameterRow::leaveEvent(QEvent*) {
    Q_EMIT hovered({});
}

void ParameterRow::paintEvent(QPaintEvent*) {
    if (!m_hot && !(m_line && m_line->hasFocus())) return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme().tint(0.1));
    painter.drawRoundedRect(rect().adjusted(0, 0, 0, -1), 4, 4);
}

bool ParameterRow::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_line) {
        if (event->type() == QEvent::ContextMenu) {
            offer(m_line->createStandardContextMenu(), static_cast<QContextMenuEvent*>(event)->globalPos());
            return true;
        }
        if (event->type() == QEvent::ShortcutOverride && !m_line->isModified()) {
            // A field without typing of its own leaves undo and redo to the window.
            const auto* key = static_cast<QKeyEvent*>(event);
            if (key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo)) {
                event->ignore();
                return true;
            }
        }
        if (event->type() == QEvent::FocusIn) {
            m_line->setModified(false);
            Q_EMIT hovered(m_parameter->path);
            QMetaObject::invokeMethod(
                this,
                [this] {
                    show_text();
                    m_line->selectAll();
                    update();
                },
                Qt::QueuedConnection);
        }
        if (event->type() == QEvent::FocusOut) {
            if (m_line->isModified()) take_text(m_line->text());
            m_line->setModified(false);
            QMetaObject::invokeMethod(
                this,
                [this] {
                    refresh();
                    update();
                },
                Qt::QueuedConnection);
        }
        if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
            m_refused.clear();
            m_line->setModified(false);
            m_line->setText(shown_value());
            refresh();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

} // namespace mavlo::app
