#include "question/figure_names.h"

#include "quantity/text.h"
#include "question/key_figure.h"
#include "question/straight.h"
#include "question/words.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>

namespace mavlo {
namespace {

constexpr const char *torque = "Torque", *voltage = "Flux and voltage", *current = "Current", *loss = "Losses",
                     *power = "Power", *winding = "Winding", *iron = "Inductance", *limit = "Limits",
                     *circuit = "Circuit", *heat = "Temperatures", *check = "Checks", *force = "Forces",
                     *more = "More";

const std::map<std::string, FigureName>& names() {
    static const std::map<std::string, FigureName> table{
        {"torque_mean", {"Mean torque", "T", torque}},
        {"torque_peak_to_peak", {"Torque ripple, peak to peak", "ΔT", torque}},
        {"torque_std", {"Torque ripple, rms", "T~", torque}},
        {"axial_pull_mean", {"Pull across one gap, mean", "F", force}},
        {"axial_pull_peak", {"Pull across one gap, largest", "", force}},
        {"axial_pull_peak_to_peak", {"Pull across one gap, wavering", "ΔF", force}},
        {"axial_pull_second_mean", {"Pull across the other gap, mean", "", force}},
        {"axial_pull_on_middle_mean", {"Pull on what stands in the middle, mean", "", force}},
        {"axial_stiffness", {"Change of the pull with the gap", "dF/dg", force}},
        {"axial_stiffness_of_middle", {"Change of the pull on what stands in the middle", "", force}},
        {"linkage_three_dimensional_ratio", {"Linkage in space over that of slices, smooth iron", "", check}},
        {"torque_mean_by_map", {"Mean torque by the map", "", check}},
        {"cogging_peak_to_peak", {"Cogging torque, peak to peak", "ΔT0", torque}},
        {"cogging_period", {"Cogging period, mechanical", "", torque}},
        {"cogging_per_turn", {"Cogging periods a turn", "", torque}},
        {"cogging_scattered_median", {"Cogging torque of the middle machine", "", torque}},
        {"cogging_scattered_high", {"Cogging torque, 19 of 20 machines at most", "ΔT0 95", torque}},
        {"cogging_by_strength", {"of it by the strength of magnets alone", "", torque}},
        {"cogging_by_direction", {"of it by their direction alone", "", torque}},
        {"cogging_by_place", {"of it by their place alone", "", torque}},
        {"cogging_by_eccentricity", {"of it by the rotor's place alone", "", torque}},
        {"cogging_by_opening", {"of it by the slots' mouths alone", "", torque}},
        {"cogging_by_tooth_place", {"of it by the slots' place alone", "", torque}},
        {"cogging_by_oval_bore", {"of it by the bore out of round alone", "", torque}},
        {"skew_proposed", {"Skew that removes it, mechanical", "", torque}},
        {"stall_torque", {"Stall torque", "", torque}},
        {"max_torque", {"Largest torque", "T max", torque}},
        {"torque_best", {"Torque at the best angle", "", torque}},
        {"highest_torque", {"Highest torque on the map", "", torque}},
        {"torque_at_max_speed", {"Torque at the largest speed", "", torque}},
        {"braking_torque_most", {"Largest braking torque", "", torque}},
        {"speed_at_most_braking", {"Speed at the largest braking torque", "", torque}},
        {"torque_largest", {"Largest torque of the first periods", "", torque}},
        {"torque_left", {"Torque left at the rated current", "", limit}},
        {"back_emf_left", {"Back-EMF left", "", limit}},
        {"id_furthest", {"Furthest along -d", "i d", current}},
        {"fault_angle", {"Angle of the d axis at the fault, electrical", "", more}},
        {"open_voltage_peak", {"Voltage of the open terminal, peak", "", voltage}},
        {"generation_speed", {"Speed at which the diodes begin to conduct", "n", limit}},
        {"link_current_most", {"Largest current into the link", "I dc", current}},
        {"link_power_most", {"Largest power into the link", "P dc", power}},
        {"speed_at_most_link_power", {"Speed at the largest power into the link", "", power}},
        {"line_emf_at_max_speed", {"Back-EMF between terminals at the largest speed, peak", "", voltage}},
        {"flux_linkage_peak", {"Flux linkage, phase, peak", "Ψ", voltage}},
        {"flux_linkage_d", {"Flux linkage along d", "Ψd", voltage}},
        {"flux_linkage_q", {"Flux linkage along q", "Ψq", voltage}},
        {"back_emf_phase_fundamental", {"Back-EMF, phase, fundamental peak", "Û", voltage}},
        {"back_emf_phase_rms", {"Back-EMF, phase, rms", "U", voltage}},
        {"back_emf_line_rms", {"Back-EMF, line, rms", "U L", voltage}},
        {"back_emf_thd", {"Distortion of the back-EMF", "THD", voltage}},
        {"d_axis_angle", {"d axis, mechanical", "", voltage}},
        {"voltage_phase_peak", {"Phase voltage, peak", "û", voltage}},
        {"voltage_line_rms", {"Line voltage, rms", "U L", voltage}},
        {"voltage_limit", {"Voltage limit, phase peak", "", limit}},
        {"voltage", {"Phase voltage, peak", "û", voltage}},
        {"power_factor", {"Power factor", "cos φ", power}},
        {"pull_out_torque", {"Pull-out torque", "T K", torque}},
        {"pull_out_torque_generating", {"Pull-out torque as a generator", "", torque}},
        {"pull_out_slip", {"Slip at pull-out", "s K", limit}},
        {"starting_torque", {"Starting torque", "T A", torque}},
        {"starting_current", {"Starting current, rms", "I A", current}},
        {"run_up_time", {"Time to run up", "t A", limit}},
        {"largest_current", {"Largest current, rms", "", current}},
        {"cage_energy", {"Heat into the cage", "W 2", loss}},
        {"stator_energy", {"Heat into the stator's winding", "W 1", loss}},
        {"final_speed", {"Speed at the end", "n", limit}},
        {"final_current", {"Current at the end, rms", "I", current}},
        {"no_load_power", {"Input without load", "P 0", power}},
        {"locked_voltage", {"Line voltage with the rotor locked, rms", "U k", voltage}},
        {"locked_current", {"Current with the rotor locked, rms", "I k", current}},
        {"locked_power", {"Input with the rotor locked", "P k", power}},
        {"stator_resistance", {"Stator resistance", "R 1", circuit}},
        {"stator_leakage_reactance", {"Stator leakage reactance", "X 1", circuit}},
        {"iron_loss_resistance", {"Iron loss as a resistance", "R Fe", circuit}},
        {"magnetising_reactance", {"Magnetising reactance", "X m", circuit}},
        {"rotor_resistance", {"Rotor resistance, referred", "R 2", circuit}},
        {"rotor_leakage_reactance", {"Rotor leakage reactance, referred", "X 2", circuit}},
        {"stator_resistance_bench", {"Stator resistance, by the bench", "", circuit}},
        {"stator_leakage_reactance_bench", {"Stator leakage reactance, by the bench", "", circuit}},
        {"iron_loss_resistance_bench", {"Iron loss as a resistance, by the bench", "", circuit}},
        {"magnetising_reactance_bench", {"Magnetising reactance, by the bench", "", circuit}},
        {"rotor_resistance_bench", {"Rotor resistance, by the bench", "", circuit}},
        {"rotor_leakage_reactance_bench", {"Rotor leakage reactance, by the bench", "", circuit}},
        {"no_load_current", {"No-load current, rms", "I 0", current}},
        {"synchronous_speed", {"Synchronous speed", "n s", limit}},
        {"slip", {"Slip", "s", limit}},
        {"speed", {"Speed", "n", limit}},
        {"torque", {"Torque", "T", torque}},
        {"output_power", {"Output", "P 2", power}},
        {"copper_loss_stator", {"Copper loss, stator", "", loss}},
        {"copper_loss_rotor", {"Loss in bars and rings", "", loss}},
        {"iron_loss", {"Iron loss", "P Fe", loss}},
        {"friction_loss", {"Friction", "", loss}},
        {"starting_torque_ratio", {"Starting torque over rated", "", torque}},
        {"starting_current_ratio", {"Starting current over rated", "", current}},
        {"pull_out_torque_ratio", {"Pull-out torque over rated", "", torque}},
        {"efficiency_class", {"Efficiency class", "", power}},
        {"current", {"Current, phase, peak", "î", current}},
        {"current_rms", {"Current, rms", "I", current}},
        {"line_current_rms", {"Line current, rms", "I_L", current}},
        {"current_peak", {"Current, peak", "î", current}},
        {"current_mean", {"Current, mean", "", current}},
        {"current_fundamental", {"Current, fundamental peak", "î1", current}},
        {"dc_current_mean", {"Link current, mean", "I dc", current}},
        {"circulating_current", {"Current round the parallel paths, rms, at most", "", current}},
        {"delta_current", {"Current round the delta, rms", "", current}},
        {"delta_loss", {"of currents round the delta", "", loss}},
        {"circulating_loss", {"of currents round the parallel paths, at most", "", loss}},
        {"id", {"Current along d", "i d", current}},
        {"iq", {"Current along q", "i q", current}},
        {"advance", {"Advance, electrical", "β", current}},
        {"best_advance", {"Best advance, electrical", "β", current}},
        {"characteristic_current", {"Characteristic current", "Ψ/L d", limit}},
        {"short_circuit_current", {"Short-circuit current, peak", "", limit}},
        {"copper_loss", {"Copper loss", "P Cu", loss}},
        {"winding_stray_loss", {"Winding, by the magnets' field in the slots", "", loss}},
        {"copper_loss_dc", {"of it by direct current", "", loss}},
        {"iron_loss_stator", {"Iron loss, stator", "P Fe", loss}},
        {"iron_loss_rotor", {"Iron loss, rotor", "", loss}},
        {"iron_loss_extrapolated", {"Iron loss beyond the table", "", check}},
        {"iron_loss_biased", {"Iron loss of loops on a bias", "", check}},
        {"magnet_loss", {"Magnet loss", "P M", loss}},
        {"shaft_loss", {"Shaft loss", "", loss}},
        {"shell_loss", {"Rotor shell loss", "", loss}},
        {"bar_loss", {"Cage bars loss", "", loss}},
        {"ring_loss", {"End rings loss", "", loss}},
        {"bar_current_rms", {"Bar current, rms", "", current}},
        {"solid_loss_stator", {"Eddy loss in massive steel, stator", "", loss}},
        {"solid_loss_rotor", {"Eddy loss in massive steel, rotor", "", loss}},
        {"stray_flux_density", {"Flux density outside the stack, at most", "B a", check}},
        {"switch_loss", {"Switch and diode loss", "", loss}},
        {"bearing_loss", {"Bearing friction", "", loss}},
        {"windage_loss", {"Windage", "", loss}},
        {"total_loss", {"Total loss", "P V", loss}},
        {"hysteresis_loss_stator", {"Hysteresis, stator", "", "Iron loss in parts"}},
        {"classical_loss_stator", {"Eddy currents, stator", "", "Iron loss in parts"}},
        {"excess_loss_stator", {"Excess, stator", "", "Iron loss in parts"}},
        {"hysteresis_loss_rotor", {"Hysteresis, rotor", "", "Iron loss in parts"}},
        {"classical_loss_rotor", {"Eddy currents, rotor", "", "Iron loss in parts"}},
        {"excess_loss_rotor", {"Excess, rotor", "", "Iron loss in parts"}},
        {"magnet_skin_depth", {"Skin depth in the magnets", "δ", "Iron loss in parts"}},
        {"mechanical_power", {"Power of the gap", "P δ", power}},
        {"shaft_power", {"Shaft power", "P 2", power}},
        {"electrical_power", {"Electrical power", "P 1", power}},
        {"input_power", {"Power from the supply", "P 1", power}},
        {"efficiency", {"Efficiency", "η", power}},
        {"best_efficiency", {"Best efficiency", "η", power}},
        {"speed_at_best_efficiency", {"at the speed", "", power}},
        {"torque_at_best_efficiency", {"and torque", "", power}},
        {"power_at_best_efficiency", {"and power", "", power}},
        {"max_power", {"Largest power", "P max", power}},
        {"speed_at_max_power", {"Speed at the largest power", "", power}},
        {"base_speed", {"Base speed", "n", limit}},
        {"max_speed", {"Largest speed", "n max", limit}},
        {"no_load_speed", {"No-load speed", "n 0", limit}},
        {"switching_frequency", {"Switching frequency", "f", power}},
        {"power_unaccounted", {"Power not accounted for", "", check}},
        {"periods_to_steady", {"Periods until steady", "", check}},
        {"winding_factor", {"Winding factor", "ξ", winding}},
        {"phase_resistance", {"Phase resistance", "R", winding}},
        {"line_resistance", {"Resistance between terminals", "", winding}},
        {"slot_fill", {"Slot fill, copper over slot", "", winding}},
        {"insulated_fill", {"Fill, wire over free area", "", winding}},
        {"copper_mass", {"Copper mass", "m", winding}},
        {"turns_in_series", {"Turns in series", "N", winding}},
        {"turn_length", {"Mean turn", "", winding}},
        {"end_winding_inductance", {"End-winding inductance", "", winding}},
        {"inductance_d_apparent", {"Apparent, along d", "L d", iron}},
        {"inductance_q_apparent", {"Apparent, along q", "L q", iron}},
        {"inductance_d_incremental", {"Incremental, along d", "", iron}},
        {"inductance_q_incremental", {"Incremental, along q", "", iron}},
        {"inductance_dq_incremental", {"Incremental, cross", "", iron}},
        {"saliency", {"Saliency", "L q/L d", iron}},
        {"inductance_aligned", {"Aligned inductance", "", iron}},
        {"inductance_unaligned", {"Unaligned inductance", "", iron}},
        {"inductance_ratio", {"Aligned over unaligned", "", iron}},
        {"share_lost", {"Magnet lost", "", limit}},
        {"margin", {"Margin to the knee", "", limit}},
        {"demagnetisation_margin", {"Margin to the knee", "", limit}},
        {"torque_gap_field", {"Torque from the gap's field", "", check}},
        {"torque_virtual_work", {"Torque from the coenergy", "", check}},
        {"torque_difference", {"Their difference", "", check}},
        {"share_within_limits", {"Machines within limits", "", limit}},
        {"tooth_force_peak", {"Pull on a tooth, largest", "", force}},
        {"tooth_force_peak_to_peak", {"Pull on a tooth, peak to peak", "", force}},
        {"rotor_pull_peak", {"Pull on the rotor, largest", "", force}},
        {"rotor_pull_peak_centred", {"the same with the rotor in the middle", "", force}},
        {"rotor_pull_high", {"Pull on the rotor, 19 of 20 machines at most", "F 95", force}},
        {"pull_mean", {"Pull to the narrow side, mean", "F", force}},
        {"pull_across_mean", {"Pull across to it, mean", "", force}},
        {"pull_stiffness", {"Pull for each length of displacement", "F/e", force}},
        {"torque_mean_centred", {"Mean torque with the rotor in the middle", "", torque}},
        {"torque_peak_to_peak_centred", {"Torque ripple with the rotor in the middle", "", torque}},
        {"eccentricity", {"Displacement of the rotor", "e", force}},
        {"gap_least", {"Gap at its narrowest", "", force}},
        {"stress_largest", {"Strongest radial wave", "", force}},
        {"space_order_largest", {"Its periods round the gap", "", force}},
        {"electrical_order_largest", {"Its electrical order", "", force}},
        {"frequency_largest", {"Its frequency", "", force}},
        {"active_mass", {"Active mass", "m", more}},
        {"energy_a_stroke", {"Energy a stroke", "W", torque}},
        {"energy_from_link", {"Energy from the link, a stroke", "", power}},
        {"energy_returned", {"Energy returned to it, a stroke", "", power}},
        {"energy_ratio", {"Energy converted over what the link gives", "", power}},
        {"energy_between_rated", {"Energy between aligned and unaligned at the rated current", "W", torque}},
        {"torque_at_most", {"Mean torque of that energy, every phase", "", torque}},
        {"static_torque_peak", {"Torque of one phase at standstill, largest", "", torque}},
        {"current_at_turn_off", {"Current at turn-off", "", current}},
        {"extinction_angle", {"Angle where the current ends, mechanical", "", current}},
        {"aligned_angle", {"Aligned position of the first phase, mechanical", "", more}},
        {"initial_angle", {"Rotor where its d axis meets the first phase, mechanical", "", more}},
        {"phase_axis", {"Axis of the first phase, mechanical", "", more}},
        {"magnet_axis", {"Axis of the magnets, mechanical", "", more}},
        {"mutual_inductance_largest", {"Mutual inductance of two phases, largest", "M", iron}},
        {"flux_linkage_d_idle", {"Flux linkage along d without current", "Ψd0", voltage}},
        {"flux_linkage_without_id", {"Flux linkage along d without current along d", "", voltage}},
        {"harmonic_leakage", {"Harmonic leakage", "σ", winding}},
        {"unbalance", {"Unbalance of the phases", "", winding}},
        {"coils_per_phase", {"Coils a phase", "", winding}},
        {"conductors_wanted", {"Conductors wanted in the slot", "", winding}},
        {"conductors_fit", {"Conductors that fit", "", winding}},
        {"strand_diameter", {"Diameter of a strand, bare", "d", winding}},
        {"ac_factor", {"Resistance at the rated frequency over direct current's", "k ac", winding}},
        {"sharing_factor", {"of it by currents between strands in hand", "", winding}},
        {"knee", {"Flux density at the grade's knee", "B k", limit}},
        {"flux_density_least", {"Least flux density in the magnets, along their direction", "B min", limit}},
        {"current_for_one_percent", {"Current at which one per cent of the magnets is lost", "", limit}},
        {"current_across", {"Current along q at the worst instant", "i q", current}},
        {"instant", {"Time of the worst instant", "t", limit}},
        {"weakening_residual", {"What the weakened magnets are off their line by", "", check}},
        {"field_energy", {"Energy of the field", "W", check}},
        {"field_coenergy", {"Coenergy of the field", "W'", check}},
        {"duty_efficiency", {"Efficiency over the duty", "η", power}},
        {"dimensions", {"Dimensions looked at", "", more}},
        {"dimensions_meshed_anew", {"of them meshed anew", "", check}},
        {"machines", {"Machines drawn by lot", "", more}},
        {"machines_not_buildable", {"of them not to be built", "", more}},
        {"temperature_winding_mean", {"Winding, mean", "ϑ w", heat}},
        {"temperature_winding_highest", {"Winding, hottest place", "ϑ max", heat}},
        {"temperature_winding_slots", {"Winding in the slots", "", heat}},
        {"temperature_winding_slots_most", {"Winding in the slots, at most", "ϑ max", heat}},
        {"temperature_end_windings", {"End windings", "", heat}},
        {"temperature_end_windings_most", {"End windings, at most", "", heat}},
        {"temperature_magnets", {"Magnets", "ϑ M", heat}},
        {"temperature_magnets_most", {"Magnets, at most", "", heat}},
        {"temperature_magnets_highest", {"Magnets, hottest place", "", heat}},
        {"temperature_cage", {"Cage or shell", "", heat}},
        {"temperature_cage_most", {"Cage or shell, at most", "", heat}},
        {"temperature_rotor", {"Rotor", "", heat}},
        {"temperature_rotor_most", {"Rotor, at most", "", heat}},
        {"temperature_stator_teeth", {"Stator teeth", "", heat}},
        {"temperature_stator_teeth_most", {"Stator teeth, at most", "", heat}},
        {"temperature_stator_yoke", {"Stator yoke", "", heat}},
        {"temperature_stator_yoke_most", {"Stator yoke, at most", "", heat}},
        {"temperature_housing", {"Housing", "ϑ h", heat}},
        {"temperature_housing_most", {"Housing, at most", "", heat}},
        {"temperature_end_shields", {"End shields", "", heat}},
        {"temperature_bearings", {"Bearings", "", heat}},
        {"temperature_bearings_most", {"Bearings, at most", "", heat}},
        {"temperature_shaft", {"Shaft", "", heat}},
        {"temperature_inner_air", {"Air inside", "", heat}},
        {"temperature_coolant_outlet", {"Coolant as it leaves", "", heat}},
        {"margin_winding", {"Winding below its thermal class by", "", limit}},
        {"margin_magnets", {"Magnets below their highest temperature by", "", limit}},
        {"time_to_limit", {"Time to the limit", "t", limit}},
        {"time_constant", {"Slowest thermal time constant", "τ", heat}},
        {"heat_balance", {"Loss that is not found at ambient", "", check}},
        {"pressure_drop", {"Pressure over the channels", "Δp", more}},
        {"torque_at_base_speed", {"Torque for good at the base speed", "T", torque}},
        {"power_at_base_speed", {"Power for good at the base speed", "", power}},
        {"current_at_base_speed", {"Current for good at the base speed, peak", "î", current}},
        {"continuous_power", {"Most power for good", "", power}},
        {"misfit", {"Off the measured temperatures, rms", "", check}},
        {"misfit_before", {"Off them before, rms", "", check}},
        {"active_volume", {"Active volume", "V", more}},
        {"mass_copper", {"Copper in the active parts", "", more}},
        {"mass_magnets", {"Magnets", "", more}},
        {"mass_steel", {"Steel", "", more}},
    };
    return table;
}

/// Which figures answer a question, of those that are asked most.
const std::map<std::string, std::vector<std::string>>& headlines() {
    static const std::map<std::string, std::vector<std::string>> table{
        {"cogging", {"cogging_peak_to_peak", "cogging_per_turn"}},
        {"no-load", {"back_emf_line_rms", "flux_linkage_peak", "back_emf_thd"}},
        {"winding", {"winding_factor", "phase_resistance", "slot_fill"}},
        {"load", {"torque_mean", "torque_peak_to_peak", "efficiency"}},
        {"best-angle", {"torque_best", "best_advance"}},
        {"current-for-torque", {"current", "advance", "torque_mean"}},
        {"inductances", {"inductance_d_apparent", "inductance_q_apparent", "saliency"}},
        {"demagnetisation", {"share_lost", "margin"}},
        {"speed-range", {"max_power", "base_speed", "max_speed"}},
        {"efficiency-map", {"best_efficiency", "speed_at_best_efficiency", "torque_at_best_efficiency"}},
        {"working-point", {"efficiency", "current", "voltage"}},
        {"short-circuit", {"short_circuit_current", "braking_torque_most"}},
        {"terminal-fault", {"current_peak", "torque_largest", "torque_mean"}},
        {"diode-generation", {"generation_speed", "link_current_most", "braking_torque_most"}},
        {"in-time", {"torque_mean", "current_rms", "efficiency"}},
        {"torque-speed", {"no_load_speed", "stall_torque", "max_power"}},
        {"slip-curves", {"pull_out_torque", "starting_torque", "starting_current"}},
        {"equivalent-circuit", {"magnetising_reactance", "rotor_resistance", "rotor_leakage_reactance"}},
        {"run-up", {"run_up_time", "largest_current", "cage_energy"}},
        {"rating-plate", {"current", "power_factor", "efficiency"}},
        {"heat", {"temperature_winding_highest", "temperature_magnets", "margin_winding"}},
        {"heat-up", {"temperature_winding_slots_most", "time_to_limit", "time_constant"}},
        {"heat-fit", {"misfit", "misfit_before"}},
        {"continuous-torque", {"torque_at_base_speed", "continuous_power", "base_speed"}},
        {"strokes", {"torque_mean", "torque_peak_to_peak", "efficiency"}},
        {"gap-forces", {"stress_largest", "frequency_largest", "tooth_force_peak_to_peak"}},
        {"axial-pull", {"axial_pull_mean", "axial_pull_peak", "axial_stiffness"}},
        {"linkage-curves", {"inductance_aligned", "inductance_unaligned", "inductance_ratio"}},
        {"flux-map", {"highest_torque", "id_at_highest_torque", "iq_at_highest_torque"}},
        {"tolerances", {"share_within_limits"}},
        {"eccentricity", {"pull_mean", "pull_stiffness", "torque_peak_to_peak"}},
        {"stator-scatter", {"cogging_scattered_high", "cogging_peak_to_peak", "share_within_limits"}},
        {"magnet-scatter", {"cogging_scattered_high", "cogging_peak_to_peak", "share_within_limits"}},
    };
    return table;
}

constexpr const char* order[] = {heat, torque,  current, voltage, power, loss, "Iron loss in parts",
                                 iron, winding, limit,   force,   check};

std::size_t place_of(const std::string& group) {
    const std::string own = group == straight_words(torque, 1) ? torque : group;
    return std::size_t(std::find(std::begin(order), std::end(order), own) - std::begin(order));
}

const Figure* find(const Answer& answer, const std::string& name) {
    for (const Figure& figure : answer.figures)
        if (figure.name == name) return &figure;
    return nullptr;
}

/// Of a straight machine's figure, by what it is called where something turns.
std::optional<FigureName> straight_figure_name(const std::string& name) {
    const std::string turning = turning_name(name);
    auto known = turning != name ? known_figure_name(turning) : std::nullopt;
    if (!known) return std::nullopt;
    known->label = straight_words(known->label, 1);
    replace_all(known->symbol, "T", "F");
    known->group = straight_words(known->group, 1);
    return known;
}

} // namespace

std::optional<FigureName> known_figure_name(const std::string& name) {
    if (const auto known = names().find(name); known != names().end()) return known->second;
    for (const KeyFigure& figure : registry<KeyFigure>().all())
        if (figure.name == name) return FigureName{figure.label, "", more};
    if (auto known = straight_figure_name(name)) return known;
    // What is told of a figure over machines that are drawn by lot.
    for (const auto& [end, words] : {std::pair{"_mean", ", mean of the machines"},
                                     {"_deviation", ", standard deviation"},
                                     {"_low", ", 5 of 100 lie below"},
                                     {"_high", ", 95 of 100 lie below"}})
        if (name.ends_with(end))
            if (auto base = known_figure_name(name.substr(0, name.size() - std::string_view(end).size())))
                return FigureName{base->label + words, "", base->group};
    return std::nullopt;
}

std::vector<FigureName> all_figure_names() {
    std::vector<FigureName> list;
    for (const auto& [name, words] : names()) list.push_back(words);
    return list;
}

FigureName figure_name(const std::string& name) {
    if (auto known = known_figure_name(name)) return *known;
    std::string label = figure_words(name);
    if (!label.empty()) label[0] = char(std::toupper(static_cast<unsigned char>(label[0])));
    return {label, "", more};
}

std::vector<std::string> answering_figures(const std::string& question) {
    const auto known = headlines().find(question);
    return known == headlines().end() ? std::vector<std::string>{} : known->second;
}

std::vector<std::string> headline_figures(const Answer& answer) {
    std::vector<std::string> list;
    if (const auto known = headlines().find(answer.question); known != headlines().end())
        for (const std::string& turning : known->second)
            for (const std::string& name : {turning, straight_name(turning)})
                if (const Figure* figure = find(answer, name);
                    figure && figure->value && (list.empty() || list.back() != name))
                    list.push_back(name);
    for (std::size_t k = 0; list.empty() && k < std::min<std::size_t>(2, answer.figures.size()); ++k)
        list.push_back(answer.figures[k].name);
    return list;
}

std::vector<FigureGroup> figure_groups(const Answer& answer) {
    const auto large = headline_figures(answer);
    std::vector<FigureGroup> groups;
    for (const Figure& figure : answer.figures) {
        if (std::find(large.begin(), large.end(), figure.name) != large.end()) continue;
        const std::string title = figure_name(figure.name).group;
        auto group =
            std::find_if(groups.begin(), groups.end(), [&](const FigureGroup& g) { return g.title == title; });
        if (group == groups.end()) group = groups.insert(groups.end(), FigureGroup{title, {}});
        group->figures.push_back(figure);
    }
    std::stable_sort(groups.begin(), groups.end(), [](const FigureGroup& a, const FigureGroup& b) {
        return place_of(a.title) < place_of(b.title);
    });
    return groups;
}

std::optional<LossBar> loss_bar(const Answer& answer) {
    const auto value = [&](const char* name) { return answer.figure(name).value_or(0); };
    LossBar bar;
    bar.input = std::max(value("electrical_power"), value("input_power"));
    for (const char* name :
         {"copper_loss", "winding_stray_loss", "iron_loss_stator", "iron_loss_rotor", "magnet_loss",
          "shaft_loss", "shell_loss", "bar_loss", "ring_loss", "solid_loss_stator", "solid_loss_rotor",
          "switch_loss", "bearing_loss", "windage_loss"})
        if (const double watts = value(name); watts > 0) bar.losses.push_back({figure_name(name).label, watts});
    const double shaft = value("shaft_power"), gap = value("mechanical_power");
    bar.output = shaft > 0 ? shaft : gap;
    if (bar.losses.empty() || bar.output <= 0) return std::nullopt;
    double lost = 0;
    for (const auto& l : bar.losses) lost += l.watts;
    // Losses that the fields are too simple to take from the shaft come on top of the terminals' power.
    bar.input = std::max(bar.input, bar.output + lost);
    std::stable_sort(bar.losses.begin(), bar.losses.end(),
                     [](const LossBar::Loss& a, const LossBar::Loss& b) { return a.watts > b.watts; });
    return bar;
}

} // namespace mavlo
