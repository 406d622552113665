// Studies: values read, designs made, answers equal to single ones to the last bit, stopped, killed and gone on
// with, in shards.

#include "project/shelf.h"
#include "study/study_table.h"
#include "support.h"
#include "test_program.h"

#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>
#include <fmt/format.h>
#include <set>

using namespace mavlo;

namespace {

Design design() {
    return design_of({{"stator.slots", "12"}, {"rotor.poles", "10"}});
}

Variation variation(const char* text) {
    auto v = read_variation(text, design());
    if (!v) qFatal("%s", to_string(v.problems().front()).c_str());
    return *v;
}

std::vector<std::vector<std::string>> settings(std::vector<Variation> list, Sampled sampling, int count = 0,
                                               unsigned seed = 1) {
    auto found = settings_of(list, sampling, count, seed, design());
    if (!found) qFatal("%s", to_string(found.problems().front()).c_str());
    return *found;
}

Study small_study() {
    Study study;
    study.base.design = design();
    study.base.quality = Quality::Draft;
    study.paths = {"gap", "rotor.magnet.arc"};
    study.settings =
        settings({variation("gap=0.8:1.2:3 mm"), variation("rotor.magnet.arc=0.7,0.8")}, Sampled::Grid);
    study.questions = {*read_study_question("winding"), *read_study_question("cogging:points=6")};
    return study;
}

} // namespace

class TestStudy : public QObject {
    Q_OBJECT

  private Q_SLOTS:
    void values_data();
    void values();
    void mistakes_data();
    void mistakes();
    void designsOfEverySampling();
    void samplesFillTheirRange();
    void equalsSingleAnswers();
    void stoppedAndGoneOnWith();
    void shardsTogether();
    void failedDesignsAreTold();
    void priceCountsFields();
    void killedOnTheCommandLine();
};

void TestStudy::values_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QStringList>("texts");
    QTest::newRow("range") << "gap=0.8:1.2:3 mm" << QStringList{"0.8 mm", "1 mm", "1.2 mm"};
    QTest::newRow("own units") << "gap=500 um:0.1 cm:2" << QStringList{"0.5 mm", "1 mm"};
    QTest::newRow("bare") << "gap=1:2:2" << QStringList{"1 mm", "2 mm"};
    QTest::newRow("list") << "gap=0.8, 1 mm" << QStringList{"0.8 mm", "1 mm"};
    QTest::newRow("whole") << "rotor.poles=8,10" << QStringList{"8", "10"};
    QTest::newRow("whole range") << "winding.turns=10:20:3" << QStringList{"10", "15", "20"};
    QTest::newRow("words") << "rotor.magnet.magnetisation=radial, parallel"
                           << QStringList{"radial", "parallel"};
    QTest::newRow("formula") << "gap= = 0.01 * stator.bore_diameter"
                             << QStringList{"= 0.01 * stator.bore_diameter"};
    QTest::newRow("one") << "gap=1:3:1 mm" << QStringList{"1 mm"};
}

void TestStudy::values() {
    QFETCH(QString, text);
    QFETCH(QStringList, texts);
    QStringList found;
    for (const std::string& value : variation(text.toUtf8().constData()).texts)
        found << QString::fromStdString(value);
    QCOMPARE(found, texts);
}

void TestStudy::mistakes_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("says");
    QTest::newRow("no equals") << "gap"
                               << "is no PATH";
    QTest::newRow("path") << "stator.slot.dept=1:2:3 mm"
                          << "perhaps stator.slot.depth";
    QTest::newRow("unit") << "gap=1:2:3 A"
                          << "is wanted here";
    QTest::newRow("count") << "gap=1:2:many mm"
                           << "no number of values";
    QTest::newRow("missing") << "gap=1,,2 mm"
                             << "missing";
}

void TestStudy::mistakes() {
    QFETCH(QString, text);
    QFETCH(QString, says);
    const auto v = read_variation(text.toStdString(), design());
    QVERIFY(!v);
    QVERIFY2(QString::fromStdString(v.problems().front().sentence).contains(says),
             v.problems().front().sentence.c_str());
}

