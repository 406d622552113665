#include "shape/dxf/reader.h"

#include "quantity/constants.h"
#include "shape/budget.h"
#include "shape/dxf/curves.h"
#include "shape/dxf/groups.h"

#include <algorithm>
#include <cmath>
#include <dxflib/dl_creationadapter.h>
#include <dxflib/dl_dxf.h>
#include <fmt/format.h>
#include <map>
#include <set>
#include <sstream>

namespace mavlo {
namespace {

constexpr std::size_t most_pieces = 400'000, most_in_blocks = 2'000'000, deepest_block = 32;
constexpr double farthest = 1e9; ///< units of the drawing: nothing that is drawn lies beyond

/// x' = a x + c y + e, y' = b x + d y + f.
struct Affine {
    double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;
    Point operator()(Point p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }
    Affine after(const Affine& first) const {
        const Point origin = (*this)({first.e, first.f});
        return {a * first.a + c * first.b,
                b * first.a + d * first.b,
                a * first.c + c * first.d,
                b * first.c + d * first.d,
                origin.x,
                origin.y};
    }
    bool mirrors() const { return a * d - b * c < 0; }
    bool keeps_circles() const {
        const double size = std::hypot(a, b);
        return std::abs(std::hypot(c, d) - size) < 1e-9 * size && std::abs(a * c + b * d) < 1e-9 * size * size;
    }
};

void add_mapped(std::vector<Piece>& to, const Piece& piece, const Affine& map) {
    if (piece.straight() || map.keeps_circles()) {
        to.push_back({map(piece.a), map(piece.b), map.mirrors() ? -piece.bulge : piece.bulge, piece.layer});
        return;
    }
    add_curve(
        to, [&](double t) { return map(point_at(piece, t)); }, 0, 1, piece.layer);
}

struct Drawn {
    Piece piece;
    std::string linetype; ///< "BYLAYER", "BYBLOCK" or a name
};

/// A block put into another, or a grid of them.
struct Insert {
    std::string block;
    Affine over;    ///< turned over, or not
    double c, s;    ///< how it is turned
    double sx, sy;  ///< how it is scaled
    Point at, step; ///< the first place, and the grid's steps
    int columns, rows;
    int layer;
    std::string linetype;

    Affine place(int column, int row) const {
        const Point off{column * step.x, row * step.y};
        return over.after(
            {c * sx, s * sx, -s * sy, c * sy, at.x + c * off.x - s * off.y, at.y + s * off.x + c * off.y});
    }
};

struct Block {
    Point base;
    std::vector<Drawn> drawn;
    std::vector<Insert> inserts;
};

struct Layer {
    bool hidden = false;
    std::string linetype = "CONTINUOUS";
};

std::string upper(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(),
                   [](unsigned char c) { return char(std::toupper(c)); });
    return text;
}

/// Takes what dxflib finds. An entity's own plane may be turned over (extrusion along -z), which mirrors it.
class Taker : public DL_CreationAdapter {
  public:
    void setVariableInt(const std::string& name, int value, int) override {
        if (name == "$INSUNITS" && value > 0) insunits = value;
    }
    void addLayer(const DL_LayerData& data) override {
        // Frozen, or switched off: then its colour is negative.
        const bool hidden = data.off || (data.flags & 1) != 0 || attributes.getColor() < 0;
        layers[number_of(data.name)] = {hidden, upper(attributes.getLinetype())};
    }
    void addLinetype(const DL_LinetypeData& data) override {
        if (data.numberOfDashes > 0) broken.insert(upper(data.name));
    }
    void addBlock(const DL_BlockData& data) override {
        finish();
        m_block = &blocks[upper(data.name)];
        *m_block = {{data.bpx, data.bpy}, {}, {}};
    }
    void endBlock() override {
        finish();
        m_block = &model;
    }

