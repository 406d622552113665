#include "weigh/weigh_bench.h"

#include "sheet/page_tabs.h"
#include "shell/bench.h"
#include "weigh/report_page.h"
#include "weigh/sweep_page.h"
#include "weigh/trade_page.h"
#include "weigh/variants_page.h"

#include <QVBoxLayout>

namespace mavlo::app {

WeighBench::WeighBench(Desk& desk, QWidget* parent)
    : QWidget(parent) {
    setObjectName(QStringLiteral("weigh"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* tabs = new PageTabs(QStringLiteral("weigh:"), this);
    tabs->add(tr("Variants"), new VariantsPage(desk.document, desk.key_figures));
    auto* sweep = new SweepPage(desk);
    tabs->add(tr("Sweep"), sweep);
    connect(&desk, &Desk::vary_wanted, this, [tabs, sweep](const std::string& path) {
        tabs->show_page_of(sweep);
        sweep->vary(path);
    });
    tabs->add(tr("Trade-off"), new TradePage(desk));
    tabs->add(tr("Report"), new ReportPage(desk));
    layout->addWidget(tabs);
}

namespace {

const Register<BenchKind> weigh{
    {"weigh", 50, "Weigh", "variants, sweeps, trade-offs, the report", [](Desk& desk) {
         return BenchView{.page = new WeighBench(desk),
                          .is_idle = [&desk] { return desk.jobs.states().empty(); }};
     }}};

} // namespace
} // namespace mavlo::app
