#include "question/hash.h"

#include <fmt/format.h>
#include <openssl/evp.h>

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
    std::string text = fmt::format("{} {:g} {:g} {:g} {:g} {:g} {:g} {:g} {:g} {:g} {:g}\n", m.name, m.density,
                                   m.resistivity, m.resistivity_per_kelvin, m.thickness, m.magnet.remanence,
                                   m.magnet.recoil_mu_r, m.magnet.remanence_per_kelvin, m.magnet.coercivity,
                                   m.magnet.coercivity_per_kelvin, m.curve.linear_mu_r());
    for (const BhPoint& p : m.curve.points()) text += fmt::format("{:.9g} {:.9g}\n", p.h, p.b);
    for (const LossPoint& p : m.loss.points)
        text += fmt::format("{:.9g} {:.9g} {:.9g}\n", p.frequency, p.flux_density, p.loss);
    return text;
}

} // namespace mavlo