    void addLine(const DL_LineData& l) override { keep({{{l.x1, l.y1}, {l.x2, l.y2}}}, false); }
    void addArc(const DL_ArcData& a) override {
        double sweep = std::remainder((a.angle2 - a.angle1) * degree, 2 * pi);
        if (sweep <= 0) sweep += 2 * pi;
        std::vector<Piece> pieces;
        if (a.radius > 0) add_arc(pieces, {{a.cx, a.cy}, a.radius}, a.angle1 * degree, sweep, 0);
        keep(pieces, true);
    }
    void addCircle(const DL_CircleData& c) override {
        std::vector<Piece> pieces;
        if (c.radius > 0) add_arc(pieces, {{c.cx, c.cy}, c.radius}, 0, 2 * pi, 0);
        keep(pieces, true);
    }
    void addEllipse(const DL_EllipseData& e) override {
        // In the world's plane: a normal along -z turns the minor axis over.
        const Point major{e.mx, e.my}, minor = (turned_over() ? -e.ratio : e.ratio) * Point{-e.my, e.mx};
        double till = e.angle2;
        if (till <= e.angle1 + 1e-12) till += 2 * pi * std::ceil((e.angle1 + 1e-11 - till) / (2 * pi));
        std::vector<Piece> pieces;
        add_curve(
            pieces,
            [&](double t) {
                return Point{e.cx, e.cy} + std::cos(t) * major + std::sin(t) * minor;
            },
            e.angle1, till, 0);
        const bool whole = std::abs(till - e.angle1 - 2 * pi) < 1e-9;
        if (whole && !pieces.empty()) pieces.back().b = pieces.front().a;
        keep(pieces, false);
    }
    void addPolyline(const DL_PolylineData& data) override {
        finish();
        // Meshes and surfaces are no outlines.
        m_polyline = {(data.flags & 1) != 0, (data.flags & (16 | 64)) != 0, turned_over(), attributes, {}};
        m_open = Open::Polyline;
    }
    void addVertex(const DL_VertexData& v) override {
        if (m_open == Open::Polyline) m_polyline.corners.push_back({{v.x, v.y}, v.bulge});
    }
    void addSpline(const DL_SplineData& data) override {
        finish();
        m_spline = {};
        m_spline.degree = int(data.degree);
        m_spline.closed = (data.flags & 1) != 0;
        m_fit.clear();
        m_spline_attributes = attributes;
        m_open = Open::Spline;
    }
    void addControlPoint(const DL_ControlPointData& p) override {
        m_spline.control.push_back({p.x, p.y});
        m_spline.weights.push_back(p.w);
    }
    void addKnot(const DL_KnotData& k) override { m_spline.knots.push_back(k.k); }
    void addFitPoint(const DL_FitPointData& p) override { m_fit.push_back({p.x, p.y}); }
    void endEntity() override { finish(); }

    void addInsert(const DL_InsertData& i) override {
        finish();
        if (attributes.isInPaperSpace()) return;
        m_block->inserts.push_back({upper(i.name),
                                    turned_over() ? Affine{-1, 0, 0, 1, 0, 0} : Affine{},
                                    std::cos(i.angle * degree),
                                    std::sin(i.angle * degree),
                                    i.sx,
                                    i.sy,
                                    {i.ipx, i.ipy},
                                    {i.colSp, i.rowSp},
                                    std::clamp(i.cols, 1, 32000),
                                    std::clamp(i.rows, 1, 32000),
                                    number_of(attributes.getLayer()),
                                    upper(attributes.getLinetype())});
    }
    void addText(const DL_TextData& t) override { texts.push_back(t.text); }
    void addMTextChunk(const std::string& text) override { m_text += text; }
    void addMText(const DL_MTextData& t) override {
        texts.push_back(m_text + t.text);
        m_text.clear();
    }
    void addHatch(const DL_HatchData&) override { leave_out("hatches"); }
    void addSolid(const DL_SolidData&) override { leave_out("filled areas"); }
    void addPoint(const DL_PointData&) override { leave_out("points"); }
    void addLeader(const DL_LeaderData&) override { leave_out("leaders"); }
    void addXLine(const DL_XLineData&) override { leave_out("construction lines"); }
    void addRay(const DL_RayData&) override { leave_out("construction lines"); }
    void addDimAlign(const DL_DimensionData&, const DL_DimAlignedData&) override { leave_out("dimensions"); }
    void addDimLinear(const DL_DimensionData&, const DL_DimLinearData&) override { leave_out("dimensions"); }
    void addDimRadial(const DL_DimensionData&, const DL_DimRadialData&) override { leave_out("dimensions"); }
    void addDimDiametric(const DL_DimensionData&, const DL_DimDiametricData&) override {
        ++other["dimensions"];
    }
    void addDimAngular(const DL_DimensionData&, const DL_DimAngular2LData&) override {
        leave_out("dimensions");
    }
    void addDimAngular3P(const DL_DimensionData&, const DL_DimAngular3PData&) override {
        ++other["dimensions"];
    }
    void addDimOrdinate(const DL_DimensionData&, const DL_DimOrdinateData&) override {
        leave_out("dimensions");
    }

    /// What is still open when the file ends.
    void finish() {
        const Open open = m_open;
        m_open = Open::Nothing;
        if (open == Open::Polyline) finish_polyline();
        if (open == Open::Spline) finish_spline();
    }

    Block model;
    std::map<std::string, Block> blocks;
    std::map<int, Layer> layers;
    std::vector<std::string> layer_names;
    std::set<std::string> broken; ///< linetypes with gaps
    std::optional<int> insunits;
    std::vector<std::string> texts;
    std::map<std::string, int> other;           ///< what is no outline
    int unsound = 0;                            ///< splines that say nothing
    std::vector<std::pair<int, Point>> far_off; ///< layer and end of lines that lie beyond any drawing
    bool too_many = false;

