#pragma once
// Materials by name: project first, shipped library next, or inline ("linear(5000)", "magnet(1.2 T, 1.05)").

#include "material/bh_curve.h"
#include "material/iron_loss.h"

#include <map>
#include <nlohmann/json_fwd.hpp>
#include <string>
#include <string_view>
#include <vector>

namespace mavlo {

enum class MaterialKind { Steel, Magnet, Conductor, Insulator, Air };

std::string to_string(MaterialKind kind);

inline constexpr double reference_temperature = 293.15; ///< 20 degC, K

/// Polarisation over a demagnetising field at one temperature, as measured: from H = 0 down.
struct DemagnetisationCurve {
    double temperature = 293.15;   ///< K
    std::vector<BhPoint> points{}; ///< h <= 0 falling, A/m; b holds the polarisation J, T
    bool operator==(const DemagnetisationCurve&) const = default;
};

/// A magnet grade with a straight recoil line: B = mu0 mu_rec H + B_r(T).
/// B_r(T) = B_r20 (1 + alpha_Br (T - 20 degC)), likewise the coercivity (IEC 60404-8-1 gives both
/// coefficients).
struct MagnetData {
    double remanence = 0; ///< at 20 degC, T
    double recoil_mu_r = 1;
    double remanence_per_kelvin = 0;            ///< 1/K
    double coercivity = 0;                      ///< intrinsic H_cJ at 20 degC, A/m; 0 when unknown
    double coercivity_per_kelvin = 0;           ///< 1/K
    std::vector<DemagnetisationCurve> curves{}; ///< rising temperatures; may be empty
    /// Flux density along the remanence below which the demagnetisation curve leaves the recoil line at this
    /// temperature, T: that of the line at knee_field_at (IEC 60404-5 draws both); -1e3 when H_cJ is not known.
    double knee_at(double kelvin) const;
    /// Field of the knee, A/m, positive: from the measured curves where there are any (see knee_field), else
    /// 0.92 of H_cJ: good magnets keep their line down to 0.9 to 0.95 of it. 0 when H_cJ is not known.
    double knee_field_at(double kelvin) const;
    double remanence_at(double kelvin) const;
    double coercivity_at(double kelvin) const;
    bool operator==(const MagnetData&) const = default;
};

struct Material {
    std::string name;
    MaterialKind kind = MaterialKind::Air;
    std::string note;
    double density = 0;                ///< kg/m3
    double resistivity = 0;            ///< at 20 degC, Ohm.m; 0 when it does not conduct
    double resistivity_per_kelvin = 0; ///< 1/K
    double thickness = 0;              ///< of one sheet, m; steels only
    double specific_heat = 0;          ///< J/(kg K)
    double thermal_conductivity = 0;   ///< W/(m K); of steel along the sheet
    double thermal_conductivity_across =
        0;                          ///< W/(m K), of a stack of sheets across them; 0: by stack_conductivity()
    double youngs_modulus = 0;      ///< Pa
    double yield_strength = 0;      ///< Pa
    double highest_temperature = 0; ///< in continuous use, K; 0 when not known
    BhCurve curve = BhCurve::linear(1);
    /// Of steels measured at further temperatures than 20 degC, rising.
    std::vector<std::pair<double, BhCurve>> warm_curves{};
    MagnetData magnet;
    IronLossLaw loss;   ///< steels only; unknown where the material has no table
    bool solid = false; ///< steels: massive, not sheet, so that they carry eddy currents

    /// rho(T) = rho_20 (1 + alpha (T - 20 degC)), IEC 60028 for copper. Of steels without alpha the slope is
    /// pure iron's, 6.3e-10 Ohm.m/K: what is dissolved in a metal adds a resistivity that does not depend on
    /// temperature (A. Matthiessen, C. Vogt, Phil. Trans. R. Soc. 154, 1864).
    double resistivity_at(double kelvin) const;
    /// W/(m K) across a stack of these sheets with such a share of steel: as given, else layers in series with
    /// varnish taken at 0.1 W/(m K), between air's 0.03 and a resin's 0.2. Of massive steel that along it; 0:
    /// not known.
    double stack_conductivity(double stacking) const;
    /// The table's loss law with its steel at this temperature: classical eddy currents in inverse proportion
    /// to the resistivity, excess to its square root (Bertotti), hysteresis as measured. As it is where the
    /// resistivity is not known or the law has no parts.
    IronLossLaw loss_at(double kelvin) const;
    /// Between measured temperatures the flux density of each field goes linearly; beyond them the nearest
    /// curve holds.
    BhCurve curve_at(double kelvin) const;
    bool operator==(const Material&) const = default;
};

/// One material from its JSON (docs/file-format.md). Problems carry the key they concern.
Result<Material> read_material(const std::string& name, const nlohmann::json& json);

/// The JSON that reads back as the same material, without its name.
nlohmann::json to_json(const Material& material);

/// Whether a room's filling is none.
bool is_air(std::string_view filling);

/// The text of an inline material, e.g. "linear(inf)"; false in `is_inline` when it is a plain name.
bool is_inline_material(std::string_view text);
Result<Material> parse_inline_material(std::string_view text);

using MaterialLibrary = std::map<std::string, Material>;

/// The library that Mavlo ships; read once. MAVLO_DATA overrides the folder it is read from.
const MaterialLibrary& shipped_materials();

/// Looks a material up: inline, then `own`, then the shipped ones, and checks that it is of one of these kinds.
Result<Material> find_material(const std::string& text, const std::vector<MaterialKind>& wanted,
                               const MaterialLibrary& own);

/// Folder with the shipped data (materials, demo).
std::string data_folder();

} // namespace mavlo
