#include "machine/rotors/magnet_parameters.h"

#include "machine/design.h"
#include "quantity/quantity.h"

namespace mavlo {
namespace {

using namespace parameter;

bool is_second(const std::string& layer) {
    return layer != "rotor.";
}
const char* group_of(const std::string& layer, const char* first) {
    return is_second(layer) ? "Second layer" : first;
}
bool has_clearance(const Design& design) {
    return trim(design.text("rotor.magnet.clearance")) != "0 mm";
}
bool second_has_clearance(const Design& design) {
    return trim(design.text("rotor.second.magnet.clearance")) != "0 mm";
}

} // namespace

std::vector<Parameter> magnet_parameters(const std::string& layer, const char* thickness) {
    const std::string m = layer + "magnet.";
    return joined(
        {in_group("Rotor", group_of(layer, "Magnets"), is_second(layer) ? 501 : 301,
                  {length(m + "thickness", thickness, "Magnet thickness", "h_m",
                          "Thickness of the magnets in the direction of their remanence.", 0.05, 500)}),
         in_group(
             "Rotor", group_of(layer, "Magnets"), is_second(layer) ? 560 : 360,
             {whole(m + "pieces", "1", "Pieces across", "",
                    "Pieces insulated from each other that each magnet is cut into across its width.", 1, 64),
              whole(m + "segments", "1", "Axial segments", "",
                    "Pieces insulated from each other that each magnet is cut into along the stack.", 1, 1000),
              material(m + "grade", "NdFeB 310/130", "Magnet grade", "Grade of the magnets.",
                       MaterialKind::Magnet),
              quantity(m + "temperature", "degC", "20 degC", "Magnet temperature", "ϑ_m",
                       "Working temperature of the magnets.", -200, 400)})});
}

std::vector<Parameter> buried_magnet_parameters(const std::string& layer, const char* thickness,
                                                const char* width) {
    const std::string m = layer + "magnet.";
    const int first = is_second(layer) ? 502 : 302;
    return joined(
        {magnet_parameters(layer, thickness),
         in_group("Rotor", group_of(layer, "Magnets"), first,
                  {length(m + "width", width, "Magnet width", "w_m",
                          "Width of one buried magnet, along its pocket.", 0.1, 1000)}),
         in_group(
             "Rotor", group_of(layer, "Magnets"), first + 10,
             {length(m + "clearance", "0 mm", "Clearance", "δ_m",
                     "Air or glue between a magnet and its pocket, on each of the faces named below.", 0, 2),
              when(is_second(layer) ? second_has_clearance : has_clearance,
                   choice(m + "clearance_faces", {"both", "back", "none"}, "Clearance on",
                          "Faces across the remanence that the clearance separates from the iron."))})});
}

std::vector<Parameter> pocket_parameters(const std::string& layer, const PocketStandards& s) {
    const std::string p = layer + "pocket.";
    std::vector<Parameter> list;
    if (s.angle)
        list.push_back(quantity(
            p + "angle", "deg", s.angle, "Pocket angle", "β_V",
            "Angle between the two pockets of a pole, open towards the gap; 180: in one line.", 40, 180));
    list.push_back(length(p + "depth", s.depth, "Pocket depth", "h_p",
                          "From the gap to the deepest point of the pockets, along the pole's axis.", 0.1,
                          1000));
    list.push_back(length(p + "bridge", "= max(0.5 mm, 0.02 * pole_pitch)", "Bridge", "b_b",
                          "Thickness of the iron between the pockets' ends and the gap.", 0.1, 100));
    if (s.post)
        list.push_back(length(p + "post", s.post, "Centre post", "b_p",
                              "Width of the iron between the two pockets of a pole.", 0, 500));
    list.push_back(length(
        p + "corner_radius", ("= 0.25 * " + layer + "magnet.thickness").c_str(), "Pocket corner radius", "r_p",
        "Radius of the pockets' corners; half the magnet's thickness rounds the ends entirely.", 0.05, 100));
    list.push_back(filling(p + "filling", "Filling", "What the pockets hold beside the magnets."));
    return in_group("Rotor", group_of(layer, "Pockets"), is_second(layer) ? 520 : 400, std::move(list));
}

std::vector<Parameter> face_parameters() {
    return in_group(
        "Rotor", "Rotor", 240,
        {length("rotor.face_eccentricity", "0 mm", "Face eccentricity", "e",
                "How far the centre of the pole's face lies off the machine's; the gap is least on the "
                "pole's axis. 0: concentric.",
                0, 2000)});
}

} // namespace mavlo
