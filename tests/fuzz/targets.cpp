#include "fuzz/targets.h"

#include "circuit/netlist.h"
#include "drawing/pitch.h"
#include "drawing/section.h"
#include "machine/data_sheet.h"
#include "map/flux_map_file.h"
#include "material/bh_repair.h"
#include "material/bh_table.h"
#include "material/loss_table.h"
#include "project/answers.h"
#include "project/project.h"
#include "question/run_record.h"
#include "shape/dxf/writer.h"
#include "storage/file.h"
#include "winding/coil_table.h"

#include <fstream>

namespace mavlo::fuzz {
namespace {

std::filesystem::path put(const std::filesystem::path& scratch, const char* name, const std::string& bytes) {
    std::ofstream(scratch / name, std::ios::binary | std::ios::trunc) << bytes;
    return scratch / name;
}

std::vector<std::string> projects(const std::filesystem::path& data) {
    std::vector<std::string> list;
    for (const StartingShape& shape : starting_shapes()) list.push_back(project_text(*new_project(shape.name)));
    for (const auto& entry : std::filesystem::directory_iterator(data / "demo"))
        if (entry.path().extension() == ".mavlo")
            if (auto text = read_file(entry.path())) list.push_back(std::move(*text));
    return list;
}

void read_as_project(const std::string& bytes, const std::filesystem::path&) {
    const auto project = parse_project(bytes);
    if (!project) return;
    check_project(*project);
    // What was read once is read again as the same.
    const auto again = parse_project(project_text(*project));
    if (!again || !(*again == *project)) std::abort();
}

std::vector<std::string> drawings(const std::filesystem::path&) {
    std::vector<std::string> list;
    for (const char* shape : {"surface", "bar", "spoke", "reluctance", "salient"}) {
        const auto machine = build_machine(new_project(shape)->variants.front().design, {});
        if (!machine) continue;
        for (const Shown shown : {Shown::Whole, Shown::Pitch}) {
            const SectionPieces section = section_pieces(*machine, shown);
            list.push_back(dxf_text(section.pieces, section.layers));
        }
    }
    return list;
}

void read_as_drawing(const std::string& bytes, const std::filesystem::path& scratch) {
    const auto file = put(scratch, "d.dxf", bytes);
    for (const bool rotor : {true, false}) {
        ImportOptions options;
        options.rotor = rotor;
        options.stator = !rotor;
        const auto drawing = import_drawing(file, options);
        if (!drawing) continue;
        Design design = new_project("surface")->variants.front().design;
        for (const ImportedPart& part : drawing->parts)
            if (auto with = with_part(design, *drawing, part.side)) design = std::move(*with);
        (void)build_machine(design, {});
    }
}

std::vector<std::string> netlists(const std::filesystem::path& data) {
    std::vector<std::string> list{
        "V1 a 0 SIN(0 24 50)\nR1 a b 1\nL1 b c 1m\nC1 c 0 1u\n.end\n",
        "* a comment\nD1 a b\n+ r=1m\nS1 a b gate=u+\nI1 0 a PULSE(0 1 0 1u 1u 1m 2m)\n"};
    for (const std::string& text : projects(data))
        if (const auto project = parse_project(text))
            for (const Variant& variant : project->variants)
                for (const auto& [name, circuit] : variant.design.circuits) list.push_back(circuit);
    return list;
}

void read_as_netlist(const std::string& bytes, const std::filesystem::path&) {
    (void)read_netlist(bytes);
}

std::vector<std::string> tables(const std::filesystem::path&) {
    return {"H [A/m]\tB [T]\n0\t0\n100\t0.8\n1000\t1.4\n10000\t1.8\n",
            "f;B;P\nHz;T;W/kg\n50;0,5;0,6\n50;1,0;2,1\n400;0,5;9,5\n400;1,0;40\n",
            "B (T), 50 Hz, 400 Hz\n0.5, 0.6, 9\n1.0, 2.1, 41\n1.5, 5, 110\n",
            "stator outer diameter 100 mm\nslots 12\nair gap 0.8 mm\nD 54\n"};
}

void read_as_table(const std::string& bytes, const std::filesystem::path&) {
    if (const auto columns = read_columns(bytes)) {
        std::vector<std::string> notes;
        if (const auto points = loss_points(*columns, notes)) (void)fit_iron_loss(*points, 0);
        if (columns->columns() >= 2) {
            const auto curve = bh_points(*columns, guess_bh_columns(*columns));
            if (curve) (void)repair_bh(*curve);
        }
    }
    (void)read_data_sheet(new_project("surface")->variants.front().design, sheet_lines(bytes));
    (void)coils_from_table(bytes, 3);
}

FluxMap some_map() {
    std::vector<FluxPoint> points;
    for (double q : {0.0, 5.0, 10.0})
        for (double d : {-10.0, -5.0, 0.0}) {
            FluxPoint point;
            point.current = {d, q};
            point.flux_linkage = {0.05 + 1e-3 * d, 2e-3 * q};
            point.torque = 0.3 * q;
            points.push_back(point);
        }
    return {{-10, -5, 0}, {0, 5, 10}, points};
}

std::vector<std::string> maps(const std::filesystem::path&) {
    std::vector<std::string> list;
    const auto folder = std::filesystem::temp_directory_path();
    for (const char* name : {"mavlo-seed.csv", "mavlo-seed.h5"}) {
        if (write_flux_map(some_map(), folder / name)) continue;
        if (auto bytes = read_file(folder / name)) list.push_back(std::move(*bytes));
        std::filesystem::remove(folder / name);
    }
    return list;
}

void read_as_map(const std::string& bytes, const std::filesystem::path& scratch) {
    for (const char* name : {"m.csv", "m.h5"})
        if (const auto map = read_flux_map(put(scratch, name, bytes))) (void)map->at({-3, 4});
}

std::vector<std::string> answers(const std::filesystem::path&) {
    std::vector<std::string> list;
    for (const char* question : {"winding", "cogging"}) {
        Ask ask;
        ask.design = new_project("surface")->variants.front().design;
        ask.quality = Quality::Draft;
        if (question == std::string("cogging")) ask.with["points"] = "8";
        if (const auto answer = ask_question(question, ask)) list.push_back(answer_to_json(*answer));
    }
    Answer ranged;
    ranged.question = "flux-map";
    ranged.maps.push_back({"torque", "N.m", "id", "A", "iq", "A", {-1, 0}, {0, 1}, {{1, 2}, {3, 4}}});
    list.push_back(answer_to_json(ranged));
    return list;
}

void read_as_answer(const std::string& bytes, const std::filesystem::path&) {
    const auto answer = answer_from_json(bytes);
    if (!answer) return;
    (void)answer_to_csv(*answer);
    (void)answer_to_json(*answer);
}

FieldQuery query_at(double angle) {
    return {angle, {1, 2, 3}, 0};
}

std::vector<std::string> records(const std::filesystem::path&) {
    const auto folder = std::filesystem::temp_directory_path() / "mavlo-seed-record";
    const PointStore store = PointStore(folder).of("seed");
    {
        RunRecord record(store);
        record.next_field(query_at(0));
        for (int k = 0; k < 4; ++k) {
            FieldSolution field;
            field.potential = {1, 2, 3, 4, 5, 6};
            field.flux_linkage = {1, 2, 3};
            record.add(query_at(k), field);
        }
    }
    std::vector<std::string> list;
    if (auto bytes = read_file(store.stem("run").string() + "-0001.h5")) list.push_back(std::move(*bytes));
    std::filesystem::remove_all(folder);
    return list;
}

void read_as_record(const std::string& bytes, const std::filesystem::path& scratch) {
    const PointStore store = PointStore(scratch).of("seed");
    std::ofstream(store.stem("run").string() + "-0001.h5", std::ios::binary | std::ios::trunc) << bytes;
    RunRecord record(store);
    record.expect(6, 3);
    for (int k = 0; k < 5; ++k) (void)record.next_field(query_at(k));
    (void)record.finish();
}

} // namespace

const std::vector<Target>& targets() {
    static const std::vector<Target> list{{"project", projects, read_as_project},
                                          {"drawing", drawings, read_as_drawing},
                                          {"netlist", netlists, read_as_netlist},
                                          {"table", tables, read_as_table},
                                          {"map", maps, read_as_map},
                                          {"answer", answers, read_as_answer},
                                          {"record", records, read_as_record}};
    return list;
}

} // namespace mavlo::fuzz
