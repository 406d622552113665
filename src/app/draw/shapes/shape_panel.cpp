#include "draw/shapes/shape_panel.h"

#include "draw/shapes/dimension_table.h"
#include "draw/shapes/typed_point.h"
#include "quantity/quantity.h"
#include "shell/flow_layout.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <QVBoxLayout>
#include <algorithm>

namespace mavlo::app {
namespace {

constexpr Use uses[] = {Use::Air, Use::Iron, Use::Magnet};

QString use_word(Use use) {
    return use == Use::Air    ? ShapePanel::tr("pocket or notch")
           : use == Use::Iron ? ShapePanel::tr("rib")
                              : ShapePanel::tr("magnet");
}

/// A bare number is in millimetres.
std::string in_millimetres(const QString& text) {
    return with_unit(text.trimmed().toStdString(), "mm");
}

} // namespace

ShapePanel::ShapePanel(Document& document, SketchTool& tool, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_tool(tool)
    , m_use(new QComboBox(this))
    , m_list(new QComboBox(this))
    , m_role(new QComboBox(this))
    , m_material(new QComboBox(this))
    , m_fields(new QWidget(this))
    , m_name(new QLineEdit(this))
    , m_direction(new QLineEdit(this))
    , m_mirrored(new QCheckBox(tr("mirrored about the axis"), this))
    , m_direction_label(new QLabel(tr("Direction of a north pole"), this))
    , m_words(new QLabel(this))
    , m_material_label(new QLabel(tr("Material"), this))
    , m_corners(new QTableWidget(0, 4, this))
    , m_whole(new QLineEdit(this)) {
    setObjectName(QStringLiteral("shape_panel"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(20, 12, 20, 12);
    make_tools();
    layout->addWidget(m_list);
    layout->addWidget(m_fields, 100);
    layout->addWidget(new DimensionTable(document, this));
    layout->addStretch(1);
    m_list->setPlaceholderText(tr("choose a shape, or click it on the section"));
    m_list->setMinimumWidth(120); // its words are cut before the sheet grows
    make_fields();
    connect(m_list, &QComboBox::activated, this,
            [this](int index) { m_tool.select(m_list->itemData(index).toString().toStdString()); });
    connect(&tool, &SketchTool::selection_changed, this, &ShapePanel::refresh);
    connect(&tool, &SketchTool::drawing_changed, this, [this](bool on) {
        if (!on)
            for (QPushButton* button : m_kinds) button->setChecked(false);
    });
    connect(&document, &Document::changed, this, &ShapePanel::refresh);
    refresh();
}

void ShapePanel::make_tools() {
    auto* layout = static_cast<QVBoxLayout*>(this->layout());
    auto* title = new QLabel(tr("Draw on a pole or a slot pitch"), this);
    title->setProperty("group", true);
    title->setWordWrap(true);
    layout->addWidget(title);
    m_use->setObjectName(QStringLiteral("shape_use"));
    for (Use use : uses) m_use->addItem(use_word(use));
    layout->addWidget(m_use);
    connect(m_use, &QComboBox::currentIndexChanged, this, [this](int index) { m_tool.set_use(uses[index]); });
    auto* row = new FlowLayout(6);
    for (const auto& [kind, word, name] : {std::tuple{SketchKind::Polygon, tr("outline"), "draw_outline"},
                                           {SketchKind::Rectangle, tr("rectangle"), "draw_rectangle"},
                                           {SketchKind::Circle, tr("circle"), "draw_circle"},
                                           {SketchKind::Dimension, tr("dimension"), "draw_dimension"}}) {
        auto* button = new QPushButton(word, this);
        button->setObjectName(QLatin1String(name));
        button->setCheckable(true);
        connect(button, &QPushButton::clicked, this, [this, button, kind = kind](bool on) {
            if (!on) return m_tool.cancel();
            for (QPushButton* other : m_kinds) other->setChecked(other == button);
            m_tool.begin(kind);
        });
        m_kinds.push_back(button);
        row->addWidget(button);
    }
    layout->addLayout(row);
    layout->addSpacing(10);
}

void ShapePanel::make_fields() {
    m_list->setObjectName(QStringLiteral("shape_list"));
    m_name->setObjectName(QStringLiteral("shape_name"));
    m_role->setObjectName(QStringLiteral("shape_role"));
    m_mirrored->setObjectName(QStringLiteral("shape_mirrored"));
    m_material->setObjectName(QStringLiteral("shape_material"));
    m_direction->setObjectName(QStringLiteral("shape_direction"));
    m_corners->setObjectName(QStringLiteral("shape_corners"));
    m_words->setObjectName(QStringLiteral("shape_words"));
    m_mirrored->setToolTip(tr("Of the pole's or the slot's pitch"));
    auto* layout = new QVBoxLayout(m_fields);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* grid = new QGridLayout;
    for (Use use : uses) m_role->addItem(use_word(use));
    const std::pair<QLabel*, QWidget*> rows[] = {{new QLabel(tr("Name"), this), m_name},
                                                 {new QLabel(tr("Role"), this), m_role},
                                                 {m_material_label, m_material},
                                                 {m_direction_label, m_direction}};
    int line = 0;
    for (const auto& [label, field] : rows) {
        label->setWordWrap(true);
        grid->addWidget(label, line, 0);
        grid->addWidget(field, line++, 1);
    }
    layout->addLayout(grid);
    layout->addWidget(m_mirrored);
    m_corners->setHorizontalHeaderLabels({tr("x"), tr("y"), tr("bulge"), tr("fillet")});
    m_corners->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    for (int narrow : {2, 3}) {
        m_corners->horizontalHeader()->setSectionResizeMode(narrow, QHeaderView::Fixed);
        m_corners->setColumnWidth(narrow, 62);
    }
    m_corners->verticalHeader()->setDefaultSectionSize(24);
    m_corners->setToolTip(
        tr("From the machine's centre, x along the pitch's axis. A text that starts with = is a formula, "
           "e.g. = gap_diameter / 2 - 4 mm. Bulge: of the edge to the next corner, the tangent of a "
           "quarter of its sweep; 0 is straight."));
    m_corners->setWordWrap(false);
    m_corners->setMinimumHeight(96);
    layout->addWidget(m_corners, 1);
    m_whole->setObjectName(QStringLiteral("shape_whole_text"));
    m_whole->setPlaceholderText(tr("the chosen cell in full"));
    layout->addWidget(m_whole);
    connect(m_corners, &QTableWidget::currentCellChanged, this, [this](int row, int column) {
        const auto* cell = m_corners->item(row, column);
        m_whole->setText(cell ? cell->text() : QString());
    });
    connect(m_whole, &QLineEdit::returnPressed, this, [this] {
        if (auto* cell = m_corners->currentItem()) cell->setText(m_whole->text());
    });
    auto* buttons = new FlowLayout(6);
    const auto add = [&](const QString& word, const char* name, auto slot) {
        auto* button = new QPushButton(word, this);
        button->setObjectName(QLatin1String(name));
        connect(button, &QPushButton::clicked, this, slot);
        buttons->addWidget(button);
    };
    add(tr("add corner"), "shape_insert", &ShapePanel::insert_corner);
    add(tr("take corner"), "shape_take_corner", &ShapePanel::remove_corner);
    add(tr("offset …"), "shape_offset", &ShapePanel::offset);
    add(tr("double"), "shape_double", &ShapePanel::duplicate);
    add(tr("trim"), "shape_trim", [this] { m_tool.begin_trim(); });
    add(tr("remove"), "shape_remove", &ShapePanel::remove);
    layout->addLayout(buttons);
    m_words->setProperty("caution", true);
    m_words->setWordWrap(true);
    layout->addWidget(m_words);
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        const std::string name = m_name->text().trimmed().toStdString();
        const auto& shapes = m_document.design().shapes;
        const bool taken =
            std::any_of(shapes.begin(), shapes.end(), [&](const FreeShape& s) { return s.name == name; });
        if (name.empty() || taken) return refresh();
        edit(tr("rename shape"), [&](FreeShape& s) { s.name = name; });
        m_tool.select(name);
    });
    connect(m_role, &QComboBox::activated, this, [this](int index) {
        edit(tr("role of shape"), [&](FreeShape& s) {
            if (s.use != uses[index]) s.material.clear(); // of another kind
            s.use = uses[index];
        });
    });
    connect(m_mirrored, &QCheckBox::clicked, this,
            [this](bool on) { edit(tr("mirror shape"), [&](FreeShape& s) { s.mirrored = on; }); });
    connect(m_material, &QComboBox::activated, this, [this](int index) {
        edit(tr("material of shape"), [&](FreeShape& s) {
            s.material = index == 0 ? std::string() : m_material->itemText(index).toStdString();
        });
    });
    connect(m_direction, &QLineEdit::editingFinished, this, [this] {
        const std::string text = with_unit(m_direction->text().trimmed().toStdString(), "deg");
        edit(tr("direction of magnet"), [&](FreeShape& s) { s.direction = text; });
    });
    connect(m_corners, &QTableWidget::cellChanged, this, &ShapePanel::take_cell);
}

const FreeShape* ShapePanel::chosen() const {
    for (const FreeShape& shape : m_document.design().shapes)
        if (shape.name == m_tool.selected()) return &shape;
    return nullptr;
}

void ShapePanel::edit(const QString& label, const std::function<void(FreeShape&)>& how) {
    Design design = m_document.design();
    for (FreeShape& shape : design.shapes)
        if (shape.name == m_tool.selected()) {
            how(shape);
            if (m_document.design() != design) m_document.set_design(label, design);
            return;
        }
}

void ShapePanel::showEvent(QShowEvent* event) {
    const auto& shapes = m_document.design().shapes;
    if (!chosen() && !shapes.empty()) m_tool.select(shapes.front().name);
    QWidget::showEvent(event);
}

void ShapePanel::refresh() {
    const auto& shapes = m_document.design().shapes;
    m_list->clear();
    if (shapes.empty()) m_list->addItem(tr("no shapes yet"));
    for (const FreeShape& shape : shapes) {
        const QString name = QString::fromStdString(shape.name);
        m_list->addItem(tr("%1 on the %2").arg(name, QString::fromStdString(shape.side)), name);
    }
    m_list->setEnabled(!shapes.empty());
    m_list->setCurrentIndex(std::max(0, m_list->findData(QString::fromStdString(m_tool.selected()))));
    const FreeShape* shape = chosen();
    m_fields->setVisible(shape != nullptr);
    if (!shape) {
        if (!shapes.empty()) m_list->setCurrentIndex(-1);
        return;
    }
    m_name->setText(QString::fromStdString(shape->name));
    m_role->setCurrentIndex(int(std::find(std::begin(uses), std::end(uses), shape->use) - std::begin(uses)));
    m_mirrored->setChecked(shape->mirrored);
    const bool magnet = shape->use == Use::Magnet;
    m_direction->setText(QString::fromStdString(shape->direction));
    for (QWidget* widget : std::initializer_list<QWidget*>{m_direction, m_direction_label})
        widget->setVisible(magnet);
    m_material->clear();
    m_material->addItem(magnet                    ? tr("the rotor's grade")
                        : shape->use == Use::Iron ? tr("the side's steel")
                                                  : tr("air"));
    const auto fits = [&](MaterialKind kind) {
        if (magnet) return kind == MaterialKind::Magnet;
        if (shape->use == Use::Iron) return kind == MaterialKind::Steel;
        return kind == MaterialKind::Insulator || kind == MaterialKind::Conductor;
    };
    for (const auto* library : {&m_document.project().materials, &shipped_materials()})
        for (const auto& [name, material] : *library)
            if (fits(material.kind)) m_material->addItem(QString::fromStdString(name));
    m_material->setCurrentIndex(
        shape->material.empty() ? 0
                                : std::max(0, m_material->findText(QString::fromStdString(shape->material))));
    show_corners(*shape);
    QString words;
    for (const Problem& p : m_document.problems())
        if (p.path == "drawings.shapes." + shape->name)
            words += QString::fromStdString(p.sentence) + QLatin1Char('\n');
    m_words->setText(words.trimmed());
}

void ShapePanel::show_corners(const FreeShape& shape) {
    const QSignalBlocker quiet(m_corners);
    const bool circle = shape.corners.empty();
    m_corners->setHorizontalHeaderLabels(circle ? QStringList{tr("x"), tr("y"), tr("radius"), QString()}
                                                : QStringList{tr("x"), tr("y"), tr("bulge"), tr("fillet")});
    m_corners->setRowCount(circle ? 1 : int(shape.corners.size()));
    const auto put = [&](int row, int column, const std::string& text) {
        auto* cell = new QTableWidgetItem(QString::fromStdString(text));
        cell->setToolTip(cell->text());
        m_corners->setItem(row, column, cell);
    };
    if (circle) {
        const std::string* const texts[] = {&shape.x, &shape.y, &shape.radius};
        for (int c = 0; c < 3; ++c) put(0, c, *texts[c]);
        put(0, 3, {});
        return;
    }
    for (std::size_t r = 0; r < shape.corners.size(); ++r) {
        const FreeShape::Corner& c = shape.corners[r];
        put(int(r), 0, c.x);
        put(int(r), 1, c.y);
        put(int(r), 2, number_text(c.bulge, 6));
        put(int(r), 3, c.fillet);
    }
}

void ShapePanel::take_cell(int row, int column) {
    const QString text = m_corners->item(row, column)->text();
    edit(tr("corner of shape"), [&](FreeShape& s) {
        if (s.corners.empty()) {
            std::string* const texts[] = {&s.x, &s.y, &s.radius};
            if (column < 3) *texts[column] = in_millimetres(text);
            return;
        }
        FreeShape::Corner& c = s.corners[std::size_t(row)];
        bool good = false;
        const double bulge = QString(text).replace(',', '.').toDouble(&good);
        if (column == 0) c.x = in_millimetres(text);
        if (column == 1) c.y = in_millimetres(text);
        if (column == 2 && good && std::abs(bulge) < 100) c.bulge = bulge;
        if (column == 3) c.fillet = in_millimetres(text);
    });
    refresh();
}

void ShapePanel::insert_corner() {
    const int row = m_corners->currentRow();
    const ShapeOutline* outline = m_tool.outline(m_tool.selected());
    edit(tr("corner of shape"), [&](FreeShape& s) {
        if (row < 0 || !outline || s.corners.size() < 2 || outline->corners.size() != s.corners.size()) return;
        const auto at = std::size_t(row), next = (at + 1) % outline->corners.size();
        s.corners.insert(s.corners.begin() + row + 1,
                         corner_at(0.5 * (outline->corners[at] + outline->corners[next])));
    });
}

void ShapePanel::remove_corner() {
    const int row = m_corners->currentRow();
    edit(tr("corner of shape"), [&](FreeShape& s) {
        if (row >= 0 && s.corners.size() > 3) s.corners.erase(s.corners.begin() + row);
    });
}

void ShapePanel::duplicate() {
    const FreeShape* shape = chosen();
    if (!shape) return;
    FreeShape copy = *shape;
    Design design = m_document.design();
    copy.name = free_shape_name(design, copy.use);
    design.shapes.push_back(copy);
    m_document.set_design(tr("double shape"), design);
    m_tool.select(copy.name);
}

void ShapePanel::offset() {
    const ShapeOutline* outline = m_tool.outline(m_tool.selected());
    if (!outline) return;
    bool good = false;
    const QString text =
        QInputDialog::getText(this, tr("Offset"), tr("Outwards by (inwards when negative), mm:"),
                              QLineEdit::Normal, QStringLiteral("0.5"), &good);
    const auto by = typed_length(text);
    if (!good) return;
    if (!by) return m_words->setText(QString::fromStdString(by.problems().front().sentence));
    if (chosen()->corners.empty()) {
        const double radius = circle_of(outline->pieces.front()).radius + *by;
        return edit(tr("offset shape"), [&](FreeShape& s) { s.radius = coordinate_text(radius); });
    }
    const auto corners = offset_corners(*outline, *by);
    if (!corners) return m_words->setText(QString::fromStdString(corners.problems().front().sentence));
    edit(tr("offset shape"), [&](FreeShape& s) { s.corners = *corners; });
}

void ShapePanel::remove() {
    Design design = m_document.design();
    std::erase_if(design.shapes, [&](const FreeShape& s) { return s.name == m_tool.selected(); });
    m_document.set_design(tr("remove shape"), design);
}

} // namespace mavlo::app