  private:
    enum class Open { Nothing, Polyline, Spline };

    static bool is_near(const Piece& p) {
        const auto near = [](double x) { return std::abs(x) < farthest; };
        return near(p.a.x) && near(p.a.y) && near(p.b.x) && near(p.b.y) && std::isfinite(p.bulge);
    }
    static Point farther(Point a, Point b) {
        const auto reach = [](Point p) { return std::max(std::abs(p.x), std::abs(p.y)); };
        return reach(a) < farthest ? b : a;
    }

    void leave_out(const char* what) {
        if (m_block == &model) ++other[what];
    }

    bool turned_over() {
        const DL_Extrusion* e = getExtrusion();
        return e && e->getDirection()[2] < 0;
    }

    int number_of(const std::string& layer) {
        const auto [known, fresh] = m_layer_numbers.try_emplace(layer, int(layer_names.size()));
        if (fresh) layer_names.push_back(layer);
        return known->second;
    }

    void keep(const std::vector<Piece>& pieces, bool in_own_plane) {
        keep(pieces, in_own_plane && turned_over(), attributes);
    }
    void keep(const std::vector<Piece>& pieces, bool over, const DL_Attributes& dress) {
        finish();
        if (dress.isInPaperSpace()) return;
        for (Piece piece : pieces) {
            if (!is_near(piece)) {
                far_off.emplace_back(number_of(dress.getLayer()), farther(piece.a, piece.b));
                continue;
            }
            if (++m_drawn > most_in_blocks) too_many = true;
            if (too_many) return;
            if (over) piece = {{-piece.a.x, piece.a.y}, {-piece.b.x, piece.b.y}, -piece.bulge, 0};
            piece.layer = number_of(dress.getLayer());
            m_block->drawn.push_back({piece, upper(dress.getLinetype())});
        }
    }

    void finish_polyline() {
        const auto& corners = m_polyline.corners;
        if (m_polyline.is_surface || corners.size() < 2) return;
        std::vector<Piece> pieces;
        const std::size_t count = m_polyline.closed ? corners.size() : corners.size() - 1;
        for (std::size_t i = 0; i < count; ++i) {
            const Piece whole{corners[i].at, corners[(i + 1) % corners.size()].at, corners[i].bulge, 0};
            if (distance(whole.a, whole.b) == 0) continue;
            if (std::abs(whole.bulge) < 0.42) { // up to a quarter
                pieces.push_back(whole);
                continue;
            }
            const int parts = int(std::ceil(std::abs(sweep_of(whole)) / (pi / 2)));
            for (int k = 0; k < parts; ++k)
                pieces.push_back(part_of(whole, double(k) / parts, double(k + 1) / parts));
        }
        keep(pieces, m_polyline.over, m_polyline.dress);
    }

    void finish_spline() {
        std::vector<Piece> pieces;
        if (m_spline.is_sound())
            add_nurbs(pieces, m_spline, 0);
        else if (m_fit.size() > 1)
            add_fitted(pieces, m_fit, m_spline.closed, 0);
        else
            ++unsound;
        keep(pieces, false, m_spline_attributes);
    }

    struct Corner {
        Point at;
        double bulge;
    };
    struct Polyline {
        bool closed = false, is_surface = false, over = false;
        DL_Attributes dress;
        std::vector<Corner> corners;
    };

    Block* m_block = &model;
    Open m_open = Open::Nothing;
    Polyline m_polyline;
    Nurbs m_spline;
    std::vector<Point> m_fit;
    DL_Attributes m_spline_attributes;
    std::string m_text;
    std::map<std::string, int> m_layer_numbers;
    std::size_t m_drawn = 0; ///< lines in all blocks
};

/// Lays the blocks into the model.
class BlockUnfolding {
  public:
    BlockUnfolding(Taker& taken, DxfDrawing& out)
        : m_taken(taken)
        , m_out(out) {}

    std::optional<Problem> run() {
        if (!m_taken.too_many) lay(m_taken.model, {}, -1, "BYLAYER");
        if (m_too_many || m_taken.too_many)
            return Problem{"", "The drawing's blocks unfold to more lines than a lamination has; explode only "
                               "what it needs."};
        m_out.layers = m_taken.layer_names;
        if (m_cycles) m_out.left_out.push_back("A block that holds itself was left out there.");
        if (m_missing > 0)
            m_out.left_out.push_back(
                fmt::format("{} places name a block that the file does not hold.", m_missing));
        tell_far_off();
        for (const auto& [layer, count] : m_hidden)
            m_out.left_out.push_back(
                fmt::format("{} lines on the hidden layer {} were left out.", count, name(layer)));
        for (const auto& [what, count] : m_broken)
            m_out.left_out.push_back(fmt::format("{} broken lines ({}) on layer {} were left out.", count,
                                                 what.second, name(what.first)));
        for (const auto& [what, count] : m_taken.other)
            m_out.left_out.push_back(fmt::format("{} {} were left out.", count, what));
        if (m_taken.unsound > 0)
            m_out.left_out.push_back(
                fmt::format("{} splines without points that make one were left out.", m_taken.unsound));
        return std::nullopt;
    }

