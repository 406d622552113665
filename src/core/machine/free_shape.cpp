#include "machine/free_shape.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace mavlo {
namespace {

using json = nlohmann::ordered_json;
constexpr std::size_t most_corners = 500;

FreeShape::Corner corner_from(const json& j) {
    FreeShape::Corner corner;
    corner.x = j.at("x").get<std::string>();
    corner.y = j.at("y").get<std::string>();
    corner.bulge = j.value("bulge", 0.0);
    corner.fillet = j.value("fillet", corner.fillet);
    return corner;
}

FreeShape read_shape(const json& j) {
    FreeShape shape;
    shape.name = j.at("name").get<std::string>();
    shape.side = j.at("side").get<std::string>();
    const auto role = j.at("role").get<std::string>();
    shape.use = role == to_string(Use::Magnet) ? Use::Magnet
                : role == to_string(Use::Iron) ? Use::Iron
                                               : Use::Air;
    shape.mirrored = j.value("mirrored", true);
    shape.material = j.value("material", std::string());
    shape.direction = j.value("direction", shape.direction);
    if (j.contains("corners"))
        for (const json& corner : j.at("corners")) shape.corners.push_back(corner_from(corner));
    else {
        shape.x = j.at("x").get<std::string>();
        shape.y = j.at("y").get<std::string>();
        shape.radius = j.at("radius").get<std::string>();
    }
    return shape;
}

} // namespace

std::string shape_material_path(std::size_t number) {
    return fmt::format("shapes.{}.material", number);
}

json to_json(const FreeShape& shape) {
    json j{{"name", shape.name},
           {"side", shape.side},
           {"role", to_string(shape.use)},
           {"mirrored", shape.mirrored}};
    if (!shape.material.empty()) j["material"] = shape.material;
    if (shape.use == Use::Magnet) j["direction"] = shape.direction;
    if (shape.corners.empty()) {
        j["x"] = shape.x;
        j["y"] = shape.y;
        j["radius"] = shape.radius;
        return j;
    }
    for (const FreeShape::Corner& c : shape.corners) {
        json corner{{"x", c.x}, {"y", c.y}};
        if (c.bulge != 0) corner["bulge"] = c.bulge;
        if (c.fillet != FreeShape::Corner{}.fillet) corner["fillet"] = c.fillet;
        j["corners"].push_back(corner);
    }
    return j;
}

Result<FreeShape> free_shape_from(const json& j) {
    try {
        FreeShape shape = read_shape(j);
        const bool sound = !shape.name.empty() && (shape.side == "rotor" || shape.side == "stator") &&
                           shape.corners.size() <= most_corners &&
                           (!j.contains("corners") || shape.corners.size() >= 2);
        if (sound) return shape;
    } catch (const std::exception&) {
    }
    return Problem{
        "drawings.shapes",
        "A drawn shape needs a name, a side (rotor or stator), a role (air, iron, magnet), and corners or a "
        "circle's x, y and radius."};
}

} // namespace mavlo
