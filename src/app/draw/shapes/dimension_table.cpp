#include "draw/shapes/dimension_table.h"

#include "quantity/quantity.h"
#include "section/arrow_head.h"
#include "shell/theme.h"

#include <QHeaderView>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace mavlo::app {
namespace {

QString millimetres(double metres) {
    return QString::fromStdString(number_text(metres * 1e3, 6));
}

} // namespace

void paint_dimensions(QPainter& painter, const ViewFrame& frame, const Machine& machine, double rotor_angle) {
    const Theme& t = theme();
    for (const DrawnDimension& d : machine.values.dimensions()) {
        const bool rotor = d.side == "rotor";
        const double turn =
            (rotor ? machine.section.rotor() : machine.section.stator()).tile.turn + (rotor ? rotor_angle : 0);
        const QPointF a = frame.to_screen(rotated(d.from, turn)), b = frame.to_screen(rotated(d.to, turn));
        const QColor ink = d.value.empty() ? t.ink : t.accent;
        painter.setPen(QPen(ink, 1.2));
        painter.setBrush(ink);
        painter.drawLine(a, b);
        paint_arrow_head(painter, a, b, {8, 2.6});
        paint_arrow_head(painter, b, a, {8, 2.6});
        const QString text = millimetres(distance(d.from, d.to));
        QRectF box(0, 0, painter.fontMetrics().horizontalAdvance(text) + 8, 16);
        box.moveCenter((a + b) / 2);
        QColor ground = t.paper;
        ground.setAlphaF(0.92F);
        painter.fillRect(box, ground);
        painter.drawText(box, Qt::AlignCenter, text);
    }
}

DimensionTable::DimensionTable(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_table(new QTableWidget(0, 3, this))
    , m_words(new QLabel(this)) {
    m_table->setObjectName(QStringLiteral("drawn_dimensions"));
    m_table->setHorizontalHeaderLabels({tr("Dimension"), tr("is, mm"), tr("shall be")});
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(24);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setToolTip(
        tr("A drawing that was read follows the length or formula typed under “shall be”: what lies "
           "at the dimension's second end moves. Others are measured."));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 8, 0, 0);
    layout->addWidget(m_table);
    auto* remove_button = new QPushButton(tr("remove dimension"), this);
    remove_button->setObjectName(QStringLiteral("dimension_remove"));
    layout->addWidget(remove_button, 0, Qt::AlignLeft);
    m_words->setObjectName(QStringLiteral("dimension_words"));
    m_words->setProperty("caution", true);
    m_words->setWordWrap(true);
    layout->addWidget(m_words);
    connect(m_table, &QTableWidget::cellChanged, this, &DimensionTable::take_cell);
    connect(remove_button, &QPushButton::clicked, this, &DimensionTable::remove);
    connect(&document, &Document::changed, this, &DimensionTable::refresh);
    refresh();
}

void DimensionTable::refresh() {
    const QSignalBlocker quiet(m_table);
    const Design& design = m_document.design();
    const auto built = m_document.built();
    setVisible(!design.dimensions.empty());
    m_table->setRowCount(int(design.dimensions.size()));
    m_table->setFixedHeight(40 + 24 * std::clamp(int(design.dimensions.size()), 1, 5));
    QString words;
    for (std::size_t i = 0; i < design.dimensions.size(); ++i) {
        const DrawnDimension& d = design.dimensions[i];
        const bool drawn = design.drawings.contains(d.side);
        double length = distance(d.from, d.to);
        if (built && i < built->machine.values.dimensions().size()) {
            const DrawnDimension& made = built->machine.values.dimensions()[i];
            length = distance(made.from, made.to);
        }
        const auto put = [&](int column, const QString& text, bool editable) {
            auto* cell = new QTableWidgetItem(text);
            if (!editable) cell->setFlags(cell->flags() & ~Qt::ItemIsEditable);
            m_table->setItem(int(i), column, cell);
        };
        put(0, QString::fromStdString(d.name + ", " + d.side), false);
        put(1, millimetres(length), false);
        put(2, drawn ? QString::fromStdString(d.value) : tr("(its dimensions)"), drawn);
        for (const Problem& p : m_document.problems())
            if (p.path == "drawings.dimensions." + d.name) words += QString::fromStdString(p.sentence) + '\n';
    }
    m_words->setText(words.trimmed());
    m_words->setVisible(!words.isEmpty());
}

void DimensionTable::take_cell(int row, int column) {
    Design design = m_document.design();
    if (column != 2 || row >= int(design.dimensions.size())) return;
    design.dimensions[std::size_t(row)].value =
        with_unit(m_table->item(row, column)->text().trimmed().toStdString(), "mm");
    if (design != m_document.design()) m_document.set_design(tr("length of the drawing"), design);
}

void DimensionTable::remove() {
    Design design = m_document.design();
    const int row = m_table->currentRow();
    if (row < 0 || row >= int(design.dimensions.size())) return;
    design.dimensions.erase(design.dimensions.begin() + row);
    m_document.set_design(tr("remove dimension"), design);
}

} // namespace mavlo::app
