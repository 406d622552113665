#include "plot/plot_words.h"

#include "plot/qcustomplot_include.h"
#include "question/words.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QSvgGenerator>
#include <algorithm>
#include <cmath>

namespace mavlo::app {

QString name_words(const std::string& name) {
    return spoken(figure_words(name));
}

QString unit_words(const std::string& unit) {
    return QString::fromStdString(shown_unit(unit));
}

void dress_axis(QCPAxis& axis) {
    const Theme& t = theme();
    axis.setBasePen(QPen(t.line, 1));
    axis.setTickPen(QPen(t.line, 1));
    axis.setSubTickPen(Qt::NoPen);
    axis.setTickLabelColor(t.soft);
    axis.setLabelColor(t.soft);
    axis.setTickLabelFont(small_font());
    axis.setLabelFont(small_font());
    axis.setNumberFormat(QStringLiteral("gb"));
    axis.setNumberPrecision(4);
}

namespace {

class ReadingTicker : public QCPAxisTicker {
  protected:
    double getTickStep(const QCPRange& range) override { return m_step = QCPAxisTicker::getTickStep(range); }
    QString getTickLabel(double tick, const QLocale& locale, QChar form, int precision) override {
        // A step of 2.5 has a digit more than one of 2.
        const double steps = m_step > 0 ? std::abs(tick) / m_step : 1;
        const int digits = steps >= 1 ? int(std::floor(std::log10(steps))) + 3 : precision;
        return QCPAxisTicker::getTickLabel(tick, locale, form, std::clamp(digits, precision, 9));
    }

  private:
    double m_step = 0;
};

} // namespace

QSharedPointer<QCPAxisTicker> reading_ticker() {
    return QSharedPointer<QCPAxisTicker>(new ReadingTicker);
}

namespace {

bool save_svg(QCustomPlot& plot, const QString& file, QSize size) {
    QSvgGenerator generator;
    generator.setFileName(file);
    generator.setSize(size);
    generator.setViewBox(QRect(QPoint(), size));
    QCPPainter painter;
    if (!painter.begin(&generator)) return false;
    painter.setMode(QCPPainter::pmVectorized);
    painter.setMode(QCPPainter::pmNoCaching);
    plot.toPainter(&painter, size.width(), size.height());
    return painter.end();
}

} // namespace

bool save_picture(QCustomPlot& plot, const QString& file, QSize pixels, QSize page) {
    if (file.endsWith(QStringLiteral(".png"))) return plot.savePng(file, pixels.width(), pixels.height(), 1.5);
    if (file.endsWith(QStringLiteral(".pdf"))) return plot.savePdf(file, page.width(), page.height());
    return file.endsWith(QStringLiteral(".svg")) && save_svg(plot, file, page);
}

} // namespace mavlo::app
