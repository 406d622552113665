#include "start/specification_dialog.h"

#include "project/project.h"
#include "quantity/constants.h"
#include "quantity/quantity.h"
#include "shell/spoken.h"
#include "shell/theme.h"
#include "shell/typed_number.h"
#include "weigh/design_picture.h"

#include <QApplication>
#include <QGridLayout>
#include <QPointer>
#include <QVBoxLayout>
#include <utility>

namespace mavlo::app {
namespace {

constexpr int form_width = 280, proposal_width = 232;

const StartingShape* shape_named(const std::string& name) {
    for (const StartingShape& shape : starting_shapes())
        if (shape.name == name) return &shape;
    return nullptr;
}

/// A field's text in SI, in its unit where it has none; empty where it is.
Result<std::optional<double>> read_field(const QLineEdit& field, const std::string& unit) {
    const QString text = field.text().trimmed();
    if (text.isEmpty()) return std::optional<double>();
    const auto value = parse_quantity(with_unit(typed_number(text), unit));
    if (!value) return Problem{field.objectName().toStdString(), value.problems().front().sentence};
    if (value->dimension != find_unit(unit)->dimension)
        return Problem{
            field.objectName().toStdString(),
            QObject::tr("\"%1\" is not given in %2.").arg(text, QString::fromStdString(unit)).toStdString()};
    return std::optional(value->si);
}

QString figure_line(const SizedDesign& sized, const char* name, const char* form, double factor = 1) {
    const auto value = sized.figures[name];
    return value ? QString::asprintf(form, *value * factor) : QStringLiteral("–");
}

} // namespace

SpecificationDialog::SpecificationDialog(QWidget* parent)
    : QDialog(parent)
    , m_cooling(new QComboBox(this))
    , m_run(new QPushButton(tr("Propose"), this))
    , m_state(new QLabel(this))
    , m_proposals(new QWidget(this))
    , m_row(new QHBoxLayout(m_proposals)) {
    setObjectName(QStringLiteral("specification"));
    setWindowTitle(tr("From a specification"));
    resize(1060, 560);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(24, 20, 24, 20);
    layout->setSpacing(28);
    layout->addWidget(make_form());
    m_row->setContentsMargins(0, 0, 0, 0);
    m_row->setSpacing(12);
    m_row->addStretch();
    layout->addWidget(m_proposals, 1);
    QWidget* before = m_torque;
    for (QWidget* next :
         std::initializer_list<QWidget*>{m_speed, m_voltage, m_outer, m_length, m_ambient, m_cooling, m_run})
        setTabOrder(std::exchange(before, next), next);
    m_torque->setFocus();
}

QLineEdit* SpecificationDialog::add_field(QGridLayout* grid, const char* name, const QString& label,
                                          const QString& unit, const QString& text) {
    const int row = grid->rowCount();
    auto* words = new QLabel(label, this);
    auto* field = new QLineEdit(text, this);
    field->setObjectName(QStringLiteral("spec:") + QLatin1String(name));
    field->setAlignment(Qt::AlignRight);
    field->setFixedSize(96, 28);
    words->setBuddy(field);
    auto* behind = new QLabel(unit, this);
    behind->setProperty("soft", true);
    grid->addWidget(words, row, 0);
    grid->addWidget(field, row, 1);
    grid->addWidget(behind, row, 2);
    return field;
}

QWidget* SpecificationDialog::make_form() {
    auto* form = new QWidget(this);
    form->setFixedWidth(form_width);
    auto* column = new QVBoxLayout(form);
    column->setContentsMargins(0, 0, 0, 0);
    auto* grid = new QGridLayout;
    grid->setColumnStretch(0, 1);
    m_torque = add_field(grid, "torque", tr("Torque"), tr("N·m"), QStringLiteral("20"));
    m_speed = add_field(grid, "speed", tr("at the speed"), tr("rpm"), QStringLiteral("1500"));
    m_voltage = add_field(grid, "voltage", tr("DC link"), tr("V"), QStringLiteral("540"));
    m_outer = add_field(grid, "outer", tr("Outer ⌀ at most"), tr("mm"), {});
    m_length = add_field(grid, "length", tr("Stack at most"), tr("mm"), {});
    m_ambient = add_field(grid, "ambient", tr("Ambient"), tr("°C"), QStringLiteral("40"));
    for (QLineEdit* free : {m_outer, m_length}) free->setPlaceholderText(tr("free"));
    const int row = grid->rowCount();
    grid->addWidget(new QLabel(tr("Cooled by"), this), row, 0);
    m_cooling->setObjectName(QStringLiteral("spec:cooling"));
    m_cooling->addItems({tr("still air"), tr("fan"), tr("jacket")});
    m_cooling->setCurrentIndex(1);
    grid->addWidget(m_cooling, row, 1, 1, 2);
    column->addLayout(grid);
    column->addSpacing(10);
    m_run->setObjectName(QStringLiteral("spec:propose"));
    m_run->setDefault(true);
    column->addWidget(m_run);
    m_state->setObjectName(QStringLiteral("spec:state"));
    m_state->setWordWrap(true);
    m_state->setProperty("soft", true);
    m_state->setText(tr("The rotor's volume begins with the tangential stress that the cooling usually bears; "
                        "current, turns and size then follow the fields until torque, voltage and temperature "
                        "fit. A few seconds a proposal."));
    column->addWidget(m_state);
    column->addStretch();
    connect(m_run, &QPushButton::clicked, this, &SpecificationDialog::propose);
    return form;
}

Result<Specification> SpecificationDialog::specification() const {
    Specification s;
    const std::pair<QLineEdit*, std::pair<const char*, double*>> needed[] = {{m_torque, {"N.m", &s.torque}},
                                                                             {m_speed, {"rpm", &s.speed}},
                                                                             {m_voltage, {"V", &s.dc_voltage}},
                                                                             {m_ambient, {"degC", &s.ambient}}};
    for (const auto& [field, place] : needed) {
        const auto value = read_field(*field, place.first);
        if (!value) return value.problems();
        if (*value) *place.second = **value;
    }
    for (const auto& [field, place] : {std::pair(m_outer, &s.outer_diameter), {m_length, &s.length}}) {
        const auto value = read_field(*field, "mm");
        if (!value) return value.problems();
        *place = *value;
    }
    s.cooling = SizingCooling(m_cooling->currentIndex());
    if (auto problems = check(s); !problems.empty()) return problems;
    return s;
}

/// One proposal after the other; each stands as soon as it is there.
void SpecificationDialog::propose() {
    if (!is_idle()) {
        m_beside.stop();
        m_run->setText(tr("Propose"));
        return m_state->setText(tr("Stopped."));
    }
    const auto wanted = specification();
    if (!wanted) return m_state->setText(QString::fromStdString(wanted.problems().front().sentence));
    while (m_row->count() > 1) {
        QLayoutItem* item = m_row->takeAt(0);
        delete item->widget();
        delete item;
    }
    m_run->setText(tr("Stop"));
    m_state->setText(tr("Sizing …"));
    m_beside.start(
        [dialog = QPointer<SpecificationDialog>(this),
         s = *wanted](const std::stop_token& stop) -> Beside::Taken {
            const Watch watch{{}, stop};
            for (const std::string& shape : shapes_for(s)) {
                if (stop.stop_requested()) break;
                const auto sized = std::make_shared<Result<SizedDesign>>(
                    size_design(s, new_project(shape)->in_hand().design, watch));
                QMetaObject::invokeMethod(
                    qApp,
                    [dialog, shape, sized, stop] {
                        if (dialog && !stop.stop_requested()) dialog->add_proposal(shape, *sized);
                    },
                    Qt::QueuedConnection);
            }
            return [dialog] {
                if (!dialog) return;
                dialog->m_run->setText(tr("Propose"));
                dialog->m_state->setText(
                    tr("All figures are of the quick model; each proposal opens as a drawing."));
            };
        },
        [this](const QString& why) { m_state->setText(why); });
}

void SpecificationDialog::add_proposal(const std::string& shape, const Result<SizedDesign>& sized) {
    const StartingShape* known = shape_named(shape);
    auto* card = new QFrame(m_proposals);
    card->setObjectName(QString::fromStdString("proposal:" + shape));
    card->setFixedWidth(proposal_width);
    auto* column = new QVBoxLayout(card);
    auto* title = new QLabel(known ? spoken(known->title) : QString(), card);
    title->setFont(figure_font(14));
    column->addWidget(title);
    auto* words = new QLabel(card);
    words->setWordWrap(true);
    if (!sized) {
        words->setText(QString::fromStdString(sized.problems().front().sentence));
        column->addWidget(words);
        column->addStretch();
        m_row->insertWidget(m_row->count() - 1, card);
        return;
    }
    auto* picture = new DesignPicture(card);
    picture->setFixedHeight(190);
    picture->show_design({}, sized->design);
    column->addWidget(picture);
    const QString lines =
        tr("<b>⌀ %1 × %2 mm</b>, %3<br>torque %4 at %5 A peak<br>efficiency %6<br>winding %7, magnets %8")
            .arg(QString::number(sized->outer_diameter * 1e3, 'f', 0),
                 QString::number(sized->length * 1e3, 'f', 0), figure_line(*sized, "active_mass", "%.3g kg"),
                 figure_line(*sized, "torque_mean", "%.4g N·m"), QString::number(sized->current, 'g', 3),
                 figure_line(*sized, "efficiency", "%.1f %%", 100),
                 figure_line(*sized, "temperature_winding_highest", "%.0f °C"),
                 figure_line(*sized, "temperature_magnets", "%.0f °C"));
    words->setTextFormat(Qt::RichText); // made here of numbers alone
    words->setText(lines);
    column->addWidget(words);
    auto* told = new QLabel(spoken(sized->words), card);
    told->setProperty("soft", sized->fits);
    told->setWordWrap(true);
    if (!sized->fits) told->setStyleSheet(QStringLiteral("color: %1").arg(theme().caution.name()));
    column->addWidget(told);
    column->addStretch();
    auto* open = new QPushButton(tr("Open as drawing"), card);
    open->setObjectName(QString::fromStdString("open:" + shape));
    connect(open, &QPushButton::clicked, this, [this, design = sized->design, name = title->text()] {
        m_beside.stop();
        Q_EMIT design_wanted(name, design);
        accept();
    });
    column->addWidget(open);
    m_row->insertWidget(m_row->count() - 1, card);
}

void open_specification(QWidget* parent, const std::function<void(const QString&, const Design&)>& opened) {
    auto* dialog = new SpecificationDialog(parent);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    QObject::connect(dialog, &SpecificationDialog::design_wanted, parent, opened);
    dialog->open();
}

} // namespace mavlo::app
