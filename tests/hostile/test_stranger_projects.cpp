// Projects, tables and maps from strangers: refused with a sentence, within bounds of memory and time.

#include "hostile/hostile.h"
#include "test_program.h"

#include <hdf5.h>
#include <sys/stat.h>

using namespace mavlo;

class TestStrangerProjects : public QObject {
    Q_OBJECT
    Leash m_leash;

    static QByteArray around(const QByteArray& variant) {
        return R"({"format":"mavlo","version":1,"variants":{"base":)" + variant + "}}";
    }
    CliRun check(const QByteArray& text) const { return m_leash.run({"check", m_leash.put("h.mavlo", text)}); }
    static QByteArray dug(int depth, const char* open, const char* close, const char* middle) {
        return QByteArray(open).repeated(depth) + middle + QByteArray(close).repeated(depth);
    }

  private Q_SLOTS:
    void deep_ones_are_refused() {
        QVERIFY(refused(check(around("{\"x\":" + dug(70000, "[", "]", "1") + "}"))));
        QVERIFY(refused(check(around("{\"x\":" + dug(70000, "{\"a\":", "}", "1") + "}"))));
        QVERIFY(says(check(dug(70000, "[", "]", "")), "deep"));
        QVERIFY(refused(check(dug(2000000, "[", "", ""))));
        // A bracket in a text is none.
        const QByteArray text = QByteArray("[").repeated(500);
        QVERIFY(says(check(around("{\"note\":\"" + text + "\"}")), "no such parameter"));
    }
    void counts_are_bounded() {
        const QByteArray coils = QByteArray(R"({"go":[0,0],"turns":1,"phase":"nobody"},)").repeated(50);
        QVERIFY(
            refused(check(around(R"({"winding":{"phases":2000000000},"coils":[)" + coils.chopped(1) + "]}"))));
        const QByteArray many = QByteArray(R"({"go":[0,0],"turns":1,"phase":"U"},)").repeated(30000);
        QVERIFY(says(check(around(R"({"coils":[)" + many.chopped(1) + "]}")), "at most"));
        QVERIFY(refused(check(around(R"({"coils":[{"go":[1e300,-1e300],"turns":1,"phase":"U"}]})"))));
        QByteArray variants;
        for (int k = 0; k < 3000; ++k) variants += "\"v" + QByteArray::number(k) + "\":{},";
        QVERIFY(refused(check(R"({"format":"mavlo","version":1,"variants":{)" + variants.chopped(1) + "}}")));
        QVERIFY(refused(check(around(R"({"stator":{"slots":2000000000},"rotor":{"poles":2000000000}})"))));
    }
    void numbers_that_none_can_hold() {
        QVERIFY(refused(check(around(R"({"gap":1e999})"))));
        QVERIFY(refused(check(around(R"({"gap":"1e999 mm"})"))));
        QVERIFY(refused(check(around(R"({"gap":"nan mm"})"))));
        QVERIFY(refused(check(around(R"({"gap":"= gap"})"))));
        QVERIFY(refused(check(around("{\"gap\":\"= " + dug(50000, "(", ")", "1") + "\"}"))));
    }
    void bytes_that_are_no_text() {
        QVERIFY(refused(check(QByteArray::fromHex("ff00fe7b22666f726d6174"))));
        QVERIFY(refused(check(around("{\"name\":\"\xff\xfe\"}"))));
        QVERIFY(refused(check(QByteArray())));
        QVERIFY(refused(check(QByteArray(3000000, '\0'))));
    }
    void what_is_no_file_is_refused_at_once() {
        const QString pipe = m_leash.path("pipe.mavlo");
        QCOMPARE(::mkfifo(pipe.toUtf8().constData(), 0600), 0);
        QVERIFY(says(m_leash.run({"check", pipe}), "a pipe"));
        QVERIFY(says(m_leash.run({"check", "/dev/zero"}), "a device"));
        QVERIFY(says(m_leash.run({"check", m_leash.folder()}), "a folder"));
        // Nor are they written over.
        QVERIFY(says(m_leash.run({"new", "surface", "-o", pipe}), "a pipe"));
        QVERIFY(says(m_leash.run({"new", "surface", "-o", "/dev/null"}), "a device"));
        struct ::stat about {};
        QVERIFY(::stat(pipe.toUtf8().constData(), &about) == 0 && S_ISFIFO(about.st_mode));
    }
    void control_characters_do_not_reach_the_terminal() {
        const CliRun run = check(around("{\"colour\\u001b]0;mine\\u0007\":1,\"x\\u009b2J\":2}"));
        QCOMPARE(run.code, 1);
        QVERIFY(!run.out.contains(QChar(0x1b)) && !run.out.contains(QChar(7)) &&
                !run.out.contains(QChar(0x9b)));
        QVERIFY(run.out.contains("\\x1b"));
    }
    void unknown_keys_survive_whatever_their_names() {
        const QByteArray text = around(
            R"({"a":1,"a.b":2,"gap":"1 mm","gap.extra":3,"stator":{"slot":{}, "x":{},"y/z":{"~":[4]}},"":5})");
        const QString file = m_leash.put("k.mavlo", text);
        const QByteArray empty = "  0\nSECTION\n  0\nENDSEC\n  0\nEOF\n";
        // Through a program that reads and writes it.
        QVERIFY(refused(
            m_leash.run({"import", file, m_leash.put("e.dxf", empty), "-o", m_leash.path("k2.mavlo")})));
        const auto project = parse_project(text.toStdString());
        QVERIFY(bool(project));
        const auto json = nlohmann::json::parse(project_text(*project))["variants"]["base"];
        QCOMPARE(json["a"].get<int>(), 1);
        QCOMPARE(json["a.b"].get<int>(), 2);
        QCOMPARE(json["gap.extra"].get<int>(), 3);
        QCOMPARE(json["stator"]["y/z"]["~"][0].get<int>(), 4);
        QVERIFY(json["stator"]["x"].is_object() && json["stator"]["slot"].is_object());
        QCOMPARE(json[""].get<int>(), 5);
        QVERIFY(*parse_project(project_text(*project)) == *project);
    }
    void unknown_keys_inside_lists_stay_with_their_members() {
        auto project = parse_project(around(R"({"winding":{"scheme":"own"},
            "coils":[{"go":[0,0],"return":[1,1],"turns":20,"phase":"U","maker":"north"},
                     {"go":[2,0],"return":[3,1],"turns":20,"phase":"-V","maker":"south","lot":[1]}],
            "drawings":{"hand":"left",
             "shapes":[{"name":"hole","side":"rotor","role":"air","x":"10 mm","y":"2 mm","radius":"1 mm",
                        "drill":{"lot":7}}],
             "dimensions":[{"name":"bridge","side":"rotor","from":[1,2],"to":[3,4],"tolerance":"h7"}]}})")
                                         .toStdString());
        QVERIFY2(bool(project), project ? "" : project.problems().front().sentence.c_str());
        QVERIFY(*parse_project(project_text(*project)) == *project);
        const Problems told = check_project(*project);
        const auto is_told = [&](const char* path) {
            return std::any_of(told.begin(), told.end(), [&](const Problem& p) { return p.path == path; });
        };
        QVERIFY(is_told("coils[0].maker") && is_told("drawings.shapes[0].drill"));
        QVERIFY(!is_told("drawings.shapes[0].name"));
        // A coil before them, and one changed: what is known of the other goes with it.
        auto& coils = project->variants[0].design.coils;
        coils[0].turns = 21;
        coils.insert(coils.begin(), coils[1]);
        coils[0].go.slot = 4;
        const auto json = nlohmann::json::parse(project_text(*project))["variants"]["base"];
        QVERIFY(!json["coils"][0].contains("maker") && !json["coils"][1].contains("maker"));
        QCOMPARE(json["coils"][2]["maker"].get<std::string>(), "south");
        QCOMPARE(json["coils"][2]["lot"][0].get<int>(), 1);
        QCOMPARE(json["drawings"]["hand"].get<std::string>(), "left");
        QCOMPARE(json["drawings"]["shapes"][0]["drill"]["lot"].get<int>(), 7);
        QCOMPARE(json["drawings"]["dimensions"][0]["tolerance"].get<std::string>(), "h7");
    }
    void maps_are_checked_before_they_are_read() {
        const QString project = m_leash.project("m.mavlo");
        const auto ask = [&](const QString& map) {
            return m_leash.run({"ask", project, "speed-range", "--quality", "draft", "--map", map});
        };
        QVERIFY(says(ask(m_leash.put("twice.csv", "id,iq,torque,torque\n0,0,0,0\n")), "twice"));
        QVERIFY(
            refused(ask(m_leash.put("nan.csv", "id,iq,flux_linkage_d,flux_linkage_q,torque\n0,nan,0,0,0\n"))));
        QVERIFY(refused(ask(m_leash.put("no.h5", "not HDF5"))));
        const auto h5 = [&](const char* name, const std::vector<std::vector<hsize_t>>& shapes) {
            const QString file = m_leash.path(name);
            const hid_t f = H5Fcreate(file.toUtf8().constData(), H5F_ACC_TRUNC, H5P_DEFAULT, H5P_DEFAULT);
            int k = 0;
            for (const char* set : {"id", "iq", "flux_linkage_d", "flux_linkage_q", "torque"}) {
                const auto& shape = shapes[std::size_t(std::min<int>(k++, int(shapes.size()) - 1))];
                const hid_t space = H5Screate_simple(int(shape.size()), shape.data(), nullptr);
                // Never written: its room is not taken on the disk, and must not be in memory.
                H5Dclose(H5Dcreate2(f, set, H5T_NATIVE_DOUBLE, space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT));
                H5Sclose(space);
            }
            H5Fclose(f);
            return file;
        };
        QVERIFY(refused(ask(h5("huge.h5", {{90'000'000}, {90'000'000}, {3}}))));
        QVERIFY(refused(ask(h5("odd.h5", {{2}, {2}, {4}}))));
        const QString linked = m_leash.path("linked.h5");
        const hid_t f = H5Fcreate(linked.toUtf8().constData(), H5F_ACC_TRUNC, H5P_DEFAULT, H5P_DEFAULT);
        for (const char* set : {"id", "iq", "flux_linkage_d", "flux_linkage_q", "torque"})
            H5Lcreate_external("other.h5", set, f, set, H5P_DEFAULT, H5P_DEFAULT);
        H5Fclose(f);
        QVERIFY(refused(ask(linked)));
    }
    void a_script_for_slurm_takes_no_line_of_a_folders_name() {
        const QString folder = m_leash.path("a\n#SBATCH --wrap=touch x\nb");
        QVERIFY(QDir().mkpath(folder));
        const QString project = folder + "/p.mavlo";
        QVERIFY(QFile::copy(m_leash.project("s.mavlo"), project));
        const CliRun run = m_leash.run({"study", project, "--vary", "gap=1,2 mm", "--ask", "winding", "--slurm",
                                        "--detach", "-o", m_leash.path("t.csv")});
        QVERIFY(refused(run) && says(run, "folder"));
        const QString plain = m_leash.path("it's a $(touch y) `touch z` folder");
        QVERIFY(QDir().mkpath(plain));
        QVERIFY(QFile::copy(m_leash.path("s.mavlo"), plain + "/p.mavlo"));
        m_leash.run({"study", plain + "/p.mavlo", "--vary", "gap=1,2 mm", "--ask", "winding", "--slurm",
                     "--detach", "-o", m_leash.path("t.csv")});
        for (const char* name : {"x", "y", "z"}) QVERIFY(!QFileInfo::exists(m_leash.path(name)));
        const QStringList scripts = QDir(plain + "/p.answers").entryList({"slurm-*.sh"});
        QCOMPARE(scripts.size(), 1);
        QCOMPARE(QProcess::execute("bash", {"-n", plain + "/p.answers/" + scripts.front()}), 0);
    }
};
MAVLO_TEST(stranger_projects, TestStrangerProjects, EventLoop)
#include "test_stranger_projects.moc"