void TestStudy::designsOfEverySampling() {
    const auto a = variation("gap=0.8:1.2:3 mm"), b = variation("rotor.magnet.arc=0.7,0.8");
    const auto grid = settings({a, b}, Sampled::Grid);
    QCOMPARE(grid.size(), std::size_t(6));
    QCOMPARE(grid[1], (std::vector<std::string>{"0.8 mm", "0.8"}));
    QCOMPARE(std::set(grid.begin(), grid.end()).size(), std::size_t(6));
    QVERIFY(!settings_of({a, b}, Sampled::Paired, 0, 1, design()));
    const auto pairs = settings({variation("gap=1,2 mm"), b}, Sampled::Paired);
    QCOMPARE(pairs, (std::vector<std::vector<std::string>>{{"1 mm", "0.7"}, {"2 mm", "0.8"}}));
    QVERIFY(!settings_of({}, Sampled::Grid, 0, 1, design()));
    QVERIFY(!settings_of({variation("gap=1:2 mm")}, Sampled::Grid, 0, 1, design()));
    QVERIFY(!settings_of({a}, Sampled::Sobol, 0, 1, design()));
}

void TestStudy::samplesFillTheirRange() {
    const std::vector<Variation> two{variation("gap=1:2 mm"), variation("rotor.magnet.arc=0.5:0.9")};
    const auto gap_of = [](const std::vector<std::string>& row) { return std::stod(row[0]); };
    // Of a Latin hypercube every tenth holds one; a seed repeats it, another does not.
    const auto latin = settings(two, Sampled::Latin, 10, 7);
    std::set<int> tenths;
    for (const auto& row : latin) tenths.insert(int((gap_of(row) - 1) * 10));
    QCOMPARE(tenths.size(), std::size_t(10));
    QCOMPARE(settings(two, Sampled::Latin, 10, 7), latin);
    QVERIFY(settings(two, Sampled::Latin, 10, 8) != latin);
    // Of Sobol's sequence 15 points leave no sixteenth of a line with two.
    std::set<int> parts;
    double mean = 0;
    for (const auto& row : settings(two, Sampled::Sobol, 15)) {
        parts.insert(int((gap_of(row) - 1) * 16));
        mean += gap_of(row) / 15;
    }
    QCOMPARE(parts.size(), std::size_t(15));
    QVERIFY(std::abs(mean - 1.5) < 0.01);
}

void TestStudy::equalsSingleAnswers() {
    const Study study = small_study();
    QTemporaryDir folder;
    const AnswerStore store(folder.filePath("a.mavlo").toStdString());
    StudyRun run;
    run.threads = 2;
    int most = 0;
    run.progress = [&](int done, int total, double) { most = std::max(most, done + (total == 12 ? 0 : 100)); };
    const auto rows = run_study(study, {}, shelf_of(store), run);
    QCOMPARE(most, 12);
    for (std::size_t d = 0; d < rows.size(); ++d)
        for (std::size_t q = 0; q < study.questions.size(); ++q) {
            auto alone = ask_question(study.questions[q].name, *study_ask(study, d, q));
            QVERIFY(alone && rows[d].answers[q]);
            QCOMPARE(alone->figures, rows[d].answers[q]->figures);
            QCOMPARE(alone->curves, rows[d].answers[q]->curves);
        }
    // Again everything is kept, and read back the same.
    QCOMPARE(study_price(study, {}, shelf_of(store), 1)->fields, 0L);
    const auto again = run_study(study, {}, shelf_of(store), {});
    for (std::size_t d = 0; d < rows.size(); ++d) QCOMPARE(*again[d].answers[1], *rows[d].answers[1]);
    // The table: two varied columns, the figure asked for, six lines and a head.
    const StudyTable table = study_table(study, rows, {"cogging_peak_to_peak"});
    QCOMPARE(table.columns.size(), std::size_t(3));
    const QString csv = QString::fromStdString(study_to_csv(table));
    QCOMPARE(csv.count('\n'), 7);
    QVERIFY(csv.startsWith("design,gap,rotor.magnet.arc,cogging_peak_to_peak [N.m],problem\n1,0.8 mm,0.7,"));
    QVERIFY(!write_study_h5(table, study, rows, folder.filePath("s.h5").toStdString()));
    QVERIFY(QFileInfo(folder.filePath("s.h5")).size() > 1000);
    QVERIFY(bool(write_study_h5(table, study, rows, "/nowhere/s.h5")));
}

