#pragma once
// A design as the user wrote it: one text a path. And the values that follow from it.

#include "machine/drawn_dimension.h"
#include "machine/free_shape.h"
#include "machine/parameter.h"
#include "quantity/problem.h"
#include "winding/layout.h"

#include <map>
#include <set>
#include <string>
#include <string_view>

namespace mavlo {

/// Texts by path, as they stand in the project file ("50 mm", "= gap + 0.5 mm", "12", "radial").
/// A path that is not set has its standard value. Unknown paths are kept, and resolve() names them.
struct Design {
    std::map<std::string, std::string> texts;
    /// Parts that were drawn: "rotor", "stator". Used where the kind chosen is "drawn".
    std::map<std::string, DrawnPart> drawings{};
    /// Shapes drawn onto the poles and slots, in the order in which they cover each other.
    std::vector<FreeShape> shapes{};
    /// Lengths measured on a pitch, or given to a drawn part.
    std::vector<DrawnDimension> dimensions{};
    /// A winding made by hand; empty: the proposed one.
    std::vector<Coil> coils{};
    /// Circuits of its own that may feed it, as netlists (circuit/netlist.h) by their names.
    std::map<std::string, std::string> circuits{};

    std::string text(const std::string& path) const; ///< own text, else the chosen kinds' standard one
    bool operator==(const Design&) const = default;
};

/// The parameters that a design uses, as numbers in SI or as words. Asking for another is a fault of the
/// program and throws std::logic_error with the path.
class Values {
  public:
    double number(std::string_view path) const; ///< SI; 0 for "auto"
    int whole(std::string_view path) const;
    const std::string& word(std::string_view path) const; ///< choices and materials
    bool is_auto(std::string_view path) const;
    bool has(std::string_view path) const; ///< as a number
    bool has_word(std::string_view path) const;

    const DrawnPart* drawing(const std::string& side) const; ///< null: there is none

    const std::vector<ShapeOutline>& shapes() const { return m_shapes; }

    /// Where the design's dimensions lie, those of drawn parts with every given length made.
    const std::vector<DrawnDimension>& dimensions() const { return m_dimensions; }

    void add_shape(ShapeOutline shape) { m_shapes.push_back(std::move(shape)); }
    void set_drawing(const std::string& side, DrawnPart part) { m_drawings[side] = std::move(part); }
    const std::vector<Coil>& coils() const { return m_coils; }
    void set_coils(std::vector<Coil> coils) { m_coils = std::move(coils); }
    const std::map<std::string, std::string>& circuits() const { return m_circuits; }
    void set_circuits(std::map<std::string, std::string> circuits) { m_circuits = std::move(circuits); }
    void set_dimensions(std::vector<DrawnDimension> dimensions) { m_dimensions = std::move(dimensions); }
    void set_number(const std::string& path, double si) { m_numbers[path] = si; }
    void set_word(const std::string& path, std::string word) { m_words[path] = std::move(word); }
    void set_auto(const std::string& path);

  private:
    std::map<std::string, double, std::less<>> m_numbers;
    std::map<std::string, std::string, std::less<>> m_words;
    std::set<std::string, std::less<>> m_auto;
    std::map<std::string, DrawnPart> m_drawings;
    std::vector<ShapeOutline> m_shapes;
    std::vector<DrawnDimension> m_dimensions;
    std::vector<Coil> m_coils;
    std::map<std::string, std::string> m_circuits;
};

/// Reads all texts, evaluates formulas (cycles, unknown names and wrong kinds are reported with the path), and
/// checks limits and choices. Only what the chosen kinds use is read. Formulas may name derived_quantities()
/// too.
Result<Values> resolve(const Design& design);

/// True when the kinds chosen in the design make use of this path.
bool is_used(const Design& design, const std::string& path);

/// Sets a path to a text as typed by a user; a bare number gets the parameter's own unit when `bare_unit` is
/// set. The path "coils" takes a table of coils (winding/coil_table.h), or "auto". Fails for an unknown path
/// (naming similar ones) or a text that cannot be its value by itself.
Result<Design> with_text(Design design, const std::string& path, const std::string& text,
                         bool bare_unit = false);

/// The text for a value of this parameter in its own unit ("50 mm"), rounded to `digits` significant digits.
std::string text_for(const Parameter& parameter, double si, int digits = 6);

/// Where a design names a material: the path of a parameter, or of a drawn shape ("drawings.shapes.NAME").
struct MaterialPlace {
    std::string path, name;
};
std::vector<MaterialPlace> materials_named(const Design& design);
/// Gives every such place another name.
void rename_material(Design& design, const std::string& from, const std::string& to);

/// A stable text of everything the design's figures depend on, for hashing.
std::string canonical_text(const Design& design);

} // namespace mavlo
