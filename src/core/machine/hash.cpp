#include "machine/hash.h"

#include "engine_id.h"
#include "machine/parameter.h"

#include <algorithm>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <openssl/evp.h>
#include <sstream>

namespace mavlo {

std::string sha256(const std::string& text) {
    unsigned char digest[EVP_MAX_MD_SIZE];
    unsigned size = 0;
    EVP_Digest(text.data(), text.size(), digest, &size, EVP_sha256(), nullptr);
    std::string hex;
    for (unsigned i = 0; i < size; ++i) hex += fmt::format("{:02x}", digest[i]);
    return hex;
}

std::string material_text(const Material& m) {
    nlohmann::json json = to_json(m);
    json.erase("note");
    return m.name + json.dump(-1, ' ', false, nlohmann::json::error_handler_t::replace) + "\n";
}

namespace {

std::string hash_with_materials(std::string text, const Design& design, const MaterialLibrary& own) {
    for (const MaterialPlace& place : materials_named(design)) {
        const MaterialLibrary& library = own.contains(place.name) ? own : shipped_materials();
        if (const auto found = library.find(place.name); found != library.end())
            text += material_text(found->second);
    }
    return sha256(text);
}

} // namespace

std::string engine_id() {
    return MAVLO_ENGINE_ID;
}

std::string design_hash(const Design& design, const MaterialLibrary& own) {
    return hash_with_materials("engine " + engine_id() + "\n" + canonical_text(design), design, own);
}

std::string field_hash(const Design& design, const MaterialLibrary& own) {
    constexpr const char* others[] = {"rating.",
                                      "circuit ",
                                      "housing.",
                                      "cooling.",
                                      "thermal.",
                                      "shaft.",
                                      "bearing.",
                                      "winding.temperature",
                                      "winding.conductor.",
                                      "winding.fill_factor",
                                      "winding.overhang",
                                      "winding.end_length",
                                      "winding.separator",
                                      "winding.connection",
                                      "machine.friction_torque"};
    std::istringstream all(canonical_text(design));
    std::string text = "fields of engine " + engine_id() + "\n";
    for (std::string line; std::getline(all, line);)
        if (std::none_of(std::begin(others), std::end(others),
                         [&](const char* start) { return line.starts_with(start); }))
            text += line + "\n";
    return hash_with_materials(std::move(text), design, own);
}

} // namespace mavlo
