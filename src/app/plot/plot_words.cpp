#include "plot/plot_words.h"

#include "plot/qcustomplot_include.h"
#include "shell/theme.h"

#include <QSvgGenerator>

namespace mavlo::app {

QString name_words(const std::string& name) {
    QString text = QString::fromStdString(name);
    text.replace(QStringLiteral("back_emf"), QStringLiteral("back-EMF")).replace('_', ' ');
    for (const char* suffix : {" u", " v", " w", " uv", " vw", " wu", " thd", " d", " q"})
        if (text.endsWith(QLatin1String(suffix)))
            text = text.left(text.size() - qsizetype(qstrlen(suffix))) +
                   (qstrlen(suffix) == 2 && (suffix[1] == 'd' || suffix[1] == 'q')
                        ? QString::fromLatin1(suffix)
                        : QString::fromLatin1(suffix).toUpper());
    text.replace(QStringLiteral(" u spectrum"), QStringLiteral(" U spectrum"));
    return text;
}

QString unit_words(const std::string& unit) {
    QString text = QString::fromStdString(unit);
    return text.replace(QStringLiteral("N.m"), QStringLiteral("N·m"))
        .replace(QStringLiteral("Ohm"), QStringLiteral("Ω"))
        .replace(QStringLiteral("deg"), QStringLiteral("°"));
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