  private:
    void tell_far_off() {
        std::map<int, std::pair<int, Point>> by_layer;
        for (const auto& [layer, at] : m_taken.far_off) {
            auto& told = by_layer.try_emplace(layer, 0, at).first->second;
            ++told.first;
        }
        for (const auto& [layer, told] : by_layer)
            m_out.left_out.push_back(fmt::format(
                "{} on layer {} reach{} to ({:g}, {:g}), beyond any drawing, and {} left out: the file is "
                "damaged "
                "there, and an outline that needs it is missing or open.",
                told.first == 1 ? "A line" : fmt::format("{} lines", told.first), name(layer),
                told.first == 1 ? "es" : "", told.second.x, told.second.y, told.first == 1 ? "was" : "were"));
    }

    const std::string& name(int layer) const { return m_taken.layer_names[std::size_t(layer)]; }

    /// `outer`: the layer of the insert, which what lies on layer 0 of a block takes; -1 in the model.
    void lay(const Block& block, const Affine& map, int outer, const std::string& outer_linetype) {
        for (const Drawn& d : block.drawn) {
            if (m_too_many) return;
            spend(30);
            Piece piece = d.piece;
            piece.layer = resolved(piece.layer, outer);
            keep(piece, map, d.linetype == "BYBLOCK" ? outer_linetype : d.linetype);
        }
        for (const Insert& i : block.inserts) {
            const auto found = m_taken.blocks.find(i.block);
            if (found == m_taken.blocks.end()) {
                ++m_missing;
                continue;
            }
            if (std::find(m_open.begin(), m_open.end(), i.block) != m_open.end() ||
                m_open.size() > deepest_block) {
                m_cycles = true;
                continue;
            }
            m_open.push_back(i.block);
            const Affine from_base{1, 0, 0, 1, -found->second.base.x, -found->second.base.y};
            for (int column = 0; column < i.columns; ++column)
                for (int row = 0; row < i.rows; ++row) {
                    if (m_too_many) break;
                    spend(30);
                    lay(found->second, map.after(i.place(column, row)).after(from_base),
                        resolved(i.layer, outer), i.linetype == "BYBLOCK" ? outer_linetype : i.linetype);
                }
            m_open.pop_back();
        }
    }

    int resolved(int layer, int outer) const { return outer >= 0 && name(layer) == "0" ? outer : layer; }

    void keep(const Piece& piece, const Affine& map, const std::string& linetype) {
        const Layer layer = m_taken.layers.contains(piece.layer) ? m_taken.layers.at(piece.layer) : Layer{};
        const std::string type = linetype == "BYLAYER" || linetype.empty() ? layer.linetype : linetype;
        if (layer.hidden || upper(name(piece.layer)) == "DEFPOINTS") {
            ++m_hidden[piece.layer];
        } else if (m_taken.broken.contains(type)) {
            ++m_broken[{piece.layer, type}];
        } else {
            add_mapped(m_out.pieces, piece, map);
            m_too_many = m_too_many || m_out.pieces.size() > most_pieces;
        }
    }

    Taker& m_taken;
    DxfDrawing& m_out;
    std::vector<std::string> m_open; ///< blocks we are in
    std::map<int, int> m_hidden;
    std::map<std::pair<int, std::string>, int> m_broken;
    bool m_cycles = false, m_too_many = false;
    int m_missing = 0;
};

} // namespace

Result<DxfDrawing> read_dxf(const std::filesystem::path& file, std::stop_token stop) {
    auto groups = read_dxf_groups(file);
    if (!groups) return groups.problems();
    try {
        const Budget budget(std::move(stop));
        std::istringstream stream(std::move(*groups));
        Taker taken;
        DL_Dxf dxf;
        if (!dxf.in(stream, &taken))
            return Problem{"", "The drawing cannot be read as DXF; have it saved anew."};
        taken.finish();
        DxfDrawing out;
        out.insunits = taken.insunits;
        out.texts = taken.texts;
        if (auto problem = BlockUnfolding(taken, out).run()) return *problem;
        if (!out.pieces.empty()) return out;
        return Problem{"", out.left_out.empty()
                               ? "The drawing shows no lines, arcs or splines in its model space."
                               : "The drawing shows nothing that is read. " + out.left_out.front()};
    } catch (const Overspent& end) {
        return end.problem;
    }
}

} // namespace mavlo
