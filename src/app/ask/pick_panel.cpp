#include "ask/pick_panel.h"

#include "plot/contours.h"
#include "shell/theme.h"

#include <QHBoxLayout>
#include <QVBoxLayout>
#include <cmath>
#include <numbers>

namespace mavlo::app {
namespace {

QString number(double value) {
    return QString::number(value, 'g', 4);
}

} // namespace

double PickedPoint::amplitude() const {
    return std::hypot(id, iq);
}

double PickedPoint::advance() const {
    return std::atan2(-id, iq) * 180 / std::numbers::pi;
}

std::optional<PickedPoint> pick(const Answer& answer, double speed, double torque) {
    PickedPoint point{speed, torque};
    const std::pair<const char*, double*> columns[] = {{"id", &point.id},
                                                       {"iq", &point.iq},
                                                       {"voltage", &point.voltage},
                                                       {"loss_total", &point.loss},
                                                       {"efficiency", &point.efficiency}};
    for (const auto& [name, target] : columns) {
        const Map* map = answer.map(name);
        if (!map || map->x_name != "speed") return std::nullopt;
        *target = value_at(*map, speed, torque);
        if (std::isnan(*target)) return std::nullopt;
    }
    return point;
}

PickPanel::PickPanel(QWidget* parent)
    : QWidget(parent)
    , m_table(new QLabel(this))
    , m_probe(new QPushButton(tr("Show in Probe"), this))
    , m_check(new QPushButton(tr("Check with the full field"), this)) {
    setObjectName(QStringLiteral("picked"));
    m_probe->setObjectName(QStringLiteral("picked:probe"));
    m_check->setObjectName(QStringLiteral("picked:check"));
    m_table->setObjectName(QStringLiteral("picked:table"));
    m_table->setTextFormat(Qt::RichText);
    m_table->setTextInteractionFlags(Qt::TextSelectableByMouse);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_table, 1);
    auto* buttons = new QVBoxLayout;
    buttons->addWidget(m_probe);
    buttons->addWidget(m_check);
    layout->addLayout(buttons);
    connect(m_probe, &QPushButton::clicked, this, &PickPanel::probe_wanted);
    connect(m_check, &QPushButton::clicked, this, &PickPanel::check_wanted);
    clear();
}

void PickPanel::clear() {
    m_point.reset();
    m_table->setText(tr("Click on the map to pick a working point."));
    m_table->setProperty("soft", true);
    m_probe->setEnabled(false);
    m_check->setEnabled(false);
}

void PickPanel::show_point(const PickedPoint& point) {
    m_point = point;
    m_probe->setEnabled(true);
    m_check->setEnabled(true);
    show_table(nullptr);
}

void PickPanel::show_running() {
    m_check->setEnabled(false);
}

void PickPanel::show_full(const Answer& load) {
    m_check->setEnabled(true);
    if (m_point) show_table(&load);
}

void PickPanel::show_table(const Answer* load) {
    struct Column {
        QString title, unit;
        double map;
        std::optional<double> full;
    };
    const auto full = [&](const char* figure) { return load ? load->figure(figure) : std::nullopt; };
    const PickedPoint& p = *m_point;
    std::vector<Column> columns{
        {tr("torque"), QStringLiteral("N·m"), p.torque, full("torque_mean")},
        {tr("current"), QStringLiteral("A"), p.amplitude(), std::nullopt},
        {tr("advance"), QStringLiteral("°"), p.advance(), std::nullopt},
        {tr("voltage"), QStringLiteral("V"), p.voltage, full("voltage_phase_peak")},
        {tr("losses"), QStringLiteral("W"), p.loss, full("total_loss")},
        {tr("efficiency"), QStringLiteral("%"), 100 * p.efficiency, full("efficiency")}};
    if (columns.back().full) *columns.back().full *= 100;
    QString head, map_row, full_row;
    for (const Column& c : columns) {
        head += QStringLiteral("<td style='padding-right:18px'>%1, %2</td>").arg(c.title, c.unit);
        map_row += QStringLiteral("<td>%1</td>").arg(number(c.map));
        full_row += QStringLiteral("<td>%1</td>").arg(c.full ? number(*c.full) : QStringLiteral("–"));
    }
    QString html =
        QStringLiteral("<table><tr><td style='padding-right:18px'>%1</td>%2</tr><tr><td>%3</td>%4</tr>")
            .arg(tr("at %1 rpm").arg(number(p.speed)), head, tr("map"), map_row);
    if (load) html += QStringLiteral("<tr><td>%1</td>%2</tr>").arg(tr("full field"), full_row);
    m_table->setProperty("soft", false);
    m_table->setText(html + QStringLiteral("</table>"));
}

} // namespace mavlo::app
