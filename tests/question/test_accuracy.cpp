// Draft, normal and fine promise figures; the stated errors cover what is left.

#include "figure/spectrum.h"
#include "night.h"
#include "project/project.h"
#include "question/question.h"
#include "support.h"
#include "test_program.h"

#include <QDir>
#include <QTemporaryDir>

using namespace mavlo;

namespace {

Ask ask_of(const Design& design, Quality quality, const char* points) {
    Ask ask;
    ask.design = design;
    ask.quality = quality;
    ask.with = {{"points", points}};
    return ask;
}

Design shape(const std::string& name) {
    for (const StartingShape& s : starting_shapes())
        if (s.name == name) return Design{s.texts};
    qFatal("no such shape");
}

double largest_difference(const Curve& a, const Curve& b, double offset = 0) {
    double most = 0;
    for (std::size_t i = 0; i < a.y.size(); ++i) most = std::max(most, std::abs(a.y[i] - b.y[i] - offset));
    return most;
}

double peak(const std::vector<double>& y, double middle) {
    double most = 0;
    for (double v : y) most = std::max(most, std::abs(v - middle));
    return most;
}

/// Open slots on radii, as a machine whose cogging plain meshes get wrong by per cents.
Design open_slots() {
    return design_of({{"stator.slots", "36"},
                      {"rotor.poles", "6"},
                      {"stator.slot.kind", "radial"},
                      {"stator.slot.opening_angle", "4 deg"},
                      {"stator.slot.body_angle", "5 deg"},
                      {"stator.slot.tip_depth", "1.5 mm"},
                      {"stator.slot.depth", "9 mm"},
                      {"winding.layers", "2"}});
}

} // namespace

class TestAccuracy : public QObject {
    Q_OBJECT
  private Q_SLOTS:
    void waveforms_keep_the_promise_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<int>("quality");
        for (const char* name : {"surface", "inset", "spoke", "vee"}) {
            if (name == std::string_view("spoke") && !by_night()) continue;
            QTest::newRow(qPrintable(QStringLiteral("%1, draft").arg(QString::fromLatin1(name))))
                << QString::fromLatin1(name) << int(Quality::Draft);
            QTest::newRow(qPrintable(QStringLiteral("%1, normal").arg(QString::fromLatin1(name))))
                << QString::fromLatin1(name) << int(Quality::Normal);
        }
        QTest::newRow("open slots, normal") << "open slots" << int(Quality::Normal);
    }
    void waveforms_keep_the_promise() {
        QFETCH(QString, name);
        QFETCH(int, quality);
        const Quality q = Quality(quality);
        const Design design = name == "open slots" ? open_slots() : shape(name.toStdString());
        const Promise promise = promise_of(q);
        Ask ask = ask_of(design, q, "20"), exact = ask_of(design, Quality::Normal, "20");
        exact.size = q == Quality::Draft ? 0.8 : 0.6;
        const auto cogging = ask_question("cogging", ask), cogging_exact = ask_question("cogging", exact);
        QVERIFY(cogging && cogging_exact);
        const Curve &wave = *cogging->curve("torque"), &truth = *cogging_exact->curve("torque");
        const double share = largest_difference(wave, truth) / peak(truth.y, 0);
        ask.with["points"] = exact.with["points"] = "24";
        const auto load = ask_question("load", ask), load_exact = ask_question("load", exact);
        QVERIFY(load && load_exact);
        const double mean = *load_exact->figure("torque_mean"), offset = *load->figure("torque_mean") - mean;
        const Curve &psi = *load->curve("flux_linkage_u"), &psi_exact = *load_exact->curve("flux_linkage_u");
        const double linkage = largest_difference(psi, psi_exact) / peak(psi_exact.y, 0);
        qInfo("%s: cogging %.2g, mean torque %.2g, flux linkage %.2g of the promise; estimated %.2g",
              qPrintable(name), share / promise.waveform, std::abs(offset / mean) / promise.mean,
              linkage / promise.mean, cogging->effort.accuracy_estimated / cogging->effort.accuracy_aimed);
        QVERIFY(share < promise.waveform);
        QVERIFY(std::abs(offset) < promise.mean * std::abs(mean));
        QVERIFY(linkage < promise.mean);
    }
    void the_effort_says_what_was_aimed_at() {
        const auto answer = ask_question("cogging", ask_of({}, Quality::Draft, "8"));
        QVERIFY(bool(answer));
        CLOSE(answer->effort.accuracy_aimed, 0.05, 1e-12);
        QVERIFY(answer->effort.accuracy_estimated > 0 && answer->effort.accuracy_estimated < 0.05);
        const auto json = nlohmann::json::parse(answer_to_json(*answer));
        QVERIFY(json["effort"]["accuracy_estimated"] == answer->effort.accuracy_estimated);
        QVERIFY(*answer_from_json(answer_to_json(*answer)) == *answer);
        // A flux map promises flux linkages, no waveforms.
        Ask map = ask_of({}, Quality::Draft, "12");
        map.with = {{"id", "-5:0:5 A"}, {"iq", "0:5:5 A"}, {"points", "12"}};
        const auto linkages = ask_question("flux-map", map);
        QVERIFY(bool(linkages));
        CLOSE(linkages->effort.accuracy_aimed, 0.005, 1e-12);
        QVERIFY(linkages->effort.elements <= answer->effort.elements);
        // Without slots there is no torque to judge a mesh by.
        const auto smooth =
            ask_question("no-load", ask_of(design_of({{"stator.slot.kind", "none"}}), Quality::Draft, "8"));
        QVERIFY(smooth && smooth->effort.accuracy_aimed == 0);
    }
    void sizes_are_found_once_and_kept() {
        QTemporaryDir folder;
        const PointStore store(folder.path().toStdString());
        const Design design = shape("inset");
        const Machine m = machine_of(design);
        const Promise promise = promise_of(Quality::Draft);
        const auto found = kept_sizing(m, "a test's design", Quality::Draft, promise, 1, {}, store);
        QVERIFY(found && found->share > 0 && found->solves > 0);
        QCOMPARE(QDir(folder.path()).entryList({"mesh-*.csv"}).size(), 1);
        QVERIFY(*find_sizing(m, Quality::Draft, promise, 2, {}) == *found); // whatever the threads
        // Another program reads it as it was; one that was cut short counts as none.
        const PointStore own = store.of("a store's subject"), cut = store.of("another subject");
        write_sizing(own, *found);
        const auto back = read_sizing(own, m.section.bodies.size());
        QVERIFY(back && *back == *found);
        cut.append("mesh", {0, 0, 0.03, 0.001, 1e-4});
        QVERIFY(!read_sizing(cut, m.section.bodies.size()));
        std::stop_source stop;
        stop.request_stop();
        const auto stopped_one =
            kept_sizing(m, "another", Quality::Draft, promise, 1, {{}, stop.get_token()}, store);
        QVERIFY(!stopped_one && is_stopped(stopped_one.problems()));
    }
    void a_small_move_of_the_rating_keeps_the_mesh() {
        Design design = design_of({{"rating.current", "5 A"}});
        const std::string before = trial_text(machine_of(design));
        design.texts["rating.current"] = "5.2 A";
        QCOMPARE(trial_text(machine_of(design)), before);
        design.texts["rating.current"] = "50 A";
        QVERIFY(trial_text(machine_of(design)) != before);
    }
};
MAVLO_TEST(accuracy, TestAccuracy, Nothing)
#include "test_accuracy.moc"
