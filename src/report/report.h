#pragma once
// A report: chosen answers and variants of a project on one page that needs nothing beside it.

#include "project/project.h"
#include "question/question.h"

#include <functional>
#include <optional>

namespace mavlo {

struct ReportPart {
    std::string variant;
    std::vector<Answer> answers;
};

struct Report {
    std::string title, notes;
    std::string logo{};      ///< a picture's bytes; empty: none
    std::string logo_type{}; ///< "image/png", "image/svg+xml" or "image/jpeg"
    std::string date{};      ///< as it stands under the title
    std::vector<ReportPart> parts;
};

/// A complete HTML file: drawing with dimensions, parameters, materials with their curves, winding, field at
/// the rating, answers with plots as vectors. Fails when a variant cannot be built.
Result<std::string> report_html(const Report& report, const Project& project);

/// The HTML as a PDF on A4, by WeasyPrint. Fails with a sentence where that is not installed.
std::optional<Problem> write_pdf(const std::string& html, const std::string& file,
                                 const std::stop_token& stop = {});

/// A picture file as a report's logo; fails when it cannot be read or is none.
std::optional<Problem> take_logo(Report& report, const std::string& file);

} // namespace mavlo
