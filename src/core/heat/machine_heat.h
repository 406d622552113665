#pragma once
// Where a machine's losses go: its section by elements, and what the section does not show as lumped bodies
// round it.

#include "figure/machine_model.h"
#include "heat/cooling.h"
#include "heat/heat_part.h"
#include "heat/section_heat.h"

#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace mavlo {

/// Temperatures in K; the loss is what they were found with.
struct MachineHeat {
    std::map<HeatPart, double> mean;
    double winding_highest = 0, magnets_highest = 0;
    Eigen::VectorXd all;              ///< of the system's nodes
    double loss = 0;                  ///< W
    double to_ambient = 0;            ///< W that ambient and coolant take up
    std::vector<std::string> notes{}; ///< sentences: ranges that correlations leave
};

/// A term's flow, W, and what it does.
struct HeatWay {
    std::string name;
    double flow = 0;      ///< in the sense that it is named for
    double influence = 0; ///< K by which the winding's mean rises where the resistance does by a tenth
};

/// Conduction on the model's own elements (SectionHeat): steel along its sheets, the wound slot as one body
/// that conducts as its wires do in their resin (across_wires, a hexagonal array; rectangular wires as layers
/// in series and parallel), with liner and contacts round it; the gap by Taylor's number. Joined to it: end
/// windings along the copper, inner air, housing with its ribs or channels, end shields, shaft, bearings (J.
/// Pyrhonen, T. Jokinen, V. Hrabovcova, Design of Rotating Electrical Machines, 2nd ed., ch. 9; P.H. Mellor, D.
/// Roberts, D.R. Turner, IEE Proc. B 138(5), 1991). Films that depend on temperatures are found together with
/// them. Along the stack all is alike.
class MachineHeatModel {
  public:
    /// `speed` of the shaft, rad/s.
    static Result<std::unique_ptr<MachineHeatModel>> of(std::shared_ptr<const MachineModel> model,
                                                        CoolingData cooling, double speed);
    /// As if made for it; films stay until the next steady().
    void set_speed(double speed);
    /// Steady, with films at the temperatures they make.
    Result<MachineHeat> steady(const HeatLosses& losses);

    /// All nodes' temperatures with the films as they were found last; without `whole` the rise by these losses
    /// alone.
    Result<Eigen::VectorXd> answer(const HeatLosses& losses, bool whole);
    double mean(HeatPart part, const Eigen::VectorXd& temperature) const {
        return HeatSystem::mean(m_parts.at(part).shares, temperature);
    }
    /// With those films: how the means of `parts` rise (K/W) with what is lost
    /// in each, evenly.
    Result<Eigen::MatrixXd> rises(const std::vector<HeatPart>& parts);
    /// What they are at without any loss, K, with those films.
    Result<Eigen::VectorXd> at_rest(const std::vector<HeatPart>& parts);
    double capacity(HeatPart part) const; ///< J/K
    std::vector<HeatPart> parts() const;  ///< that the machine has
    bool has(HeatPart part) const { return m_parts.contains(part); }

    /// Flows between parts as the last steady() found them, the largest influence on the winding first.
    Result<std::vector<HeatWay>> ways(const MachineHeat& heat);
    /// At the six nodes of each of the field model's elements, in its order: degC, and the heat flux density
    /// (W/m2) in the frame of the element's body.
    std::vector<double> at_nodes(const Eigen::VectorXd& temperature) const;
    std::vector<Point> flux_at_nodes(const Eigen::VectorXd& temperature) const;
    std::vector<HeatSurface> surfaces(const MachineHeat& heat) const; ///< to ambient
    double coolant_outlet(const MachineHeat& heat) const;             ///< K
    double slot_share() const { return m_slot_share; }                ///< of a turn's length
    /// Over the coolant's channels, Pa; empty without.
    std::optional<double> pressure_drop() const { return m_pressure; }
    const SectionHeat& stator() const { return *m_sections[std::size_t(1 - m_model->rotor)]; }
    const SectionHeat& rotor() const { return *m_sections[std::size_t(m_model->rotor)]; }
    const std::shared_ptr<const MachineModel>& field_model() const { return m_model; }
    const CoolingData& cooling() const { return m_cooling; }
    HeatSystem& system() { return m_system; }

  private:
    MachineHeatModel(std::shared_ptr<const MachineModel> model, CoolingData cooling, double speed);
    Problems build();
    MachineHeat told(const Eigen::VectorXd& temperature) const;
    void groups();
    std::vector<int> groups_of(int body) const;
    const Substance* substance_of(int body, const std::vector<int>& groups, int group) const;
    HeatGroup steel_group(const char* name, const Substance* steel);
    void add_section(int body);
    void contacts();
    void gap();
    void ends();
    void outside();
    void outer_rotor();
    void shaft();
    void films(const Eigen::VectorXd& temperature);
    double outside_film(double wall);
    double jacket_film(double wall);
    double bare_film(double diameter, double length, double wall);
    double wind() const;
    int beyond(const char* surface);
    double film_of(const char* surface, double own) const;
    void turning(int term, std::function<double(double speed)> coefficient);
    int node(HeatPart part);
    void add_part(HeatPart part, NodeShares shares, double capacity);
    Eigen::VectorXd powers(const HeatLosses& losses) const;
    NodeShares where(LossPart part, const HeatLosses& losses) const;
    void note(bool in_range, const std::string& words);

    struct Lump {
        NodeShares shares;
        double capacity;
    };
    std::shared_ptr<const MachineModel> m_model;
    const Machine& m;
    CoolingData m_cooling;
    double m_speed;
    HeatSystem m_system;
    std::vector<std::unique_ptr<SectionHeat>> m_sections; ///< of the bodies
    std::map<HeatPart, Lump> m_parts;
    std::map<std::string, int> m_terms; ///< those whose films change
    std::vector<std::pair<int, std::function<double(double)>>> m_turning;
    int m_ambient = -1, m_inlet = -1;
    std::map<std::string, int> m_sinks;        ///< held nodes beyond surfaces whose films are given
    double m_slot_share = 1;                   ///< of the copper's loss
    double m_end_height = 0;                   ///< axial, m
    double m_outer_diameter = 0, m_length = 0; ///< of the housing, m
    Eigen::VectorXd m_last;                    ///< temperatures of the last steady(), to begin the next from
    std::optional<double> m_pressure;
    std::vector<std::string> m_notes;
};

} // namespace mavlo
