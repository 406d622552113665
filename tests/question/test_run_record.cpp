// Runs on fields that are stopped or killed go on from what was solved.

#include "night.h"
#include "project/answers.h"
#include "project/project.h"
#include "question/run_record.h"
#include "support.h"
#include "test_program.h"

#include <QDir>
#include <QProcess>
#include <QTemporaryDir>
#include <csignal>
#include <fstream>

using namespace mavlo;

namespace {

FieldSolution field_with(double value) {
    FieldSolution f;
    f.angle = value;
    f.current = {value, -value};
    f.potential = {value, 2 * value, 3 * value};
    f.torque = 4 * value;
    f.flux_linkage = {5 * value, 6 * value};
    f.coenergy = 7 * value;
    return f;
}

FieldQuery query_of(double value, double per_time = 0) {
    return {value, {value, -value}, per_time};
}

} // namespace

class TestRunRecord : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    int m_subjects = 0;

    PointStore fresh_store() {
        return PointStore(m_folder.path().toStdString()).of(std::to_string(++m_subjects));
    }
    static QStringList files_in(const QString& folder) {
        return QDir(folder).entryList({QStringLiteral("run-*.h5")});
    }

  private Q_SLOTS:
    void fields_come_back_in_their_order() {
        const PointStore store = fresh_store();
        {
            RunRecord record(store);
            QVERIFY(!record.next_field(query_of(1)));
            record.add(query_of(1), field_with(1));
            record.add({{0.5, 0.1}, {0.1, 0.7}});
            record.add(query_of(2, 300), field_with(2));
        }
        RunRecord record(store);
        const auto first = record.next_field(query_of(1));
        QVERIFY(first);
        QVERIFY(first->potential == field_with(1).potential &&
                first->flux_linkage == field_with(1).flux_linkage);
        QCOMPARE(first->torque, 4.0);
        const auto inductance = record.next_inductance();
        QVERIFY(inductance && (*inductance)[1][0] == 0.1 && (*inductance)[1][1] == 0.7);
        QVERIFY(record.next_field(query_of(2, 300)));
        QVERIFY(!record.next_field(query_of(3))); // its end
        record.add(query_of(3), field_with(3));
    }
    void what_goes_another_way_is_void_from_there() {
        const PointStore store = fresh_store();
        {
            RunRecord record(store);
            for (double k : {1.0, 2.0, 3.0}) {
                QVERIFY(!record.next_field(query_of(k)));
                record.add(query_of(k), field_with(k));
            }
        }
        {
            RunRecord record(store);
            QVERIFY(record.next_field(query_of(1)));
            QVERIFY(!record.next_field(query_of(2.5))); // another current
            record.add(query_of(2.5), field_with(2.5));
            QVERIFY(!record.next_field(query_of(3)));
            record.add(query_of(3), field_with(3));
        }
        RunRecord record(store);
        for (double k : {1.0, 2.5, 3.0}) QVERIFY(record.next_field(query_of(k)));
        QVERIFY(!record.next_inductance());
    }
    void another_step_or_kind_of_entry_is_another_way() {
        const PointStore store = fresh_store();
        {
            RunRecord record(store);
            record.next_field(query_of(1));
            record.add(query_of(1, 100), field_with(1));
        }
        QVERIFY(!RunRecord(store).next_field(query_of(1, 101)));
        {
            RunRecord record(store);
            QVERIFY(!record.next_inductance());
            record.add(query_of(1), field_with(1));
        }
        QVERIFY(RunRecord(store).next_field(query_of(1)));
    }
    void damaged_files_are_passed_over() {
        const PointStore store = fresh_store();
        {
            RunRecord record(store);
            record.next_field(query_of(1));
            record.add(query_of(1), field_with(1));
        }
        const std::string file = store.stem("run").string() + "-0001.h5";
        QVERIFY(std::filesystem::exists(file));
        std::filesystem::resize_file(file, std::filesystem::file_size(file) / 2);
        QVERIFY(!RunRecord(store).next_field(query_of(1)));
        std::ofstream(file) << "no HDF5";
        QVERIFY(!RunRecord(store).next_field(query_of(1)));
    }
    void nothing_is_kept_without_a_store_and_all_goes_with_the_answer() {
        RunRecord none{PointStore()};
        QVERIFY(!none.next_field(query_of(1)));
        none.add(query_of(1), field_with(1));
        const PointStore store = fresh_store();
        {
            RunRecord record(store);
            record.next_field(query_of(1));
            record.add(query_of(1), field_with(1));
        }
        RunRecord again(store);
        QVERIFY(again.next_field(query_of(1)));
        // Until the answer is kept the record is.
        const auto files = again.finish();
        QCOMPARE(files.size(), std::size_t(1));
        QVERIFY(std::filesystem::exists(files.front()));
        Ask ask;
        Answer answer;
        answer.question = "winding";
        answer.spent.files = files;
        QVERIFY(!AnswerStore::in_folder(files.front().parent_path()).keep(answer, ask));
        QVERIFY(!std::filesystem::exists(files.front()));
    }
    void a_stopped_run_goes_on_data() {
        QTest::addColumn<QString>("supply");
        QTest::addColumn<int>("wanted"); // pictures of the growing curves, before it is stopped
        QTest::newRow("sine voltage") << "sine-voltage" << 1;
        QTest::newRow("given currents") << "currents" << 4;
        if (by_night()) QTest::newRow("own circuit") << "own" << 4;
    }
    void a_stopped_run_goes_on() {
        QFETCH(QString, supply);
        QFETCH(int, wanted);
        Ask ask;
        ask.design = new_project("surface")->variants.front().design;
        ask.design.circuits["load"] = "X1 a n phase_1\nX2 b n phase_2\nX3 c n phase_3\nR1 a m 3\nR2 b m 3\n"
                                      "R3 c m 3\nR4 n 0 1meg\nR5 m 0 1meg\n";
        ask.with = {{"supply", supply.toStdString()},
                    {"method", "field"},
                    {"points", "60"},
                    {"voltage", "20 V"},
                    {"field_steps", "36"}};
        ask.quality = Quality::Draft;
        QTemporaryDir folder;
        const auto whole = ask_question("in-time", ask);
        if (!whole) QFAIL(to_string(whole.problems().front()).c_str());
        Run run;
        run.points = PointStore(folder.path().toStdString());
        std::stop_source stop;
        run.watch.stop = stop.get_token();
        // The map of an own circuit is solved before, in one go.
        int seen = 0;
        run.watch.grows = [&](const std::vector<Curve>&) {
            if (++seen == wanted) stop.request_stop();
        };
        QVERIFY(!ask_question("in-time", ask, run));
        QCOMPARE(files_in(folder.path()).size(), 1);
        run.watch = {};
        const auto rest = ask_question("in-time", ask, run);
        if (!rest) QFAIL(to_string(rest.problems().front()).c_str());
        QVERIFY2(rest->effort.solves < whole->effort.solves, qPrintable(QString::number(rest->effort.solves)));
        for (const char* name : {"torque_mean", "current_rms", "iron_loss_stator"})
            CLOSE(*rest->figure(name) / *whole->figure(name), 1, 2e-4);
        // What circuit and field may disagree by in a step shows most in the ripple.
        CLOSE(*rest->figure("torque_peak_to_peak") / *whole->figure("torque_peak_to_peak"), 1, 5e-3);
        QCOMPARE(files_in(folder.path()).size(), qsizetype(rest->spent.files.size()));
        QVERIFY(!AnswerStore::in_folder(folder.path().toStdString()).keep(*rest, ask));
        QVERIFY(files_in(folder.path()).isEmpty());
    }
    void a_killed_run_goes_on() {
        QTemporaryDir folder;
        const QString project = folder.filePath(QStringLiteral("a.mavlo"));
        QVERIFY(!write_project(*new_project("surface"), project.toStdString()));
        const QStringList ask{"ask",        project,        "in-time", "--with",    "supply=currents",
                              "--with",     "method=field", "--with",  "periods=2", "--with",
                              "points=720", "--quality",    "draft",   "--keep"};
        constexpr qint64 tenth_of_run = 144 * 4500 * qint64(sizeof(double)); // fields of so many unknowns
        QProcess process;
        process.start(QStringLiteral(MAVLO_CLI), ask);
        const QString kept = folder.filePath(QStringLiteral("a.answers"));
        // A crowded machine keeps few fields in the time of a file: until it is a tenth of the run.
        const auto kept_bytes = [&] {
            qint64 sum = 0;
            for (const QFileInfo& file : QDir(kept).entryInfoList({QStringLiteral("run-*.h5")}))
                sum += file.size();
            return sum;
        };
        QVERIFY(QTest::qWaitFor([&] { return kept_bytes() > tenth_of_run; }, 240000));
        QVERIFY(process.processId() > 0);
        ::kill(pid_t(process.processId()), SIGKILL);
        QVERIFY(process.waitForFinished(5000));
        QVERIFY(files_in(kept).size() >= 1);
        const auto solves = [](const QStringList& arguments) {
            QProcess run;
            run.start(QStringLiteral(MAVLO_CLI), arguments);
            if (!run.waitForFinished(240000) || run.exitCode() != 0) return 0;
            return nlohmann::json::parse(run.readAllStandardOutput().toStdString())["effort"]["solves"]
                .get<int>();
        };
        // Given currents need no map, whose points would be kept, too.
        const int rest = solves(ask), whole = solves(ask.mid(0, ask.size() - 1));
        QVERIFY2(rest > 0 && rest < 0.95 * whole, qPrintable(QStringLiteral("%1 of %2").arg(rest).arg(whole)));
        QVERIFY(files_in(kept).isEmpty()); // the answer is kept in their place
    }
};

MAVLO_TEST(run_record, TestRunRecord, EventLoop)
#include "test_run_record.moc"
