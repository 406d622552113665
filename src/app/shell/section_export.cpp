#include "shell/section_export.h"

#include "drawing/section.h"
#include "figure/field_at.h"
#include "figure/vtu.h"
#include "shape/dxf/writer.h"
#include "storage/file.h"

#include <QFileInfo>
#include <QPainter>
#include <QPdfWriter>
#include <QSvgGenerator>

namespace mavlo::app {
namespace {

bool save_svg(const QString& file, QWidget& view) {
    QSvgGenerator generator;
    generator.setFileName(file);
    generator.setSize(view.size());
    generator.setViewBox(view.rect());
    QPainter painter;
    if (!painter.begin(&generator)) return false;
    view.render(&painter);
    return painter.end();
}

bool save_pdf(const QString& file, QWidget& view) {
    QPdfWriter writer(file);
    writer.setPageSize(QPageSize(QSizeF(view.size()) * 0.75, QPageSize::Point)); // a pixel is 3/4 of a point
    writer.setPageMargins({});
    QPainter painter;
    if (!painter.begin(&writer)) return false;
    const double scale = writer.width() / double(view.width());
    painter.scale(scale, scale);
    view.render(&painter);
    return painter.end();
}

/// Empty where it was written.
std::string field_to_file(const DrawnMachine& built, double angle, const CurrentWave& current,
                          const std::string& file) {
    const auto field = field_at(built.machine, angle, current);
    if (!field) return field.problems().front().sentence;
    const auto problem = write_file_atomically(file, vtu_text(*field->model, field->solution, true));
    return problem ? problem->sentence : std::string();
}

} // namespace

void export_section(const QString& file, SectionView& view, const Document& document,
                    const CurrentWave& current, Jobs& jobs, const std::function<void(const QString&)>& told) {
    const QString ending = QFileInfo(file).suffix().toLower();
    const auto built = document.built();
    if (!built || !document.is_good())
        return told(QObject::tr("The design cannot be built as it stands; nothing is written."));
    if (ending == QStringLiteral("vtu")) {
        auto wrong = std::make_shared<std::string>();
        const double angle = view.angle();
        jobs.submit(
            QObject::tr("field to a file"),
            [=](const Watch&) { *wrong = field_to_file(*built, angle, current, file.toStdString()); },
            [=] {
                told(wrong->empty() ? QObject::tr("%1 is written.").arg(file) : QString::fromStdString(*wrong));
            });
        return;
    }
    bool good = false;
    if (ending == QStringLiteral("dxf")) {
        if (built->machine.facts().axial || built->machine.facts().linear)
            return told(QObject::tr(
                "The section of an axial or linear machine is not written as DXF yet; take SVG or PDF."));
        const SectionPieces section = section_pieces(built->machine, Shown::Whole);
        good = !write_file_atomically(file.toStdString(), dxf_text(section.pieces, section.layers));
    } else if (ending == QStringLiteral("svg")) {
        good = save_svg(file, view);
    } else if (ending == QStringLiteral("pdf")) {
        good = save_pdf(file, view);
    } else if (ending == QStringLiteral("png")) {
        good = view.grab().save(file);
    } else {
        return told(QObject::tr("A section is written as .dxf, .svg, .pdf, .png or .vtu."));
    }
    told(good ? QObject::tr("%1 is written.").arg(file)
              : QObject::tr("%1 cannot be written; check the folder and the free space.").arg(file));
}

} // namespace mavlo::app
