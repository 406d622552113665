#include "weigh/weigh_bench.h"

#include "shell/theme.h"

#include <QHeaderView>
#include <QVBoxLayout>
#include <cmath>

namespace mavlo::app {
namespace {

struct Row {
    const char* title;
    std::optional<double> (*pick)(const QuickFigures&);
    double factor;
    const char* unit;
};

constexpr Row rows[] = {
    {"Torque at rated current", [](const QuickFigures& f) { return f.torque; }, 1, "N·m"},
    {"Cogging, peak to peak", [](const QuickFigures& f) { return f.cogging; }, 1e3, "mN·m"},
    {"Back-EMF at rated speed", [](const QuickFigures& f) { return f.back_emf; }, 1, "V line rms"},
    {"Tooth, no load", [](const QuickFigures& f) { return std::optional(f.tooth); }, 1, "T"},
    {"Yoke, no load", [](const QuickFigures& f) { return std::optional(f.yoke); }, 1, "T"},
    {"Phase resistance", [](const QuickFigures& f) { return f.resistance; }, 1, "Ω"},
    {"Copper loss at rated current", [](const QuickFigures& f) { return f.copper_loss; }, 1, "W"},
    {"Slot fill", [](const QuickFigures& f) { return f.fill; }, 1, ""},
    {"Active mass", [](const QuickFigures& f) { return std::optional(f.mass); }, 1, "kg"},
};

struct Overlay {
    const char* title;
    const char* question;
    const char* curve;
    const char* x_label;
    const char* y_label;
};

constexpr Overlay overlays[] = {
    {"Cogging torque over its period", "cogging", "torque", "rotor angle, ° mechanical", "N·m"},
    {"Torque with current", "load", "torque", "rotor angle, ° mechanical", "N·m"},
    {"Back-EMF, line UV", "no-load", "back_emf_uv", "rotor angle, ° mechanical", "V"},
    {"Gap flux density, radial", "no-load", "gap_flux_density_radial", "gap angle, ° mechanical", "T"},
};

} // namespace

WeighBench::WeighBench(Document& document, TellTaleEngine& engine, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_engine(engine)
    , m_table(new QTableWidget(this))
    , m_choice(new QComboBox(this))
    , m_plot(new Plot(this))
    , m_hint(new QLabel(this)) {
    setObjectName(QStringLiteral("weigh"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(28, 14, 28, 12);
    layout->setSpacing(8);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionMode(QAbstractItemView::NoSelection);
    m_table->setFocusPolicy(Qt::NoFocus);
    m_table->setShowGrid(false);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(27);
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    m_table->setFixedHeight(34 + 27 * int(std::size(rows)));
    layout->addWidget(m_table);
    auto* tools = new QHBoxLayout;
    m_choice->setMinimumWidth(260);
    for (const Overlay& overlay : overlays) m_choice->addItem(QString::fromUtf8(overlay.title));
    tools->addWidget(m_choice);
    m_hint->setProperty("soft", true);
    tools->addWidget(m_hint, 1);
    layout->addLayout(tools);
    layout->addWidget(m_plot, 1);
    connect(m_choice, &QComboBox::currentIndexChanged, this, &WeighBench::fill_plot);
    connect(&document, &Document::changed, this, &WeighBench::follow_document);
    connect(&engine, &TellTaleEngine::changed, this, &WeighBench::refresh);
}

void WeighBench::showEvent(QShowEvent*) {
    follow_document();
}

void WeighBench::follow_document() {
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

void WeighBench::refresh() {
    if (isVisible() && m_built.size() == m_document.project().variants.size()) fill_table();
}

void WeighBench::fill_table() {
    const auto& variants = m_document.project().variants;
    m_table->setColumnCount(2 + int(variants.size()));
    m_table->setRowCount(int(std::size(rows)));
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
    for (int r = 0; r < int(std::size(rows)); ++r) {
        const Row& row = rows[r];
        m_table->setItem(r, 0, new QTableWidgetItem(QString::fromUtf8(row.title)));
        auto* unit = new QTableWidgetItem(QString::fromUtf8(row.unit));
        unit->setForeground(theme().soft);
        unit->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
        m_table->setItem(r, 1, unit);
        for (std::size_t i = 0; i < variants.size(); ++i) {
            const QuickFigures* figures = m_built[i] ? m_engine.of(m_built[i]->hash) : nullptr;
            QString text = m_built[i] ? QStringLiteral("…") : tr("cannot be built");
            if (figures) {
                const auto value = row.pick(*figures);
                text = value ? QString::number(*value * row.factor, 'g', 4) : QStringLiteral("–");
                const auto other = base ? row.pick(*base) : std::nullopt;
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

void WeighBench::fill_plot() {
    const Overlay& overlay = overlays[std::max(0, m_choice->currentIndex())];
    std::vector<PlotCurve> curves;
    QStringList missing;
    const Theme& t = theme();
    const QColor colours[] = {t.accent, t.phase[1], t.phase[2], t.phase[0], t.north_in, t.soft};
    for (const Variant& variant : m_document.project().variants) {
        Ask ask;
        ask.design = variant.design;
        ask.materials = m_document.project().materials;
        const auto answer = m_document.answers().find(overlay.question, ask);
        const Curve* curve = answer ? answer->curve(overlay.curve) : nullptr;
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
    m_plot->show_curves(curves, QString::fromUtf8(overlay.x_label), QString::fromUtf8(overlay.y_label));
}

} // namespace mavlo::app
