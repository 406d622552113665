#include "wind/conductor_page.h"

#include "quantity/quantity.h"
#include "shell/typed_number.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>
#include <cmath>

namespace mavlo::app {
namespace {

const SheetPage& conductor_rows() {
    static const SheetPage list{
        "Winding",
        {{"Conductor",
          {"winding.conductor.material", "winding.conductor.shape", "winding.conductor.diameter",
           "winding.conductor.width", "winding.conductor.height", "winding.conductor.strands",
           "winding.conductor.grade", "winding.fill_factor", "winding.separator", "winding.overhang",
           "winding.end_length", "winding.temperature"}}}};
    return list;
}

constexpr Wanted kinds[] = {Wanted::PhaseResistance, Wanted::SlotFill, Wanted::CurrentDensity};

} // namespace

ConductorPage::ConductorPage(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_facts(new QLabel(this))
    , m_found(new QLabel(this))
    , m_kind(new QComboBox(this))
    , m_wanted(new QLineEdit(this))
    , m_options(new QTableWidget(0, 5, this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 8);
    layout->setSpacing(4);
    layout->addWidget(new SlotView(document, this));
    m_facts->setObjectName(QStringLiteral("conductor_facts"));
    for (QLabel* text : {m_facts, m_found}) {
        text->setProperty("soft", true);
        text->setWordWrap(true);
        text->setContentsMargins(20, 0, 16, 4);
    }
    layout->addWidget(m_facts);
    auto* wanted_row = new QHBoxLayout;
    wanted_row->setContentsMargins(20, 4, 16, 0);
    m_kind->setObjectName(QStringLiteral("wanted_kind"));
    m_kind->addItems(
        {tr("Wanted phase resistance, Ω"), tr("Wanted slot fill"), tr("Wanted current density, A/mm²")});
    m_kind->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_kind->setMinimumContentsLength(10);
    m_wanted->setObjectName(QStringLiteral("wanted_resistance"));
    m_wanted->setAccessibleName(tr("Resistance that is wanted"));
    m_wanted->setFixedWidth(86);
    m_wanted->setAlignment(Qt::AlignRight);
    m_wanted->setToolTip(
        tr("Type what is wanted; the strand that gives it is set, and the nearest standard sizes are "
           "listed. Current density is rms at the rated current."));
    wanted_row->addWidget(m_kind, 1);
    wanted_row->addWidget(m_wanted);
    layout->addLayout(wanted_row);
    layout->addWidget(m_found);
    m_found->hide();
    m_options->setObjectName(QStringLiteral("conductor_options"));
    m_options->setHorizontalHeaderLabels({tr("size"), tr("Ω"), tr("fill"), tr("A/mm²"), tr("fits")});
    m_options->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_options->horizontalHeader()->setStretchLastSection(true);
    m_options->verticalHeader()->hide();
    m_options->verticalHeader()->setDefaultSectionSize(24);
    m_options->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_options->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_options->setContentsMargins(20, 0, 16, 0);
    layout->addWidget(m_options);
    m_options->hide();
    auto* rows = new SheetRows(document, conductor_rows());
    connect(rows, &SheetRows::hovered, this, &ConductorPage::hovered);
    layout->addWidget(rows);
    connect(m_wanted, &QLineEdit::returnPressed, this, &ConductorPage::find);
    connect(m_options, &QTableWidget::cellClicked, this, &ConductorPage::take);
    connect(&document, &Document::changed, this, &ConductorPage::refresh);
    refresh();
}

void ConductorPage::refresh() {
    const auto& built = m_document.built();
    if (!built || !built->machine.wound()) return m_facts->setText(tr("A smooth stator carries no winding."));
    const Machine& m = built->machine;
    const Conductor c = machine_conductor(m);
    const auto line = c.line_resistance(m.winding.connection);
    QString text =
        tr("Copper %1 % of the slot's area for conductors; insulated wire %2 % of the area that liner, wedge "
           "and separators leave free.\n%3 Ω a phase")
            .arg(c.size.fill * 100, 0, 'f', 1)
            .arg(c.size.insulated_fill * 100, 0, 'f', 1)
            .arg(c.resistance, 0, 'g', 4);
    if (line) text += tr(", %1 Ω between terminals").arg(*line, 0, 'g', 4);
    text += tr(" at %1 °C · %2 A/mm² rms at rated current · turn %3 mm long · %4 kg of conductor · %5 µH of "
               "end windings")
                .arg(m.winding.temperature - 273.15, 0, 'f', 0)
                .arg(rated_density(m, c) * 1e-6, 0, 'f', 2)
                .arg(c.turn_length * 1e3, 0, 'f', 0)
                .arg(c.copper_volume * m.winding.conductor_material.density, 0, 'g', 3)
                .arg(c.end_inductance * 1e6, 0, 'g', 3);
    m_facts->setText(text);
}

void ConductorPage::find() {
    const auto& built = m_document.built();
    const Wanted kind = kinds[m_kind->currentIndex()];
    std::string text = typed_number(m_wanted->text().trimmed());
    auto wanted = parse_quantity(text);
    const Dimension right = kind == Wanted::PhaseResistance ? dimension::resistance : Dimension{};
    if (kind == Wanted::CurrentDensity && wanted && wanted->dimension.plain()) wanted->si *= 1e6;
    const bool sound = wanted && (wanted->dimension.plain() || wanted->dimension == right) && wanted->si > 0;
    if (!built || !built->machine.wound() || !sound) {
        Q_EMIT refused(tr("A number such as 1.2 is wanted, for a resistance also \"0.8 Ohm\"."));
        return;
    }
    const double value = kind == Wanted::SlotFill && wanted->si > 1 ? wanted->si / 100 : wanted->si;
    const auto options = find_conductor(built->machine, kind, value);
    m_found->show();
    if (!options) {
        m_options->hide();
        return m_found->setText(QString::fromStdString(options.problems().front().sentence));
    }
    m_list = *options;
    take(0);
    show_options();
    const ConductorOption& exact = m_list.front();
    m_found->setText(
        tr("A strand of %1 mm gives it: %2 Ω, slot fill %3, %4 A/mm². A row takes a standard size:")
            .arg(exact.diameter * 1e3, 0, 'f', 3)
            .arg(exact.resistance, 0, 'g', 4)
            .arg(exact.fill, 0, 'f', 3)
            .arg(exact.density * 1e-6, 0, 'f', 2));
}

void ConductorPage::show_options() {
    m_options->setRowCount(int(m_list.size()));
    m_options->setFixedHeight(40 + 24 * int(m_list.size()));
    for (std::size_t i = 0; i < m_list.size(); ++i) {
        const ConductorOption& o = m_list[i];
        const QString size = o.name.empty() ? tr("%1 mm, exactly").arg(o.diameter * 1e3, 0, 'f', 3)
                                            : QString::fromStdString(o.name);
        const QString cells[] = {size, QString::number(o.resistance, 'g', 4), QString::number(o.fill, 'f', 3),
                                 QString::number(o.density * 1e-6, 'f', 2), o.fits ? tr("yes") : tr("no")};
        for (int c = 0; c < 5; ++c) m_options->setItem(int(i), c, new QTableWidgetItem(cells[c]));
    }
    m_options->show();
}

void ConductorPage::take(int row) {
    if (row < 0 || row >= int(m_list.size())) return;
    m_document.set_design(tr("take a conductor"),
                          with_conductor(m_document.design(), m_list[std::size_t(row)]));
}

} // namespace mavlo::app
