// report: chosen answers and variants as one HTML file or PDF.

#include "report/report.h"

#include "commands.h"
#include "interrupt.h"
#include "project/shelf.h"
#include "storage/file.h"
#include "study/study.h"

#include <CLI/CLI.hpp>
#include <ctime>
#include <fmt/format.h>
#include <memory>

namespace mavlo::cli {
namespace {

struct ReportOptions {
    std::string file, output, title, notes, logo, quality = "normal";
    std::vector<std::string> variants, ask;
    int threads = 0;
};

std::string today() {
    const std::time_t now = std::time(nullptr);
    char text[32] = "";
    std::strftime(text, sizeof text, "%Y-%m-%d", std::localtime(&now));
    return text;
}

/// What is kept for a variant with the questions' own inputs, or what was asked for, solved where it is not.
Result<std::vector<Answer>> answers_of(const ReportOptions& o, const Project& project, const Variant& variant,
                                       const AnswerStore& store, std::stop_token stop) {
    Ask ask = ask_of(project, variant, quality_of(o.quality));
    std::vector<Answer> answers;
    if (o.ask.empty()) {
        for (const QuestionKind& kind : question_kinds())
            if (auto kept = store.find(kind.name, ask)) answers.push_back(std::move(*kept));
        return answers;
    }
    for (const std::string& text : o.ask) {
        const auto question = read_study_question(text);
        if (!question) return question.problems();
        ask.with = question->with;
        if (auto kept = store.find(question->name, ask)) {
            answers.push_back(std::move(*kept));
            continue;
        }
        Run run;
        run.threads = o.threads;
        run.watch.stop = stop;
        run.points = PointStore(store.folder());
        auto answer = ask_question(question->name, ask, run);
        if (!answer) return answer.problems();
        if (const auto problem = store.keep(*answer, ask)) complain({*problem}, "warning");
        answers.push_back(std::move(*answer));
    }
    return answers;
}

Result<Report> report_of(const ReportOptions& o, const Project& project, std::stop_token stop) {
    Report report;
    report.title = !o.title.empty() ? o.title : project.name.empty() ? "Design report" : project.name;
    report.date = today();
    report.notes = o.notes;
    if (o.notes.starts_with('@')) {
        const auto notes = read_file(o.notes.substr(1), 4 << 20);
        if (!notes) return notes.problems();
        report.notes = *notes;
    }
    if (!o.logo.empty())
        if (const auto problem = take_logo(report, o.logo)) return *problem;
    const AnswerStore store(o.file);
    for (const std::string& name : o.variants.empty() ? std::vector<std::string>{project.active} : o.variants) {
        const Variant* variant = project.find(name);
        if (!variant) return Problem{"--variant", fmt::format("The project has no variant \"{}\".", name)};
        auto answers = answers_of(o, project, *variant, store, stop);
        if (!answers) return answers.problems();
        report.parts.push_back({name, std::move(*answers)});
    }
    return report;
}

int run_command(const ReportOptions& o) {
    const bool pdf = o.output.ends_with(".pdf");
    if (!pdf && !o.output.ends_with(".html")) {
        complain({{"-o", "A report is written as .html or .pdf."}});
        return wrong_usage;
    }
    const auto project = read_project(o.file);
    if (!project) return exit_code_of(project.problems());
    const InterruptWatch interrupt;
    const auto report = report_of(o, *project, interrupt.token());
    if (!report) return exit_code_of(report.problems());
    const auto html = report_html(*report, *project);
    if (!html) return exit_code_of(html.problems());
    const auto problem = pdf ? write_pdf(*html, o.output) : write_file_atomically(o.output, *html);
    if (problem) return exit_code_of({*problem});
    return done;
}

} // namespace

void add_report(CLI::App& app, int& exit_code) {
    auto* command =
        app.add_subcommand("report", "Answers, drawing, winding and materials as one HTML file or PDF.");
    auto o = std::make_shared<ReportOptions>();
    command->add_option("FILE", o->file, "Project file")->required();
    command->add_option("-o,--output", o->output, "Report, .html or .pdf")->required();
    command->add_option("--title", o->title, "Title; the project's name otherwise");
    command->add_option("--notes", o->notes, "A text under the title, or @FILE");
    command->add_option("--logo", o->logo, "A picture beside the title: .png, .svg or .jpg");
    command->add_option("--variant", o->variants, "A variant to report; the one in hand otherwise")
        ->take_all()
        ->expected(1);
    command
        ->add_option("--ask", o->ask,
                     "QUESTION or QUESTION:KEY=VALUE,… to report; otherwise all that is kept for the variant")
        ->take_all()
        ->expected(1);
    add_threads(*command, o->threads);
    command->add_option("--quality", o->quality, "draft, normal or fine")
        ->check(CLI::IsMember({"draft", "normal", "fine"}));
    command->callback([o, &exit_code] { exit_code = run_command(*o); });
}

} // namespace mavlo::cli
