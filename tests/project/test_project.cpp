#include "project/answers.h"
#include "project/project.h"
#include "project/project_materials.h"
#include "support.h"
#include "test_program.h"

#include <QDir>
#include <QTemporaryDir>
#include <csignal>
#include <fstream>
#include <random>
#include <sys/resource.h>

using namespace mavlo;

namespace {

Project rich_project() {
    Project p = *new_project("surface");
    p.name = "Ventilation plant";
    p.variants[0].design.texts["gap"] = "= stator.bore_diameter / 60";
    p.variants.push_back({"thick magnet", p.variants[0].design, {}});
    p.variants[1].design.texts["rotor.magnet.thickness"] = "0.15 in";
    p.active = "thick magnet";
    return p;
}

} // namespace

class TestProject : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void a_project_survives_its_file() {
        const Project p = rich_project();
        const auto back = parse_project(project_text(p));
        QVERIFY(bool(back));
        QVERIFY(*back == p);
        QCOMPARE(project_text(*back), project_text(p));
        QVERIFY(check_project(p).empty());
    }
    void coils_by_hand_survive_and_are_checked() {
        Project p = *new_project("surface");
        Design& design = p.variants[0].design;
        design.coils = build_machine(design)->winding.layout.coils;
        design.coils[0].turns = 7.5;
        design.coils[1].back = {outside_core, 0};
        QVERIFY(*parse_project(project_text(p)) == p);
        auto json = nlohmann::json::parse(project_text(p));
        json["variants"]["base"]["coils"][0]["phase"] = "Q";
        const auto broken = parse_project(json.dump());
        QVERIFY(!broken && broken.problems().front().path == "coils[0]");
        // A side in a slot that is not there, two in one place; and back to the proposal by a setting.
        design.coils[0].go.slot = 99;
        QVERIFY(!sentence_at(build_machine(design).problems(), "coils[0]").empty());
        design.coils[0].go = design.coils[1].go;
        QVERIFY(!sentence_at(build_machine(design).problems(), "coils[1]").empty());
        const auto proposed = with_text(design, "coils", "auto");
        QVERIFY(proposed && proposed->coils.empty());
        const auto table = with_text(*proposed, "coils", "0,0,1,1,0,5,U\n1,1,1,2,0,5,V\n2,2,1,3,0,5,-W\n");
        QVERIFY(table && table->coils.size() == 3 && table->coils[2].sign == -1);
        QVERIFY(!with_text(*proposed, "coils", "nonsense"));
    }
    void one_quantity_a_line_in_stable_order() {
        const QStringList lines = QString::fromStdString(project_text(rich_project())).split('\n');
        QVERIFY(lines[1].contains(QStringLiteral("\"format\": \"mavlo\"")) &&
                lines[2].contains(QStringLiteral("\"version\": 1")));
        QCOMPARE(lines.filter(QStringLiteral("\"bore_diameter\": \"54 mm\"")).size(), 2);
        QCOMPARE(lines.filter(QStringLiteral("\"slots\": 12")).size(), 2);
    }
    void unknown_keys_are_kept_and_reported() {
        auto p = parse_project(
            R"({"format":"mavlo","version":1,"author":"me","variants":{"base":{"gap":"1 mm","stator":{"slot":{"dept":"3 mm"}},"colour":[1,2]}}})");
        QVERIFY(bool(p));
        const Problems problems = check_project(*p);
        QVERIFY(sentence_at(problems, "stator.slot.dept").find("stator.slot.depth") != std::string::npos);
        QVERIFY(!sentence_at(problems, "author").empty() && !sentence_at(problems, "colour").empty());
        const std::string text = project_text(*p);
        for (const char* kept : {"\"author\": \"me\"", "\"dept\": \"3 mm\"", "\"colour\""})
            QVERIFY2(text.find(kept) != std::string::npos, kept);
    }
    void broken_files_say_where_and_why_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("words");
        QTest::newRow("syntax") << "{\n \"format\": \"mavlo\",\n \"version\" 1\n}"
                                << "line 3";
        QTest::newRow("empty") << ""
                               << "line 1";
        QTest::newRow("other format") << "{\"format\":\"other\"}"
                                      << "no Mavlo project";
        QTest::newRow("list") << "[1,2]"
                              << "no Mavlo project";
        QTest::newRow("no version") << "{\"format\":\"mavlo\"}"
                                    << "version";
        QTest::newRow("newer") << "{\"format\":\"mavlo\",\"version\":7,\"variants\":{\"a\":{}}}"
                               << "newer Mavlo";
        QTest::newRow("no variants") << "{\"format\":\"mavlo\",\"version\":1}"
                                     << "at least one design";
        QTest::newRow("variant no object") << "{\"format\":\"mavlo\",\"version\":1,\"variants\":{\"a\":3}}"
                                           << "object of parameters";
        QTest::newRow("value a list")
            << "{\"format\":\"mavlo\",\"version\":1,\"variants\":{\"a\":{\"gap\":[1]}}}"
            << "gap";
        QTest::newRow("no such active")
            << "{\"format\":\"mavlo\",\"version\":1,\"active\":\"b\",\"variants\":{\"a\":{}}}"
            << "no variant \"b\"";
        QTest::newRow("bad material") << "{\"format\":\"mavlo\",\"version\":1,\"variants\":{\"a\":{}},"
                                         "\"materials\":{\"s\":{\"kind\":\"steel\",\"bh\":[[2,1],[1,2]]}}}"
                                      << "materials.s.bh";
    }
    void broken_files_say_where_and_why() {
        QFETCH(QString, text);
        QFETCH(QString, words);
        const auto p = parse_project(text.toStdString());
        QVERIFY(!p);
        const QString said = QString::fromStdString(to_string(p.problems().front()));
        QVERIFY2(said.contains(words), qPrintable(said));
    }
    void own_materials_are_used_and_written() {
        auto p = parse_project(
            R"({"format":"mavlo","version":1,"variants":{"a":{"stator":{"steel":"Own 1"}}},"materials":{"Own 1":{"kind":"steel","mu_r":800,"density":"7600 kg/m3"}}})");
        QVERIFY(bool(p));
        QVERIFY(check_project(*p).empty());
        QCOMPARE(build_machine(p->variants[0].design, p->materials)
                     ->substance("stator.steel")
                     ->material.curve.linear_mu_r(),
                 800.0);
        QVERIFY(*parse_project(project_text(*p)) == *p);
    }
    void mutated_files_never_crash() {
        const std::string good = project_text(rich_project());
        std::mt19937 random(20261);
        auto pick = [&](std::size_t n) { return std::size_t(random() % std::max<std::size_t>(1, n)); };
        const std::vector<std::string> shards{
            "{",     "}",       "\"", ",",    ":",        "null",         "-1 mm", "1e308 mm",
            "= gap", "\\u0000", "[",  "true", "\xff\xfe", "999999999999", "deg",   "0"};
        int valid = 0, refused = 0;
        for (int round = 0; round < 600; ++round) {
            std::string text = good;
            for (std::size_t n = 1 + pick(4); n > 0; --n) {
                const std::size_t at = pick(text.size());
                switch (pick(5)) {
                case 0:
                    text.erase(at, pick(40));
                    break;
                case 1:
                    text.insert(at, shards[pick(shards.size())]);
                    break;
                case 2:
                    text[at] = char(random() % 256);
                    break;
                case 3:
                    text.insert(at, text.substr(pick(text.size()), pick(60)));
                    break;
                default:
                    text.resize(at);
                    break;
                }
                if (text.empty()) break;
            }
            const auto p = parse_project(text);
            if (!p) {
                ++refused;
                QVERIFY(!p.problems().empty() && p.problems().front().sentence.size() > 10);
                continue;
            }
            ++valid;
            for (const Problem& problem : check_project(*p)) QVERIFY(problem.sentence.size() > 10);
            QVERIFY(!project_text(*p).empty());
        }
        qInfo("%d valid, %d refused", valid, refused);
        QVERIFY(valid > 10 && refused > 200);
    }
    void mutated_values_give_a_machine_or_a_sentence() {
        std::mt19937 random(7);
        const std::vector<std::string> texts{"0 mm",
                                             "1e-9 mm",
                                             "1e9 mm",
                                             "-3 mm",
                                             "5 deg",
                                             "0 deg",
                                             "89 deg",
                                             "0",
                                             "1",
                                             "2",
                                             "3",
                                             "7",
                                             "400",
                                             "= gap*3",
                                             "= 1/0 * gap",
                                             "auto",
                                             "nan",
                                             "linear(1)",
                                             "magnet(9 T, 3)",
                                             "none",
                                             "radial",
                                             "parallel",
                                             "0.5",
                                             "55 mm",
                                             "12 mm"};
        int built = 0;
        for (int round = 0; round < 400; ++round) {
            Design design;
            for (std::size_t n = 1 + random() % 3; n > 0; --n)
                design.texts[parameters()[random() % parameters().size()].path] =
                    texts[random() % texts.size()];
            const auto machine = build_machine(design);
            if (machine)
                ++built;
            else
                QVERIFY(machine.problems().front().sentence.size() > 10);
        }
        QVERIFY2(built > 10, qPrintable(QString::number(built)));
    }
    void saving_is_atomic_and_a_full_disk_loses_nothing() {
        QTemporaryDir folder;
        const auto file = std::filesystem::path(folder.path().toStdString()) / "a.mavlo";
        const Project p = rich_project();
        QVERIFY(!write_project(p, file));
        // A limit on the size of files stands for a full disk.
        std::signal(SIGXFSZ, SIG_IGN);
        rlimit old{};
        getrlimit(RLIMIT_FSIZE, &old);
        rlimit tight{100, old.rlim_max};
        setrlimit(RLIMIT_FSIZE, &tight);
        Project changed = p;
        changed.name = "Changed";
        const auto problem = write_project(changed, file);
        setrlimit(RLIMIT_FSIZE, &old);
        QVERIFY(problem && problem->sentence.find("as it was") != std::string::npos);
        QVERIFY(*read_project(file) == p);
        QCOMPARE(QDir(folder.path()).entryList(QDir::Files).size(), 1);
        const auto missing = write_project(p, "/nowhere/at/all/a.mavlo");
        QVERIFY(missing && missing->path == "/nowhere/at/all/a.mavlo");
        QVERIFY(!read_project("/nowhere/at/all/a.mavlo"));
        QVERIFY(!read_project(folder.path().toStdString()));
    }
    void answers_are_kept_by_what_they_depend_on() {
        QTemporaryDir folder;
        const AnswerStore store(std::filesystem::path(folder.path().toStdString()) / "a.mavlo");
        Ask ask;
        ask.quality = Quality::Draft;
        QVERIFY(!store.find("winding", ask));
        const auto answer = ask_question("winding", ask);
        QVERIFY(answer && !store.keep(*answer, ask));
        QVERIFY(*store.find("winding", ask) == *answer);
        Ask other = ask;
        other.design.texts["winding.turns"] = "21";
        QVERIFY(!store.find("winding", other));
        // A damaged file counts as no answer.
        for (const auto& entry : std::filesystem::directory_iterator(store.folder()))
            std::ofstream(entry.path()) << "{";
        QVERIFY(!store.find("winding", ask));
    }
    void starting_shapes_can_all_be_built() {
        QVERIFY(starting_shapes().size() >= 10);
        for (const auto& shape : starting_shapes()) {
            const auto problems = check_project(*new_project(shape.name));
            QVERIFY2(problems.empty(),
                     (shape.name + ": " + (problems.empty() ? "" : to_string(problems.front()))).c_str());
        }
        QVERIFY(!new_project("nothing"));
    }
    void a_project_carries_the_materials_it_uses() {
        Project project = *new_project("surface");
        const auto json = nlohmann::json::parse(project_text(project));
        QVERIFY(json["materials"].contains("M330-35A") && json["materials"].contains("NdFeB 310/130"));
        QVERIFY(!json["materials"].contains("M400-50A"));
        // Read again they are the shelf's; a record that differs is the project's own.
        QVERIFY(*parse_project(project_text(project)) == project);
        auto other = json;
        other["materials"]["M330-35A"]["density"] = "7600 kg/m3";
        const auto read = parse_project(other.dump());
        QVERIFY(read && read->materials.size() == 1);
        CLOSE(read->materials.at("M330-35A").density, 7600, 1e-9);
        // A row of a table stands on one line.
        QVERIFY(project_text(project).find("[35.0, 0.1]") != std::string::npos);
    }
    void every_material_reads_back_as_it_was_written() {
        for (const auto& [name, material] : shipped_materials()) {
            const auto again = read_material(name, nlohmann::json::parse(to_json(material).dump()));
            QVERIFY2(again && *again == material, name.c_str());
        }
    }
    void own_materials_are_renamed_with_their_uses() {
        Project project = *new_project("surface");
        Material own = shipped_materials().at("M330-35A");
        own.name = free_material_name(project, own.name);
        put_material(project, own);
        project.variants.front().design.texts["stator.steel"] = own.name;
        QCOMPARE(uses_of(project, own.name).size(), std::size_t(1));
        QVERIFY(rename_material(project, own.name, "copper"));
        QVERIFY(rename_material(project, own.name, "linear(3)"));
        QVERIFY(rename_material(project, own.name, " "));
        QVERIFY(!rename_material(project, own.name, "ours"));
        QCOMPARE(project.variants.front().design.texts["stator.steel"], std::string("ours"));
        QVERIFY(project.materials.contains("ours") && project.materials.size() == 1);
        QVERIFY(*parse_project(project_text(project)) == project);
    }
};
MAVLO_TEST(project, TestProject, Nothing)
#include "test_project.moc"
