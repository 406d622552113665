// Whether meshes keep what they promise: random machines asked at a quality, against a mesh far finer.
//
// accuracy [machines] [first seed] [draft|normal|fine]: one line a machine with the errors of the cogging and
// torque waveforms, the mean torque and the flux linkage over what is promised, and of the stated errors
// (--error) over the true ones; at the end how many kept it.

#include "project/project.h"
#include "quantity/quantity.h"
#include "question/question.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <random>

using namespace mavlo;

namespace {

using Texts = std::map<std::string, std::string>;

/// A starting shape with its lengths, angles and shares changed by up to a fifth; only what can be built.
std::optional<Texts> random_machine(std::mt19937& random, std::string& name) {
    const auto& shapes = starting_shapes();
    for (int attempt = 0; attempt < 100; ++attempt) {
        const auto& shape = shapes[random() % shapes.size()];
        const Design plain{shape.texts};
        Texts texts = shape.texts;
        for (const Parameter* parameter : used_parameters(plain)) {
            const std::string &path = parameter->path, text = plain.text(path);
            std::string_view rest;
            const auto number = read_number(text, rest);
            const bool size =
                parameter->kind == ParameterKind::Quantity || parameter->path == "rotor.magnet.arc";
            if (!number || *number == 0 || !size ||
                !(path.starts_with("stator.") || path.starts_with("rotor.") || path == "gap"))
                continue;
            const double factor = std::uniform_real_distribution(0.82, 1.2)(random);
            texts[path] = number_text(*number * factor, 4) + std::string(rest);
        }
        name = shape.name;
        const auto machine = build_machine(Design{texts});
        if (machine && machine->wound()) return texts;
    }
    return std::nullopt;
}

struct Asked {
    std::vector<Answer> answers; ///< cogging (where there are magnets), load
    double seconds = 0;
};

Asked ask_all(const Texts& texts, Quality quality, bool with_error, double finer) {
    Asked out;
    const auto start = std::chrono::steady_clock::now();
    for (const char* question : {"cogging", "load"}) {
        Ask ask;
        ask.design.texts = texts;
        ask.quality = quality;
        ask.with_error = with_error;
        ask.size = finer;
        ask.with = {{"points", question == std::string("load") ? "48" : "24"}};
        auto answer = ask_question(question, ask);
        out.answers.push_back(answer ? *answer : Answer{});
    }
    out.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
    return out;
}

double peak(const std::vector<double>& y, double mean) {
    double most = 0;
    for (double v : y) most = std::max(most, std::abs(v - mean));
    return most;
}

double largest_difference(const Curve& a, const Curve& b, double offset) {
    double most = 0;
    for (std::size_t i = 0; i < a.y.size(); ++i) most = std::max(most, std::abs(a.y[i] - b.y[i] - offset));
    return most;
}

struct Tally {
    std::vector<double> shares, cover; ///< error over promise; stated error over true
};

void compare(const Asked& given, const Asked& exact, Quality quality, Tally& tally) {
    const Promise promise = promise_of(quality);
    const Answer &load = given.answers[1], &load_exact = exact.answers[1];
    const auto mean = load_exact.figure("torque_mean");
    const auto note = [&](const char* name, double error, double allowed) {
        const double share = error / allowed;
        tally.shares.push_back(share);
        std::printf(" %s %.2f", name, share);
    };
    const auto cover = [&](const Answer& a, const Answer& b, const char* name) {
        for (const Figure& f : a.figures)
            if (f.name == name && f.value && f.error && b.figure(name)) {
                const double truth = std::abs(*f.value - *b.figure(name));
                if (truth > 1e-9 * std::abs(*f.value)) tally.cover.push_back(*f.error / truth);
            }
    };
    const double rated = mean ? std::abs(*mean) : 0;
    if (const Curve* c = given.answers[0].curve("torque"))
        if (const Curve* e = exact.answers[0].curve("torque"); e && peak(e->y, 0) > 1e-3 * rated)
            note("cogging", largest_difference(*c, *e, 0), promise.waveform * peak(e->y, 0));
    if (const Curve* c = load.curve("torque"); c && mean) {
        const Curve& e = *load_exact.curve("torque");
        const double offset = *load.figure("torque_mean") - *mean;
        if (peak(e.y, *mean) > 1e-3 * rated)
            note("ripple", largest_difference(*c, e, offset), promise.waveform * peak(e.y, *mean));
        note("mean", std::abs(offset), promise.mean * rated);
        const Curve &psi = *load.curve("flux_linkage_u"), &exactly = *load_exact.curve("flux_linkage_u");
        note("linkage", largest_difference(psi, exactly, 0), promise.mean * peak(exactly.y, 0));
    }
    cover(given.answers[0], exact.answers[0], "cogging_peak_to_peak");
    for (const char* name : {"torque_mean", "torque_peak_to_peak", "flux_linkage_d", "flux_linkage_q"})
        cover(load, load_exact, name);
}

double quantile(std::vector<double> values, double share) {
    if (values.empty()) return 0;
    std::sort(values.begin(), values.end());
    return values[std::min(values.size() - 1, std::size_t(share * double(values.size())))];
}

} // namespace

int main(int argc, char** argv) {
    const int machines = argc > 1 ? std::atoi(argv[1]) : 20;
    std::mt19937 random(argc > 2 ? unsigned(std::atoi(argv[2])) : 1U);
    const std::string wanted = argc > 3 ? argv[3] : "normal";
    const Quality quality = wanted == "draft"  ? Quality::Draft
                            : wanted == "fine" ? Quality::Fine
                                               : Quality::Normal;
    Tally tally;
    for (int i = 0; i < machines; ++i) {
        std::string name;
        const auto texts = random_machine(random, name);
        if (!texts) continue;
        const Asked given = ask_all(*texts, quality, true, 1),
                    exact = ask_all(*texts, quality == Quality::Fine ? Quality::Fine : Quality::Normal, false,
                                    quality == Quality::Draft ? 1 : 0.6);
        std::printf("%-20s %6d elements %5.1f s, estimated %.2f:", name.c_str(),
                    given.answers[1].effort.elements, given.seconds,
                    given.answers[1].effort.accuracy_estimated /
                        std::max(1e-9, given.answers[1].effort.accuracy_aimed));
        compare(given, exact, quality, tally);
        std::printf("\n");
        std::fflush(stdout);
    }
    const auto kept = std::count_if(tally.shares.begin(), tally.shares.end(), [](double s) { return s <= 1; });
    const auto covered = std::count_if(tally.cover.begin(), tally.cover.end(), [](double c) { return c >= 1; });
    std::printf("promises kept: %ld of %zu, median share %.2f, nine in ten %.2f\n", long(kept),
                tally.shares.size(), quantile(tally.shares, 0.5), quantile(tally.shares, 0.9));
    std::printf("stated errors that cover: %ld of %zu; stated over true: one in twenty below %.2f, one in ten "
                "below %.2f, median %.2f\n",
                long(covered), tally.cover.size(), quantile(tally.cover, 0.05), quantile(tally.cover, 0.1),
                quantile(tally.cover, 0.5));
    return 0;
}
