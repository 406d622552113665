#include "start/start_page.h"

#include "shell/theme.h"
#include "start/recent_row.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QScrollArea>
#include <algorithm>
#include <chrono>

namespace mavlo::app {
namespace {

constexpr int files_width = 214, chooser_width = 384, spacing = 24, margin = 24;
constexpr int least_tile = 118, most_across = 5, most_recent = 5;

/// Without what stands in it; later, as one of its buttons may be speaking.
void clear(QLayout& layout) {
    while (QLayoutItem* item = layout.takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
}

/// Today's time, or the day.
QString written_at(const LeftBehind& left) {
    const auto since = std::chrono::file_clock::to_sys(left.written).time_since_epoch();
    const auto at =
        QDateTime::fromSecsSinceEpoch(std::chrono::duration_cast<std::chrono::seconds>(since).count());
    return told_time(at);
}

QLabel* title_label(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setProperty("title", true);
    return label;
}

QPushButton* file_button(const QString& text, const QString& file, QWidget* parent) {
    constexpr int padding = 16;
    auto* button = new QPushButton(parent);
    button->setProperty("flat", true);
    button->setText(button->fontMetrics().elidedText(text, Qt::ElideRight, files_width - padding));
    button->setAccessibleName(text);
    button->setToolTip(file);
    button->setStyleSheet(QStringLiteral("text-align: left"));
    return button;
}

using Families = std::vector<std::pair<QString, std::vector<ShapeTile*>>>;

/// The shapes that pass, shown, family by family; the others hidden.
Families passing_families(const std::vector<ShapeTile*>& tiles, const ShapeFilter& filter) {
    Families families;
    for (ShapeTile* tile : tiles) {
        tile->setVisible(filter.passes(tile->machine()));
        if (tile->isHidden()) continue;
        const QString name = family_of(tile->machine());
        const auto own = std::find_if(families.begin(), families.end(),
                                      [&](const auto& family) { return family.first == name; });
        if (own == families.end())
            families.push_back({name, {tile}});
        else
            own->second.push_back(tile);
    }
    return families;
}

QString demo_file(const QString& name) {
    const QDir folder(QString::fromStdString(data_folder()) + QStringLiteral("/../demo"));
    return QDir::cleanPath(folder.filePath(name + QStringLiteral(".mavlo")));
}

} // namespace

StartPage::StartPage(QWidget* parent)
    : QWidget(parent)
    , m_map(new PairMap(this))
    , m_phases(new QComboBox(this))
    , m_layers(new QComboBox(this))
    , m_shown(new QComboBox(this))
    , m_words(new QLabel(this))
    , m_title(title_label(tr("Starting shapes"), this))
    , m_own(new QPushButton(tr("as they come"), this))
    , m_filter(new ShapeFilter(this)) {
    setObjectName(QStringLiteral("start_page"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(margin, 18, margin, 12);
    layout->setSpacing(spacing);
    layout->addWidget(make_files());
    layout->addWidget(make_shapes(), 1);
    layout->addWidget(make_chooser());
}

QWidget* StartPage::make_files() {
    auto* column = new QWidget(this);
    column->setFixedWidth(files_width);
    auto* layout = new QVBoxLayout(column);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    layout->addWidget(title_label(tr("Projects"), column));
    auto* open = new QPushButton(tr("Open a project …"), column);
    auto* drawing = new QPushButton(tr("From a DXF drawing …"), column);
    open->setObjectName(QStringLiteral("start_open"));
    drawing->setObjectName(QStringLiteral("start_drawing"));
    layout->addSpacing(6);
    layout->addWidget(open);
    layout->addSpacing(4);
    layout->addWidget(drawing);
    auto* specification = new QPushButton(tr("From a specification …"), column);
    specification->setObjectName(QStringLiteral("start_specification"));
    specification->setToolTip(tr("Torque, speed, voltage and envelope are typed; sized machines are proposed"));
    layout->addSpacing(4);
    layout->addWidget(specification);
    connect(specification, &QPushButton::clicked, this, &StartPage::specification_wanted);
    layout->addSpacing(4);
    auto* steps = new QPushButton(tr("First steps, on a demo"), column);
    steps->setObjectName(QStringLiteral("start_first_steps"));
    steps->setToolTip(tr("A dozen things to do on the observatory's drive, each noticed when it is done"));
    layout->addWidget(steps);
    connect(steps, &QPushButton::clicked, this,
            [this] { Q_EMIT first_steps_wanted(demo_file(QStringLiteral("observatory"))); });
    m_left = new QVBoxLayout;
    m_left->setSpacing(0);
    layout->addLayout(m_left);
    layout->addSpacing(14);
    auto* recent = new QLabel(tr("Recent"), column);
    recent->setProperty("group", true);
    layout->addWidget(recent);
    m_recent = new QVBoxLayout;
    m_recent->setSpacing(0);
    layout->addLayout(m_recent);
    layout->addSpacing(14);
    auto* demos = new QLabel(tr("Demos"), column);
    demos->setProperty("group", true);
    layout->addWidget(demos);
    const std::pair<const char*, QString> list[] = {{"observatory", tr("Observatory: dome drive")},
                                                    {"ferry", tr("Lake ferry: propulsion")},
                                                    {"fan", tr("Ventilation plant: fan")},
                                                    {"roof-fan", tr("Ventilation plant: roof fan")},
                                                    {"mill", tr("Grain mill: roller drive")},
                                                    {"elevator", tr("Grain mill: bucket elevator")},
                                                    {"hoist", tr("Grain mill: hoist")},
                                                    {"pump", tr("Brine pump: reluctance")}};
    for (const auto& [name, title] : list) {
        const QString file = demo_file(QLatin1String(name));
        if (!QFileInfo::exists(file)) continue;
        auto* button = file_button(title, file, column);
        button->setObjectName(QStringLiteral("demo:") + QLatin1String(name));
        connect(button, &QPushButton::clicked, this, [this, file] { Q_EMIT file_wanted(file); });
        layout->addWidget(button);
    }
    layout->addStretch(1);
    setFocusProxy(open);
    connect(open, &QPushButton::clicked, this, &StartPage::open_wanted);
    connect(drawing, &QPushButton::clicked, this, &StartPage::drawing_wanted);
    return column;
}

void StartPage::show_left_behind(const std::vector<LeftBehind>& list) {
    clear(*m_left);
    if (list.empty()) return;
    auto* head = new QLabel(tr("Not saved when the program ended"), this);
    head->setProperty("group", true);
    head->setContentsMargins(0, 14, 0, 0);
    head->setWordWrap(true);
    m_left->addWidget(head);
    for (const LeftBehind& left : list) {
        auto* row = new QWidget(this);
        auto* layout = new QHBoxLayout(row);
        layout->setContentsMargins(0, 0, 0, 0);
        layout->setSpacing(2);
        const QString name = QString::fromStdString(left.name),
                      file = left.file.empty() ? tr("it has no file yet")
                                               : QString::fromStdString(left.file.string());
        auto* take = file_button(name + QStringLiteral(" · ") + written_at(left), file, row);
        take->setObjectName(QStringLiteral("left_behind"));
        take->setProperty("narrow", true);
        connect(take, &QPushButton::clicked, this, [this, left] { Q_EMIT left_behind_wanted(left); });
        auto* drop = new QPushButton(QStringLiteral("×"), row);
        drop->setAccessibleName(tr("Drop"));
        drop->setObjectName(QStringLiteral("left_behind_drop"));
        drop->setProperty("narrow", true);
        drop->setToolTip(tr("Forget these changes; what was saved stays"));
        connect(drop, &QPushButton::clicked, this, [journal = left.journal, row] {
            Journal::drop(journal);
            row->hide();
        });
        layout->addWidget(take, 1);
        layout->addWidget(drop);
        m_left->addWidget(row);
    }
}

void StartPage::show_recent(const QStringList& files) {
    clear(*m_recent);
    for (const QString& file : files) {
        if (!QFileInfo::exists(file) || m_recent->count() >= most_recent) continue;
        auto* row = new RecentRow(file, this);
        connect(row, &RecentRow::clicked, this, [this, file] { Q_EMIT file_wanted(file); });
        m_recent->addWidget(row);
    }
    if (m_recent->count() == 0) {
        auto* none = new QLabel(tr("none yet"), this);
        none->setProperty("soft", true);
        none->setContentsMargins(6, 2, 0, 2);
        m_recent->addWidget(none);
    }
}

QWidget* StartPage::make_shapes() {
    auto* column = new QWidget(this);
    auto* layout = new QVBoxLayout(column);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* head = new QHBoxLayout;
    head->addWidget(m_title);
    head->addStretch(1);
    m_own->setObjectName(QStringLiteral("start_own_pair"));
    m_own->setToolTip(tr("Each shape with its own slots and poles again"));
    m_own->hide();
    head->addWidget(m_own);
    layout->addLayout(head);
    layout->addWidget(m_filter);
    connect(m_filter, &ShapeFilter::changed, this, &StartPage::place_tiles);
    auto* tiles = new QWidget(column);
    m_grid = new QGridLayout(tiles);
    m_grid->setContentsMargins(0, 0, 6, 0);
    m_grid->setSpacing(8);
    for (const StartingShape& shape : starting_shapes()) {
        auto* tile = new ShapeTile(shape, tiles);
        m_tiles.push_back(tile);
        connect(tile, &QAbstractButton::clicked, this, [this, tile] {
            const auto& pair = m_map->chosen();
            Q_EMIT shape_wanted(QString::fromStdString(tile->shape()), pair ? pair->slots : 0,
                                pair ? pair->poles : 0);
        });
    }
    auto* scroll = new QScrollArea(column);
    scroll->setFocusPolicy(Qt::NoFocus); // what stands in it takes the keys
    scroll->setWidget(tiles);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    layout->addWidget(scroll, 1);
    connect(m_own, &QPushButton::clicked, this, [this] {
        m_map->set_winding(3, 2);
        for (ShapeTile* tile : m_tiles) tile->set_pair(0, 0);
        m_own->hide();
        m_title->setText(tr("Starting shapes"));
    });
    return column;
}

void StartPage::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    place_tiles();
}

void StartPage::place_tiles() {
    const int room = width() - files_width - chooser_width - 2 * (spacing + margin);
    const int across = std::clamp(room / least_tile, 2, most_across);
    qDeleteAll(m_families);
    m_families.clear();
    int row = -1;
    for (const auto& [family, tiles] : passing_families(m_tiles, *m_filter)) {
        auto* words = new QLabel(family, m_grid->parentWidget());
        words->setProperty("group", true);
        words->show();
        m_grid->addWidget(words, ++row, 0, 1, across);
        m_families.push_back(words);
        for (std::size_t i = 0; i < tiles.size(); ++i) {
            if (int(i) % across == 0) ++row;
            m_grid->addWidget(tiles[i], row, int(i) % across);
        }
    }
    for (int i = 0; i < most_across; ++i) m_grid->setColumnStretch(i, i < across ? 1 : 0);
}

QWidget* StartPage::make_chooser() {
    auto* column = new QWidget(this);
    column->setFixedWidth(chooser_width);
    auto* layout = new QVBoxLayout(column);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(title_label(tr("Slots and poles"), column));
    auto* choices = new QHBoxLayout;
    for (int phases : {1, 2, 3, 4, 5, 6})
        m_phases->addItem(phases == 1 ? tr("1 phase") : tr("%1 phases").arg(phases), phases);
    m_phases->setCurrentIndex(2);
    m_layers->addItem(tr("1 layer"), 1);
    m_layers->addItem(tr("2 layers"), 2);
    m_layers->setCurrentIndex(1);
    m_shown->addItems({tr("winding factor"), tr("cogging periods")});
    m_phases->setObjectName(QStringLiteral("start_phases"));
    m_shown->setObjectName(QStringLiteral("start_shown"));
    for (QComboBox* box : {m_phases, m_layers, m_shown}) choices->addWidget(box);
    layout->addLayout(choices);
    layout->addWidget(m_map, 1);
    m_words->setObjectName(QStringLiteral("pair_words"));
    m_words->setTextFormat(Qt::RichText);
    m_words->setWordWrap(true);
    m_words->setMinimumHeight(96);
    m_words->setAlignment(Qt::AlignTop);
    layout->addWidget(m_words);
    const auto rewind = [this] {
        m_map->set_winding(m_phases->currentData().toInt(), m_layers->currentData().toInt());
        follow_pair();
    };
    connect(m_phases, &QComboBox::currentIndexChanged, this, rewind);
    connect(m_layers, &QComboBox::currentIndexChanged, this, rewind);
    connect(m_shown, &QComboBox::currentIndexChanged, this,
            [this](int index) { m_map->set_shown(PairMap::Shown(index)); });
    connect(m_map, &PairMap::pair_chosen, this, &StartPage::follow_pair);
    connect(m_map, &PairMap::pair_pointed, this,
            [this](const std::optional<SlotPolePair>& pair, const QString& otherwise) {
                if (pair)
                    m_words->setText(words(*pair));
                else if (!otherwise.isEmpty())
                    m_words->setText(otherwise);
                else
                    follow_pair();
            });
    follow_pair();
    return column;
}

QString StartPage::words(const SlotPolePair& pair) const {
    QString text =
        tr("<b>%1 slots, %2 poles</b><br>winding factor %3, coils over %4<br>%5 periods of cogging a turn")
            .arg(pair.slots)
            .arg(pair.poles)
            .arg(pair.winding_factor, 0, 'f', 3)
            .arg(pair.span == 1 ? tr("single teeth") : tr("%1 slots").arg(pair.span))
            .arg(pair.cogging_per_turn);
    if (pair.unbalanced_pull) text += tr("<br>radial pull that does not cancel");
    return text;
}

void StartPage::follow_pair() {
    const auto& pair = m_map->chosen();
    if (!pair) {
        m_words->setText(tr("Darker is better; a stroke in the corner marks a radial pull that does not "
                            "cancel. Click a pair, and the "
                            "starting shapes take it."));
        return;
    }
    m_words->setText(words(*pair));
    m_title->setText(tr("Starting shapes with %1 slots, %2 poles").arg(pair->slots).arg(pair->poles));
    m_own->show();
    for (ShapeTile* tile : m_tiles) tile->set_pair(pair->slots, pair->poles);
}

} // namespace mavlo::app
