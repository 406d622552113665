#include "weigh/variants_page.h"

#include "project/shelf.h"
#include "question/straight.h"
#include "question/words.h"
#include "shell/new_variant.h"
#include "shell/spoken.h"
#include "shell/theme.h"
#include "shell/wanted_direction.h"
#include "weigh/design_picture.h"

#include <QHeaderView>
#include <QVBoxLayout>

namespace mavlo::app {
namespace {

constexpr int row_height = 26, picture_height = 132, word_width = 250, unit_width = 84, variant_width = 190;

/// What a figure's row says of the wish; a click turns it.
QString wish_of(int direction) {
    return direction > 0 ? QStringLiteral("▲") : direction < 0 ? QStringLiteral("▼") : QStringLiteral("◆");
}

QString wish_words(int direction) {
    return direction > 0   ? VariantsPage::tr("More is better. A click: less is better")
           : direction < 0 ? VariantsPage::tr("Less is better. A click: neither")
                           : VariantsPage::tr("Neither is better. A click: more is better");
}

struct Overlaid {
    const char* title;
    const char* question;
    const char* curve;
    const char* x_label;
    const char* y_label;
};

constexpr Overlaid overlaid_curves[] = {
    {QT_TRANSLATE_NOOP("mavlo::app::VariantsPage", "Cogging torque over its period"), "cogging", "torque",
     QT_TRANSLATE_NOOP("mavlo::app::VariantsPage", "rotor angle, ° mechanical"), "N·m"},
    {QT_TRANSLATE_NOOP("mavlo::app::VariantsPage", "Torque with current"), "load", "torque",
     QT_TRANSLATE_NOOP("mavlo::app::VariantsPage", "rotor angle, ° mechanical"), "N·m"},
    {QT_TRANSLATE_NOOP("mavlo::app::VariantsPage", "Back-EMF, line UV"), "no-load", "back_emf_uv",
     QT_TRANSLATE_NOOP("mavlo::app::VariantsPage", "rotor angle, ° mechanical"), "V"},
    {QT_TRANSLATE_NOOP("mavlo::app::VariantsPage", "Gap flux density, radial"), "no-load",
     "gap_flux_density_radial", QT_TRANSLATE_NOOP("mavlo::app::VariantsPage", "gap angle, ° mechanical"), "T"},
};

} // namespace

VariantsPage::VariantsPage(Document& document, TellTaleEngine& engine, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_engine(engine)
    , m_all(new QPushButton(tr("all rows"), this))
    , m_words(new QLabel(this))
    , m_table(new QTableWidget(this))
    , m_choice(new QComboBox(this))
    , m_plot(new Plot(this))
    , m_hint(new QLabel(this)) {
    setObjectName(QStringLiteral("variants"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(28, 6, 28, 12);
    layout->setSpacing(8);
    auto* above = new QHBoxLayout;
    m_words->setProperty("soft", true);
    above->addWidget(m_words, 1);
    m_all->setObjectName(QStringLiteral("variants_all_rows"));
    m_all->setProperty("narrow", true);
    m_all->setCheckable(true);
    m_all->setToolTip(tr("Figures and dimensions in which the variants are alike, too"));
    above->addWidget(m_all);
    auto* add = new QPushButton(tr("New variant …"), this);
    add->setObjectName(QStringLiteral("variants_new"));
    add->setProperty("narrow", true);
    above->addWidget(add);
    layout->addLayout(above);
    m_table->setObjectName(QStringLiteral("variants_table"));
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionMode(QAbstractItemView::NoSelection);
    m_table->setFocusPolicy(Qt::NoFocus);
    m_table->setShowGrid(false);
    m_table->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_table->verticalHeader()->hide();
    m_table->horizontalHeader()->hide();
    layout->addWidget(m_table);
    auto* tools = new QHBoxLayout;
    m_choice->setMinimumWidth(260);
    for (const Overlaid& overlay : overlaid_curves) m_choice->addItem(tr(overlay.title));
    tools->addWidget(m_choice);
    m_hint->setProperty("soft", true);
    tools->addWidget(m_hint, 1);
    layout->addLayout(tools);
    m_plot->setMinimumHeight(250);
    layout->addWidget(m_plot, 1);
    connect(m_all, &QPushButton::toggled, this, &VariantsPage::fill_table);
    connect(add, &QPushButton::clicked, this, [this] { make_variant(m_document, window()); });
    connect(m_table, &QTableWidget::cellClicked, this, [this](int row, int column) {
        if (column == 0) turn_direction(row);
    });
    connect(m_choice, &QComboBox::currentIndexChanged, this, &VariantsPage::fill_plot);
    connect(&document, &Document::changed, this, &VariantsPage::follow_document);
    connect(&engine, &TellTaleEngine::changed, this, &VariantsPage::refresh);
}

void VariantsPage::showEvent(QShowEvent*) {
    follow_document();
}

void VariantsPage::follow_document() {
    if (!isVisible()) return;
    m_built.clear();
    for (const Variant& variant : m_document.project().variants) {
        Problems problems; // the table says that it cannot be built; Draw says why
        const auto built = build_design(m_document.project(), variant.design, problems);
        m_built.push_back(built);
        m_engine.want(built);
    }
    refresh();
    fill_plot();
}

void VariantsPage::refresh() {
    if (isVisible() && m_built.size() == m_document.project().variants.size()) fill_table();
}

void VariantsPage::fill_table() {
    const auto& variants = m_document.project().variants;
    m_table->clear();
    m_table->setRowCount(0);
    m_figure_of_row.clear();
    m_table->setColumnCount(2 + int(variants.size()));
    m_words->setText(
        variants.size() > 1
            ? tr("Rows in which variants differ; a full answer's figure where it is kept, ≈ the quick model's. "
                 "A click on a figure's sign says what is better.")
            : tr("One variant so far. A new one begins as a copy: change it on Draw, and what differs stands "
                 "here."));
    m_all->setVisible(variants.size() > 1);
    add_heads();
    add_rows(tr("Key figures"), compared_figures(m_document, m_engine, m_built));
    if (variants.size() > 1) add_rows(tr("Dimensions"), compared_dimensions(m_document.project()));
    m_table->setColumnWidth(0, word_width);
    m_table->setColumnWidth(1, unit_width);
    for (int i = 2; i < m_table->columnCount(); ++i) m_table->setColumnWidth(i, variant_width);
    fit_height();
}

/// The sections, each over its name, which takes the variant in hand.
void VariantsPage::add_heads() {
    const Project& project = m_document.project();
    m_table->setRowCount(1);
    m_figure_of_row.push_back(nullptr);
    m_table->setRowHeight(0, picture_height + 2 * row_height);
    for (std::size_t i = 0; i < project.variants.size(); ++i) {
        const Variant& variant = project.variants[i];
        const QString name = QString::fromStdString(variant.name);
        auto* head = new QWidget(m_table);
        auto* layout = new QVBoxLayout(head);
        layout->setContentsMargins(8, 2, 8, 2);
        layout->setSpacing(2);
        auto* picture = new DesignPicture(head);
        picture->setMinimumHeight(picture_height);
        picture->show_built(m_built[i]);
        layout->addWidget(picture, 1);
        auto* button =
            new QPushButton(fontMetrics().elidedText(name, Qt::ElideRight, variant_width - 50), head);
        button->setObjectName(QStringLiteral("variants_take:") + name);
        button->setProperty("narrow", true);
        button->setCheckable(true);
        button->setChecked(variant.name == project.active);
        button->setToolTip(tr("Takes %1 in hand").arg(name));
        connect(button, &QPushButton::clicked, this, [this, name] { m_document.choose_variant(name); });
        layout->addWidget(button);
        const bool is_reference = variant.name == project.reference;
        auto* note = new QLabel(!m_built[i]                                   ? tr("cannot be built")
                                : is_reference && project.variants.size() > 1 ? tr("the reference")
                                                                              : QString(),
                                head);
        note->setProperty("soft", true);
        note->setAlignment(Qt::AlignHCenter);
        layout->addWidget(note);
        m_table->setCellWidget(0, 2 + int(i), head);
    }
}

QTableWidgetItem* VariantsPage::add_text(int row, int column, const QString& text, bool right) {
    auto* item = new QTableWidgetItem(text);
    item->setTextAlignment((right ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    m_table->setItem(row, column, item);
    return item;
}

void VariantsPage::add_figure_word(int row, const ComparedRow& shown) {
    if (!shown.figure) {
        add_text(row, 0, shown.label, false);
        return;
    }
    const int wish = wanted_direction(*shown.figure);
    auto* word = add_text(row, 0, wish_of(wish) + QStringLiteral("  ") + shown.label, false);
    word->setToolTip(wish_words(wish));
}

void VariantsPage::add_rows(const QString& group, const std::vector<ComparedRow>& rows) {
    const bool all = m_all->isChecked() || m_document.project().variants.size() == 1;
    int row = m_table->rowCount();
    m_table->setRowCount(row + 1);
    m_figure_of_row.push_back(nullptr);
    auto* title = add_text(row, 0, group, false);
    title->setForeground(theme().soft);
    title->setFont(figure_font(12));
    const int before = row;
    for (const ComparedRow& shown : rows) {
        if (!all && !shown.differs()) continue;
        m_table->setRowCount(++row + 1);
        m_figure_of_row.push_back(shown.figure);
        add_figure_word(row, shown);
        add_text(row, 1, shown.unit, false)->setForeground(theme().soft);
        for (std::size_t i = 0; i < shown.cells.size(); ++i) {
            const ComparedCell& cell = shown.cells[i];
            auto* item = add_text(
                row, 2 + int(i),
                cell.change.isEmpty() ? cell.text : cell.text + QStringLiteral("   ") + cell.change, true);
            if (cell.verdict != 0)
                item->setForeground(theme().written(cell.verdict > 0 ? theme().good : theme().caution));
            if (!shown.figure && cell.differs) item->setForeground(theme().written(theme().accent));
        }
    }
    if (row == before && !rows.empty()) add_text(before, 1, tr("alike"), false)->setForeground(theme().soft);
}

void VariantsPage::turn_direction(int row) {
    const KeyFigure* figure = m_figure_of_row.at(std::size_t(row));
    if (!figure) return;
    const int wish = wanted_direction(*figure);
    set_wanted_direction(*figure, wish > 0 ? -1 : wish + 1);
    Q_EMIT m_engine.changed(); // the tell-tales colour by it too
}

void VariantsPage::fit_height() {
    int height = 6;
    for (int row = 0; row < m_table->rowCount(); ++row) {
        if (row > 0) m_table->setRowHeight(row, row_height);
        height += m_table->rowHeight(row);
    }
    const bool wide = word_width + unit_width + variant_width * (m_table->columnCount() - 2) > width() - 56;
    m_table->setFixedHeight(height + (wide ? 12 : 0));
}

void VariantsPage::fill_plot() {
    const Overlaid& overlay = overlaid_curves[std::max(0, m_choice->currentIndex())];
    QString x_label = tr(overlay.x_label), y_label = QString::fromUtf8(overlay.y_label);
    std::vector<PlotCurve> curves;
    QStringList missing;
    const Theme& t = theme();
    const QColor colours[] = {t.accent, t.phase[1], t.phase[2], t.phase[0], t.north_in, t.soft};
    for (const Variant& variant : m_document.project().variants) {
        const auto answer = m_document.answers().find(overlay.question, ask_of(m_document.project(), variant));
        const Curve* curve = answer ? answer->curve(overlay.curve) : nullptr;
        const std::string along = straight_name(overlay.curve);
        if (const Curve* straight = answer && !curve ? answer->curve(along) : nullptr) {
            curve = straight;
            y_label = QString::fromStdString(shown_unit(straight->unit));
        }
        if (curve && curve->x_unit == "mm") x_label = tr("position, mm");
        if (curve)
            curves.push_back({*curve, QString::fromStdString(variant.name),
                              colours[curves.size() % std::size(colours)], false, false});
        else
            missing << QString::fromStdString(variant.name);
    }
    m_hint->setText(
        missing.isEmpty()
            ? QString()
            : tr("Not asked yet with the standard inputs, or not kept since the project has no file: %1")
                  .arg(missing.join(QStringLiteral(", "))));
    m_plot->show_curves(curves, x_label, y_label);
}

} // namespace mavlo::app
