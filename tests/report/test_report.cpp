// The report: one file that needs nothing beside it, its words and figures, and a PDF where it can be printed.

#include "project/project.h"
#include "report/plot_svg.h"
#include "report/report.h"
#include "support.h"
#include "test_program.h"

#include <QProcess>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QXmlStreamReader>
#include <QtTest>

using namespace mavlo;

namespace {

Project small_project() {
    Project project = *new_project("surface");
    project.name = "Hoist <1> & 2";
    return project;
}

Report report_of(const Project& project) {
    Ask ask;
    ask.design = project.in_hand().design;
    ask.quality = Quality::Draft;
    Report report{"A <b>title", "First line\nsecond & last", {}, {}, "2026-01-02", {}};
    ReportPart part{project.active, {}};
    for (const char* question : {"winding", "cogging"}) part.answers.push_back(*ask_question(question, ask));
    report.parts = {part};
    return report;
}

/// Whether all elements close as they should, in an HTML that is written like XML but for its void elements.
QString fault_of(QString html) {
    html.remove(0, html.indexOf('\n') + 1);
    html.replace(QStringLiteral("<meta charset=\"utf-8\">"), QString());
    html.replace(QRegularExpression(QStringLiteral("(<img [^>]*)>")), QStringLiteral("\\1/>"));
    QXmlStreamReader reader(html);
    while (!reader.atEnd()) reader.readNext();
    return reader.hasError()
               ? QStringLiteral("%1 at %2").arg(reader.errorString()).arg(reader.characterOffset())
               : QString();
}

} // namespace

class TestReport : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void stands_alone();
    void compares_variants();
    void plots();
    void refuses();
    void prints();
};

void TestReport::stands_alone() {
    const Project project = small_project();
    Report report = report_of(project);
    const auto html = report_html(report, project);
    QVERIFY(bool(html));
    const QString text = QString::fromStdString(*html);
    QCOMPARE(fault_of(text), QString());
    QVERIFY(text.contains(QStringLiteral("A &lt;b&gt;title")));
    QVERIFY(text.contains(QStringLiteral("second &amp; last")));
    QVERIFY(!text.contains(QStringLiteral("http://")) && !text.contains(QStringLiteral("https://")));
    QVERIFY(!text.contains(QStringLiteral("src=\"/")));
    const Answer& cogging = report.parts.front().answers.back();
    QVERIFY(text.contains(QString::fromStdString(escaped(cogging.sentence))));
    QVERIFY(text.contains(QString::fromStdString(shown_figure(cogging.figures.front()))));
    for (const char* word : {"Winding", "Materials", "Parameters", "How to read this", "Field at the rating"})
        QVERIFY2(text.contains(QString::fromLatin1(word)), word);
}

void TestReport::compares_variants() {
    Project project = small_project();
    Variant other = project.in_hand();
    other.name = "wide gap";
    other.design.texts["gap"] = "1.5 mm";
    project.variants.push_back(other);
    Report report = report_of(project);
    report.parts.push_back({"wide gap", {}});
    const auto html = report_html(report, project);
    QVERIFY(bool(html));
    const QString text = QString::fromStdString(*html);
    QVERIFY(text.contains(QStringLiteral("Side by side")));
    QVERIFY(text.contains(QStringLiteral("Variant wide gap")));
    QCOMPARE(fault_of(text), QString());
}

void TestReport::plots() {
    Answer answer;
    answer.curves = {{"torque", "N.m", "rotor_angle", "deg", {0, 1, 2}, {1, std::nan(""), 3}},
                     {"torque_spectrum", "N.m", "mechanical_order", "1", {1, 2}, {0.5, 0.1}},
                     {"torque_mean_share", "1", "dimension", "1", {1, 2}, {-2, 1}, {"gap", "a<b"}},
                     {"torque_mean_share_error", "1", "dimension", "1", {1, 2}, {0.1, 0.2}, {"gap", "a<b"}}};
    const auto groups = curve_groups(answer);
    QCOMPARE(groups.size(), std::size_t(3));
    for (const CurveGroup& group : groups) {
        QXmlStreamReader reader(QString::fromStdString(plot_svg(answer, group)));
        while (!reader.atEnd()) reader.readNext();
        QVERIFY2(!reader.hasError(), group.title.c_str());
    }
    const std::string bars = plot_svg(answer, groups[1]);
    QVERIFY(groups[1].ranked);
    QVERIFY(bars.find("a&lt;b") != std::string::npos);
    QVERIFY(bars.find("-2 ± 0.1") != std::string::npos);
    const Map map{
        "efficiency", "1", "speed", "rpm", "torque", "N.m", {1, 2}, {3, 4}, {{0.5, 0.6}, {std::nan(""), 0.9}}};
    QVERIFY(map_svg(map).find("50 (pale) to 90 %") != std::string::npos);
}

void TestReport::refuses() {
    const Project project = small_project();
    Report report = report_of(project);
    report.parts.front().variant = "none";
    QVERIFY(!report_html(report, project));
    QVERIFY(take_logo(report, "logo.bmp"));
    QVERIFY(take_logo(report, "/nowhere/logo.png"));
}

void TestReport::prints() {
    if (QStandardPaths::findExecutable(QStringLiteral("weasyprint")).isEmpty())
        QSKIP("weasyprint is not installed");
    QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("r.pdf"));
    const Project project = small_project();
    const auto html = report_html(report_of(project), project);
    QVERIFY(!write_pdf(*html, file.toStdString()));
    QFile pdf(file);
    QVERIFY(pdf.open(QIODevice::ReadOnly));
    QVERIFY(pdf.read(5) == "%PDF-");
    const auto problem = write_pdf(*html, folder.filePath(QStringLiteral("no/r.pdf")).toStdString());
    QVERIFY(problem);
}

MAVLO_TEST(report, TestReport, EventLoop)
#include "test_report.moc"
