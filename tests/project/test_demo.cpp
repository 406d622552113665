// The demo project: sound, and as good as its story says.

#include "figure/spectrum.h"
#include "project/project.h"
#include "question/period.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

using namespace mavlo;

class TestDemo : public QObject {
    Q_OBJECT
    Project m_project = *read_project(MAVLO_SOURCE "/demo/observatory.mavlo");
    Answer answer(const char* question, const char* variant, Quality quality,
                  std::map<std::string, std::string> with) {
        Ask ask;
        ask.design = m_project.find(variant)->design;
        ask.quality = quality;
        ask.with = std::move(with);
        auto result = ask_question(question, ask);
        if (!result) qFatal("%s", to_string(result.problems().front()).c_str());
        return *result;
    }

  private Q_SLOTS:
    void has_nothing_wrong() {
        QVERIFY(check_project(m_project).empty());
        QVERIFY(m_project.variants.size() >= 2);
        QVERIFY(*parse_project(project_text(m_project)) == m_project);
    }
    void twenty_two_poles_hardly_cog() {
        const double base =
            *answer("cogging", "base", Quality::Draft, {{"points", "8"}}).figure("cogging_peak_to_peak");
        const double other =
            *answer("cogging", "22 poles", Quality::Draft, {{"points", "8"}}).figure("cogging_peak_to_peak");
        QVERIFY(base > 0.05 && base < 0.5);
        QVERIFY(other < 0.1 * base);
    }
    void own_factorisation_is_the_library_s_on_every_variant() {
        for (const auto& variant : m_project.variants) {
            const auto model = *prepare_field(*build_machine(variant.design));
            auto values = model->linear_values;
            std::vector<double> x(std::size_t(model->unknowns()));
            for (int j = 0; j < model->unknowns(); ++j) {
                values[std::size_t(model->pattern->column[std::size_t(j)])] += 1e-3 * nu0;
                x[std::size_t(j)] = std::sin(j);
            }
            std::vector<double> y = x;
            auto own = model->analysed->copy(), library = make_cholmod(model->pattern);
            QVERIFY(own->factorise(values) && library->factorise(values));
            own->solve(x);
            library->solve(y);
            const double difference = relative_difference(x, y);
            QVERIFY2(difference <= 1e-12, qPrintable(QString::number(difference)));
        }
    }
    void no_dimension_makes_the_factor_large() {
        // Meshes differ by chance from one dimension to the next; the fronts must not.
        for (int step = 0; step < 30; ++step) {
            Design design = m_project.find("base")->design;
            design.texts["stator.slot.depth"] = std::to_string(18 + 0.013 * step) + " mm";
            const auto model = *prepare_field(*build_machine(design), {Quality::Draft});
            QVERIFY2(model->analysed->factor_entries() < 90.0 * model->unknowns(),
                     qPrintable(QString::number(model->analysed->factor_entries() / model->unknowns())));
        }
    }
    void cogging_settles_as_the_mesh_is_refined() {
        const double normal =
            *answer("cogging", "base", Quality::Normal, {{"points", "12"}}).figure("cogging_peak_to_peak");
        const double fine =
            *answer("cogging", "base", Quality::Fine, {{"points", "12"}}).figure("cogging_peak_to_peak");
        CLOSE(normal, fine, 0.05 * fine);
    }
    void energy_is_balanced_under_load() {
        const Answer a = answer("load", "base", Quality::Draft,
                                {{"points", "36"}, {"current", "12 A"}, {"advance", "20 deg"}});
        double power = 0;
        for (const char* phase : {"u", "v", "w"}) {
            const auto &v = a.curve(std::string("voltage_") + phase)->y,
                       &i = a.curve(std::string("current_") + phase)->y;
            for (std::size_t k = 0; k < v.size(); ++k) power += v[k] * i[k] / double(v.size());
        }
        CLOSE(power - *a.figure("copper_loss"), *a.figure("mechanical_power"), 0.005 * power);
    }
    void torque_repeats_after_a_sixth_of_the_period() {
        // All positions solved, none unfolded.
        const auto model = *prepare_field(*build_machine(m_project.find("base")->design), {Quality::Draft});
        const auto whole = *sweep(model, electrical_period(model->machine, 24, Dq{-2, 6}), 0, {});
        for (std::size_t i = 0; i < 24; ++i)
            CLOSE(whole[i].torque, whole[(i + 4) % 24].torque, 1e-4 * whole[i].torque);
    }
};
MAVLO_TEST(demo, TestDemo, Nothing)
#include "test_demo.moc"
