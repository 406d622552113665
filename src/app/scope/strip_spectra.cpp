// The spectra beside the strips.

#include "plot/plot_words.h"
#include "plot/qcustomplot_include.h"
#include "scope/measured.h"
#include "scope/strips.h"
#include "shell/theme.h"

#include <algorithm>

namespace mavlo::app {

constexpr int shown_waves = 40;

void Strips::set_spectra(bool on) {
    if (on == m_with_spectra) return;
    m_with_spectra = on;
    build();
}

/// Gates have none: their place stays empty.
void Strips::add_spectrum(const Strip& strip, int row) {
    m_spectra.push_back(nullptr);
    if (strip.steps) return;
    const Theme& t = theme();
    auto* rect = new QCPAxisRect(m_plot, false);
    m_plot->plotLayout()->addElement(row, 1, rect);
    QCPAxis *x = rect->addAxis(QCPAxis::atBottom), *y = rect->addAxis(QCPAxis::atLeft);
    for (QCPAxis* axis : {x, y}) {
        dress_axis(*axis);
        axis->grid()->setPen(QPen(t.line, 0.6, Qt::DotLine));
    }
    const bool last = row + 1 == int(m_strips.size());
    rect->setAutoMargins(last ? QCP::msBottom : QCP::msNone);
    rect->setMargins(QMargins(44, 15, 10, last ? 0 : 3));
    x->setTickLabels(last);
    if (last) x->setLabel(tr("frequency, Hz"));
    x->ticker()->setTickCount(4);
    y->ticker()->setTickCount(3);
    for (const StripCurve& c : strip.curves) {
        auto* graph = m_plot->addGraph(x, y);
        graph->setLineStyle(QCPGraph::lsImpulse);
        graph->setPen(QPen(c.colour, 2));
    }
    m_spectra.back() = rect;
}

/// Those of the stretch between the cursors, or of all of it.
void Strips::fill_spectra() {
    const auto [from, to] = measured_stretch();
    for (std::size_t k = 0; k < m_spectra.size(); ++k) {
        QCPAxisRect* rect = m_spectra[k];
        if (!rect) continue;
        double high = 1e-300;
        const auto graphs = rect->graphs();
        const auto count = double(m_strips[k].curves.size());
        for (qsizetype g = 0; g < graphs.size(); ++g) {
            const Curve waves =
                spectrum_between(m_strips[k].curves[std::size_t(g)].curve, from, to, shown_waves);
            QVector<double> frequencies, peaks;
            for (std::size_t i = 0; i < waves.x.size(); ++i) {
                // Phases stand side by side.
                frequencies << waves.x[i] + (double(g) - (count - 1) / 2) * 0.22 / (to - from);
                peaks << waves.y[i];
                high = std::max(high, waves.y[i]);
            }
            graphs[g]->setData(frequencies, peaks, true);
        }
        rect->axis(QCPAxis::atLeft)->setRange(0, 1.08 * high);
        rect->axis(QCPAxis::atBottom)->setRange(0, (shown_waves + 0.5) / (to - from));
    }
    if (!m_spectra.empty()) m_plot->replot(QCustomPlot::rpQueuedReplot);
}

} // namespace mavlo::app
