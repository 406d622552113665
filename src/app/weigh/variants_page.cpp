#include "weigh/variants_page.h"

#include "project/shelf.h"
#include "question/straight.h"
#include "question/words.h"
#include "shell/theme.h"

#include <QHeaderView>
#include <QVBoxLayout>
#include <cmath>

namespace mavlo::app {
namespace {

/// Those that say something of one of the variants at least.
std::vector<const KeyFigure*> key_figures(const std::vector<std::shared_ptr<const DrawnMachine>>& built) {
    std::vector<const KeyFigure*> list;
    for (const KeyFigure& figure : registry<KeyFigure>().all()) {
        const auto applies = [&](const auto& machine) {
            return !figure.applies || !machine || figure.applies(machine->machine.facts());
        };
        if (built.empty() || std::any_of(built.begin(), built.end(), applies)) list.push_back(&figure);
    }
    return list;
}

struct Overlaid {
    const char* title;
    const char* question;
    const char* curve;
    const char* x_label;
    const char* y_label;
};

constexpr Overlaid overlaid_curves[] = {
    {"Cogging torque over its period", "cogging", "torque", "rotor angle, ° mechanical", "N·m"},
    {"Torque with current", "load", "torque", "rotor angle, ° mechanical", "N·m"},
    {"Back-EMF, line UV", "no-load", "back_emf_uv", "rotor angle, ° mechanical", "V"},
    {"Gap flux density, radial", "no-load", "gap_flux_density_radial", "gap angle, ° mechanical", "T"},
};

} // namespace

VariantsPage::VariantsPage(Document& document, TellTaleEngine& engine, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_engine(engine)
    , m_table(new QTableWidget(this))
    , m_choice(new QComboBox(this))
    , m_plot(new Plot(this))
    , m_hint(new QLabel(this)) {
    setObjectName(QStringLiteral("variants"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(28, 6, 28, 12);
    layout->setSpacing(8);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionMode(QAbstractItemView::NoSelection);
    m_table->setFocusPolicy(Qt::NoFocus);
    m_table->setShowGrid(false);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(27);
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    m_table->setFixedHeight(34 + 27 * int(key_figures({}).size()));
    layout->addWidget(m_table);
    auto* tools = new QHBoxLayout;
    m_choice->setMinimumWidth(260);
    for (const Overlaid& overlay : overlaid_curves) m_choice->addItem(QString::fromUtf8(overlay.title));
    tools->addWidget(m_choice);
    m_hint->setProperty("soft", true);
    tools->addWidget(m_hint, 1);
    layout->addLayout(tools);
    layout->addWidget(m_plot, 1);
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
    m_table->setColumnCount(2 + int(variants.size()));
    const auto figures_shown = key_figures(m_built);
    m_table->setRowCount(int(figures_shown.size()));
    QStringList heads{tr("Key figure (quick model)"), tr("unit")};
    std::size_t reference = 0;
    for (std::size_t i = 0; i < variants.size(); ++i) {
        const bool is_reference = variants[i].name == m_document.project().reference;
        if (is_reference) reference = i;
        heads << QString::fromStdString(variants[i].name) + (is_reference ? tr(" (reference)") : QString());
    }
    m_table->setHorizontalHeaderLabels(heads);
    m_table->horizontalHeaderItem(0)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    const QuickFigures* base = m_built[reference] ? m_engine.of(m_built[reference]->hash) : nullptr;
    int r = -1;
    for (const KeyFigure* shown : figures_shown) {
        const KeyFigure figure =
            m_built[reference] ? shown_key_figure(*shown, m_built[reference]->machine) : *shown;
        ++r;
        m_table->setItem(r, 0, new QTableWidgetItem(tr(figure.label.c_str())));
        auto* unit = new QTableWidgetItem(QString::fromStdString(figure.unit));
        unit->setForeground(theme().soft);
        unit->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        m_table->setItem(r, 1, unit);
        for (std::size_t i = 0; i < variants.size(); ++i) {
            const QuickFigures* figures = m_built[i] ? m_engine.of(m_built[i]->hash) : nullptr;
            QString text = m_built[i] ? QStringLiteral("…") : tr("cannot be built");
            if (figures) {
                const auto value = (*figures)[figure.name];
                text = value ? QString::number(*value * figure.factor, 'g', 4) : QStringLiteral("–");
                const auto other = base ? (*base)[figure.name] : std::nullopt;
                if (value && other && i != reference && *other != 0) {
                    const double change = *value / *other - 1;
                    text += std::abs(change) < 5e-4 ? QStringLiteral("   = ")
                                                    : QStringLiteral("   %1%2 %")
                                                          .arg(change > 0 ? "+" : "−")
                                                          .arg(std::abs(change) * 100, 0, 'f', 1);
                }
            }
            auto* item = new QTableWidgetItem(text);
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            m_table->setItem(r, 2 + int(i), item);
        }
    }
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->horizontalHeader()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
}

void VariantsPage::fill_plot() {
    const Overlaid& overlay = overlaid_curves[std::max(0, m_choice->currentIndex())];
    QString x_label = QString::fromUtf8(overlay.x_label), y_label = QString::fromUtf8(overlay.y_label);
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
