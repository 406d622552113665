#include "report/report.h"
#include "storage/file.h"
#include "study/process.h"

#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr double print_patience = 300; // s
constexpr int no_printer = 77;         ///< how the script below ends where WeasyPrint is missing

/// Nothing is fetched for the page but what it holds itself: a logo could name addresses and files.
constexpr const char* printer = R"(
import sys
try:
    import weasyprint
except ImportError:
    sys.exit(77)
def held(url, *others, **more):
    if url.startswith('data:'):
        return weasyprint.default_url_fetcher(url)
    raise ValueError('not fetched')
weasyprint.HTML(string=sys.stdin.buffer.read().decode('utf-8', 'replace'), url_fetcher=held).write_pdf(sys.argv[1])
)";

std::string last_line(std::string text) {
    while (!text.empty() && text.back() == '\n') text.pop_back();
    return text.substr(text.rfind('\n') + 1);
}

} // namespace

std::optional<Problem> write_pdf(const std::string& html, const std::string& file,
                                 const std::stop_token& stop) {
    auto aside = FileAside::beside_named(file);
    if (!aside) return aside.problems().front();
    const auto printed = run_program({"/usr/bin/python3", "-I", "-c", printer, aside->path().string()}, html,
                                     {print_patience, stop});
    if (!printed && printed.problems().front().path.empty()) return printed.problems().front();
    if (!printed) return Problem{file, "The PDF could not be written. " + printed.problems().front().sentence};
    if (printed->exit == no_printer)
        return Problem{file,
                       "A PDF is printed by WeasyPrint, which is not installed (Debian's package weasyprint); "
                       "or write an .html and print that."};
    if (printed->exit != 0)
        return Problem{file, fmt::format("The PDF could not be written: {}", last_line(printed->output))};
    return aside->put_in_place();
}

} // namespace mavlo