void TestStudy::stoppedAndGoneOnWith() {
    const Study study = small_study();
    QTemporaryDir folder;
    const AnswerStore store(folder.filePath("a.mavlo").toStdString());
    std::stop_source stop;
    StudyRun run;
    run.threads = 1;
    run.stop = stop.get_token();
    run.progress = [&](int done, int, double) {
        if (done == 5) stop.request_stop();
    };
    const auto part = run_study(study, {}, shelf_of(store), run);
    int found = 0;
    for (const StudyRow& row : part) {
        QVERIFY(row.problems.empty());
        for (const auto& answer : row.answers) found += answer.has_value();
    }
    QCOMPARE(found, 5);
    QCOMPARE(study_price(study, {}, shelf_of(store), 1)->kept, 5);
    for (const StudyRow& row : run_study(study, {}, shelf_of(store), {}))
        for (const auto& answer : row.answers) QVERIFY(answer.has_value());
}

void TestStudy::shardsTogether() {
    Study study = small_study();
    study.questions.resize(1);
    QTemporaryDir folder;
    const AnswerStore store(folder.filePath("a.mavlo").toStdString());
    std::size_t rows = 0;
    for (int k = 0; k < 4; ++k) {
        const auto part = study_table(study, run_study(study, {k, 4}, shelf_of(store), {}), {});
        for (std::size_t d : part.designs) QCOMPARE(int(d % 4), k);
        rows += part.designs.size();
    }
    QCOMPARE(rows, study.settings.size());
    QCOMPARE(study_price(study, {}, shelf_of(store), 1)->kept, 6);
}

void TestStudy::failedDesignsAreTold() {
    Study study = small_study();
    study.paths = {"gap"};
    study.settings = {{"1 mm"}, {"80 mm"}};
    const auto rows = run_study(study, {}, {}, {});
    QVERIFY(rows[0].problems.empty() && rows[0].answers[1]);
    QVERIFY(!rows[1].problems.empty() && !rows[1].answers[0]);
    const std::string csv = study_to_csv(study_table(study, rows, {"slot_fill"}));
    QVERIFY(csv.find("gap: The gap leaves no room") != std::string::npos);
    const auto price = study_price(study, {}, {}, 1);
    QCOMPARE(price->failed, 1);
}

void TestStudy::priceCountsFields() {
    const Study study = small_study();
    const auto price = study_price(study, {}, {}, 2);
    QVERIFY(bool(price));
    QCOMPARE(price->designs, 6);
    QCOMPARE(price->answers, 12);
    long fields = 0;
    for (std::size_t d = 0; d < 6; ++d) {
        const auto ask = study_ask(study, d, 1);
        fields += *question_price(*find_question("cogging"), *ask, machine_of(ask->design));
    }
    QCOMPARE(price->fields, fields);
    QVERIFY(price->seconds > 0);
}

/// Killed at moments that nothing chose well, a study ends with the same table as one that was left alone.
void TestStudy::killedOnTheCommandLine() {
    QTemporaryDir folder;
    const QString left = folder.filePath("left.mavlo"), killed = folder.filePath("killed.mavlo");
    for (const QString& file : {left, killed})
        QVERIFY(!write_project(*new_project("surface"), file.toStdString()));
    const auto arguments = [&](const QString& file) {
        return QStringList{
            "study",     file,    "--vary",   "gap=0.8:1.2:4 mm",     "--ask", "cogging:points=6",
            "--quality", "draft", "--figure", "cogging_peak_to_peak", "-o",    file + ".csv"};
    };
    QProcess alone;
    alone.start(MAVLO_CLI, arguments(left));
    QVERIFY(alone.waitForFinished(120000));
    QCOMPARE(alone.exitCode(), 0);
    for (int after : {30, 150, 320, 500, 90, 260, 410, 700, 180, 600}) {
        QProcess process;
        process.start(MAVLO_CLI, arguments(killed));
        if (!process.waitForFinished(after)) process.kill();
        process.waitForFinished();
    }
    QProcess last;
    last.start(MAVLO_CLI, arguments(killed));
    QVERIFY(last.waitForFinished(120000));
    QCOMPARE(last.exitCode(), 0);
    QFile a(left + ".csv"), b(killed + ".csv");
    QVERIFY(a.open(QIODevice::ReadOnly) && b.open(QIODevice::ReadOnly));
    QCOMPARE(b.readAll(), a.readAll());
}

MAVLO_TEST(study, TestStudy, EventLoop)
#include "test_study.moc"
