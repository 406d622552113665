// Every starting shape as it stands is asked what a designer asks first: each figure can be, and a refusal says
// why. A few shapes always, all of them at night.

#include "night.h"
#include "project/project.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

#include <QTemporaryDir>
#include <cmath>

using namespace mavlo;

namespace {

struct Asked {
    const char* question;
    std::map<std::string, std::string> with;
};

/// Coarse inputs of the questions whose answers hang on losses and powers.
const std::vector<Asked>& first_questions() {
    static const std::vector<Asked> list{{"load", {{"points", "24"}}},
                                         {"no-load", {{"points", "24"}}},
                                         {"speed-range", {{"map_steps", "4"}, {"speeds", "10:100:10 %"}}},
                                         {"efficiency-map", {{"map_steps", "4"}, {"speeds", "20:100:20 %"}}},
                                         {"working-point", {{"map_steps", "4"}}},
                                         {"torque-speed", {{"map_steps", "3"}, {"speeds", "20:100:20 %"}}},
                                         {"in-time", {{"map_steps", "3"}, {"points", "60"}}},
                                         {"current-for-torque", {}},
                                         {"strokes", {}}};
    return list;
}

bool is_loss(const std::string& name) {
    return name.find("_loss") != std::string::npos || name.starts_with("loss_");
}

/// What is wrong with a figure or a value of a curve; empty: nothing.
QString wrong_with(const std::string& name, double value) {
    const auto named = QStringLiteral("%1 = %2").arg(QString::fromStdString(name)).arg(value);
    if (!std::isfinite(value)) return named;
    if (is_loss(name) && name.find("total") == std::string::npos && value < 0) return named + " W of loss";
    const bool share = name == "efficiency" || name == "best_efficiency" || name == "duty_efficiency";
    if (share && !(value >= 0 && value <= 1)) return named;
    return {};
}

QString wrong_with(const Answer& answer) {
    for (const Figure& f : answer.figures)
        if (f.value)
            if (const QString wrong = wrong_with(f.name, *f.value); !wrong.isEmpty()) return wrong;
    for (const Curve& curve : answer.curves)
        if (curve.name == "efficiency" || is_loss(curve.name))
            for (double y : curve.y)
                if (!std::isnan(y)) // left open
                    if (const QString wrong = wrong_with(curve.name, y); !wrong.isEmpty()) return wrong;
    const auto shaft = answer.figure("shaft_power"), input = answer.figure("input_power");
    if (shaft && input && *shaft > *input && *input > 0) return QStringLiteral("more comes out than goes in");
    return {};
}

} // namespace

class TestEveryShape : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void first_answers_can_be_data() {
        QTest::addColumn<QString>("shape");
        const bool all = by_night();
        for (const StartingShape& shape : starting_shapes())
            for (const char* few : {"surface", "bar", "reluctance-salient", "salient"})
                if (all || shape.name == few) {
                    QTest::newRow(shape.name.c_str()) << QString::fromStdString(shape.name);
                    break;
                }
    }
    void first_answers_can_be() {
        QFETCH(QString, shape);
        Ask ask;
        ask.design = new_project(shape.toStdString())->variants.front().design;
        ask.quality = Quality::Draft;
        QTemporaryDir folder; // maps are kept from question to question
        int answered = 0;
        for (const Asked& asked : first_questions()) {
            ask.with = asked.with;
            Run run;
            run.points = PointStore(folder.path().toStdString());
            const auto answer = ask_question(asked.question, ask, run);
            if (!answer) {
                const Problem& problem = answer.problems().front();
                QVERIFY2(!problem.sentence.empty() && problem.path != "field", to_string(problem).c_str());
                // Standard inputs never stand in the way, but of a supply for phases that turn round.
                const bool by_kind =
                    !problem.path.starts_with("--with") || (ask.design.text("winding.form") == "pole" &&
                                                            std::string_view(asked.question) == "in-time");
                QVERIFY2(by_kind, to_string(problem).c_str());
                continue;
            }
            ++answered;
            const QString wrong = wrong_with(*answer);
            QVERIFY2(wrong.isEmpty(), qPrintable(QString::fromUtf8(asked.question) + ": " + wrong));
        }
        QVERIFY(answered >= (shape == "smooth" ? 1 : 3));
    }
};
MAVLO_TEST(every_shape, TestEveryShape, Nothing)
#include "test_every_shape.moc"
