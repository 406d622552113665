#pragma once
// Heat in a body's section: its mesh as a part of a HeatSystem.

#include "heat/heat_system.h"
#include "mesh/body_mesh.h"

#include <functional>
#include <map>
#include <string>
#include <vector>

namespace mavlo {

/// What conducts alike. Groups of one domain touch perfectly; between domains stands a contact.
struct HeatGroup {
    std::string name;
    int domain = 0;
    double radial = 0, tangential = 0; ///< W/(m K), about the machine's axis; above 0
    double capacity = 0;               ///< J/(m3 K)
    double axial = 0;                  ///< W/(m K) along the stack; 0: as radial
};

/// Second-order elements for  div(k grad T) + q = C dT/dt  in the plane (S.V. Patankar, Numerical Heat Transfer
/// and Fluid Flow, 1980; elements as in FieldModel). Where domains meet each has nodes of its own, joined by
///   q = (T_a - T_b)/R
/// along the contact. The sector's far end is its beginning, whatever the field's sign. All scaled to the whole
/// machine.
class SectionHeat {
  public:
    /// `group` of each element. `scale`: depth times sectors, m. The mesh must outlive it.
    SectionHeat(HeatSystem& system, const BodyMesh& mesh, std::vector<HeatGroup> groups, std::vector<int> group,
                double scale);

    /// The terms' numbers of each group; a coefficient is W/(m K), radially.
    const std::vector<int>& conduction() const { return m_conduction; }
    /// Contact between domains, W/(m2 K); -1 where they meet nowhere.
    int contact(const std::string& name, int domain, int other, double coefficient);
    /// From the mesh's edges on this circle to a node, W/(m2 K).
    int film(const std::string& name, double radius, int node, double coefficient);
    /// From both end faces of a group to a node, W/(m2 K), as if spread over the length `depth` (m).
    int end_faces(const std::string& name, int group, int node, double depth, double coefficient);
    double circle_area(double radius) const; ///< of the edges there, m2, whole machine
    double contact_area(int domain, int other) const;

    /// A loss spread over groups by densities (W/m3) of the elements; empty where there is none.
    NodeShares by_density(const std::vector<double>& density, const std::vector<int>& groups) const;
    NodeShares on_circle(double radius) const; ///< evenly along the edges there
    /// Mean over a group's area, or a loss spread evenly over it; of elements only where `wanted`.
    NodeShares mean_of(int group, const std::function<bool(std::size_t element)>& wanted = {}) const;
    double highest(int group, const Eigen::VectorXd& temperature) const;
    std::vector<int> nodes_of(int group) const; ///< of the system
    double volume(int group) const;             ///< m3, whole machine
    /// Temperatures at an element's nodes.
    std::array<double, 6> at(std::size_t element, const Eigen::VectorXd& temperature) const;
    /// Heat flux density there by Fourier's law, W/m2.
    std::array<Point, 6> flux(std::size_t element, const Eigen::VectorXd& temperature) const;
    const BodyMesh& mesh() const { return m_mesh; }
    int node_of(std::size_t element, std::size_t k) const { return m_nodes[element][k]; } ///< of the system
    int group_of(std::size_t element) const { return m_group[element]; }
    const std::vector<HeatGroup>& groups() const { return m_groups; }

  private:
    struct Edge {
        std::array<int, 3> place; ///< in the mesh: end, middle, end
        std::array<int, 3> node;  ///< of the system, on this side
        int domain;
    };
    void number();
    void find_edges();
    void add_conduction(int group, double scale);
    NodeShares normalised(std::map<int, double> weight) const;
    int first_of(int node) const;
    void add_edge_mass(const Edge& edge, const std::array<int, 3>& other,
                       std::vector<HeatSystem::Entry>& shape) const;
    bool on_circle(const Edge& edge, double radius) const;
    std::array<std::array<double, 3>, 3> edge_mass(const Edge& edge) const;

    HeatSystem& m_system;
    const BodyMesh& m_mesh;
    std::vector<HeatGroup> m_groups;
    std::vector<int> m_group; ///< of each element
    double m_scale;
    std::vector<std::array<int, 6>> m_nodes; ///< of the system, of each element
    std::vector<int> m_conduction;
    std::vector<Edge> m_boundary;                    ///< edges with nothing beyond
    std::vector<std::pair<Edge, Edge>> m_interfaces; ///< between domains
};

} // namespace mavlo
