// The VTU file: sound XML, sizes that agree, the field that was solved.

#include "figure/magnet_load.h"
#include "figure/sample.h"
#include "figure/vtu.h"
#include "support.h"
#include "test_program.h"

#include <QXmlStreamReader>

using namespace mavlo;

namespace {

struct Vtu {
    int points = 0, cells = 0;
    std::map<QString, std::vector<double>> arrays;
};

Vtu parse(const std::string& text) {
    Vtu out;
    QXmlStreamReader xml(QByteArray::fromStdString(text));
    while (!xml.atEnd()) {
        if (xml.readNext() != QXmlStreamReader::StartElement) continue;
        if (xml.name() == QStringLiteral("Piece")) {
            out.points = xml.attributes().value(QStringLiteral("NumberOfPoints")).toInt();
            out.cells = xml.attributes().value(QStringLiteral("NumberOfCells")).toInt();
        }
        if (xml.name() != QStringLiteral("DataArray")) continue;
        const QString name = xml.attributes().value(QStringLiteral("Name")).toString();
        for (const QString& number :
             xml.readElementText().split(QRegularExpression(QStringLiteral("\\s+")), Qt::SkipEmptyParts))
            out.arrays[name].push_back(number.toDouble());
    }
    if (xml.hasError()) qFatal("%s", qPrintable(xml.errorString()));
    return out;
}

} // namespace

class TestVtu : public QObject {
    Q_OBJECT
    std::shared_ptr<const MachineModel> m_model = *prepare_field(machine_of({}), {Quality::Draft});
    FieldSolution m_field = *FieldSolver(m_model).solve(0.2, {5, -2, -3});
  private Q_SLOTS:
    void sizes_agree() {
        const Vtu sector = parse(vtu_text(*m_model, m_field, false)),
                  whole = parse(vtu_text(*m_model, m_field, true));
        QCOMPARE(sector.cells, int(m_model->elements.size()));
        QCOMPARE(sector.points, 6 * sector.cells);
        QCOMPARE(whole.cells, sector.cells * m_model->sector.count);
        for (const Vtu* vtu : {&sector, &whole}) {
            const auto size = [&](const char* name) { return int(vtu->arrays.at(QLatin1String(name)).size()); };
            QCOMPARE(size("points"), 3 * vtu->points);
            QCOMPARE(size("A"), vtu->points);
            QCOMPARE(size("B"), 3 * vtu->points);
            QCOMPARE(size("connectivity"), vtu->points);
            QCOMPARE(size("offsets"), vtu->cells);
            QCOMPARE(size("use"), vtu->cells);
            QCOMPARE(size("remanence"), 3 * vtu->cells);
            for (double type : vtu->arrays.at(QStringLiteral("types"))) QCOMPARE(type, 22.0);
        }
    }
    void the_field_is_the_curl_of_the_potential() {
        const Vtu v = parse(vtu_text(*m_model, m_field, true));
        const auto &p = v.arrays.at(QStringLiteral("points")), &a = v.arrays.at(QStringLiteral("A")),
                   &b = v.arrays.at(QStringLiteral("B"));
        // B is linear in an element. The gradient of a quadratic function at the middle of a triangle follows
        // from those of the planes through its corners and through its edges' middles (which turn it about and
        // halve it).
        double off = 0, all = 0, largest = 0;
        for (int cell = 0; cell < v.cells; cell += 7) {
            const auto index = [&](int k) { return std::size_t(6 * cell + k); };
            const auto place = [&](int k) { return Point{p[3 * index(k)], p[3 * index(k) + 1]}; };
            const auto density = [&](int k) { return Point{b[3 * index(k)], b[3 * index(k) + 1]}; };
            const auto gradient = [&](int i, int j, int k) {
                const Point u = place(j) - place(i), w = place(k) - place(i);
                const double du = a[index(j)] - a[index(i)], dw = a[index(k)] - a[index(i)], det = cross(u, w);
                return Point{(du * w.y - dw * u.y) / det, (dw * u.x - du * w.x) / det};
            };
            const Point g = (1.0 / 3) * (gradient(0, 1, 2) + 2.0 * gradient(3, 4, 5));
            const Point mean = (1.0 / 3) * (density(0) + density(1) + density(2));
            const double area = std::abs(cross(place(1) - place(0), place(2) - place(0))) / 2;
            off += area * std::pow(norm(mean - Point{g.y, -g.x}), 2);
            all += area * std::pow(norm(mean), 2);
            largest = std::max(largest, norm(mean));
        }
        QVERIFY(largest > 1);
        QVERIFY2(off < 1e-4 * all, qPrintable(QString::number(off / all)));
    }
    void materials_are_told() {
        const Vtu v = parse(vtu_text(*m_model, m_field, true));
        const auto &use = v.arrays.at(QStringLiteral("use")), &mu = v.arrays.at(QStringLiteral("mu_r")),
                   &m = v.arrays.at(QStringLiteral("remanence"));
        double north = 0;
        for (std::size_t i = 0; i < use.size(); ++i) {
            const double remanence = std::hypot(m[3 * i], m[3 * i + 1]);
            if (use[i] == double(Use::Magnet)) {
                CLOSE(remanence, m_model->machine.magnet()->own_remanence(), 1e-6);
                CLOSE(mu[i], 1.05, 1e-6);
                north += m[3 * i];
            } else {
                QCOMPARE(remanence, 0.0);
            }
            if (use[i] == double(Use::Iron)) QVERIFY(mu[i] > 5);
            if (use[i] == double(Use::Air)) CLOSE(mu[i], 1, 1e-6);
        }
        QVERIFY(std::abs(north) < 1e-6 * double(use.size())); // as many poles of either kind
    }
    void magnets_work_where_their_circuit_says() {
        // Ideal iron, a smooth stator, full magnets: B_m A = B_g A, H_m l + H_g g = 0 on a circle of large
        // radius.
        const Machine smooth = machine_of(design_of({{"stator.slot.kind", "none"},
                                                     {"stator.outer_diameter", "500 mm"},
                                                     {"stator.bore_diameter", "400 mm"},
                                                     {"gap", "1 mm"},
                                                     {"rotor.poles", "4"},
                                                     {"rotor.magnet.thickness", "4 mm"},
                                                     {"rotor.magnet.arc", "1"},
                                                     {"rotor.magnet.magnetisation", "radial"},
                                                     {"stator.steel", "linear(inf)"},
                                                     {"rotor.steel", "linear(inf)"},
                                                     {"rotor.magnet.grade", "magnet(1.2 T, 1.0)"}}));
        const auto model = *prepare_field(smooth, {Quality::Normal});
        const MagnetLoad load = magnet_load(*model, *FieldSolver(model).solve(0, {}));
        CLOSE(load.permeance_coefficient() / (4.0 / 1.0), 1,
              0.06); // thickness over gap, but for the poles' edges
        CLOSE(load.flux_density, 1.2 * 4 / 5, 0.04);
        CLOSE(load.flux_density - 1.2, mu0 * load.field, 1e-9);
    }
};
MAVLO_TEST(vtu, TestVtu, Nothing)
#include "test_vtu.moc"
