#include "test_program.h"

#include <clocale>
#include <cstdio>
#include <cstdlib>
#include <memory>
#ifdef MAVLO_TESTS_WINDOWS
#include "app/call_watch.h"
#endif

namespace mavlo {

std::vector<RegisteredTest>& registered_tests() {
    static std::vector<RegisteredTest> tests;
    return tests;
}

namespace {

std::unique_ptr<QCoreApplication> application(Around around, int& argc, char** argv) {
    if (around == Around::EventLoop) return std::make_unique<QCoreApplication>(argc, argv);
#ifdef MAVLO_TESTS_WINDOWS
    if (around == Around::Windows) {
        auto windows = std::make_unique<app::WatchedApplication>(argc, argv);
        QTEST_SET_MAIN_SOURCE_PATH
        return windows;
    }
#endif
    return nullptr;
}

int list_tests() {
    std::fputs("The name of a test is wanted; there are:", stderr);
    for (const RegisteredTest& test : registered_tests()) std::fprintf(stderr, " %s", test.name.c_str());
    std::fputs("\n", stderr);
    return 2;
}

} // namespace
} // namespace mavlo

int main(int argc, char** argv) {
    // As the desktop has it, also where no application takes it over.
    std::setlocale(LC_ALL, "");
    if (std::getenv("MAVLO_COMMA_LOCALE") && *std::localeconv()->decimal_point != ',') {
        // A machine of our own has the locale; another says what is missing and goes without.
        std::fputs("SKIP: no locale with commas could be made here (Debian's package locales)\n", stderr);
        return std::getenv("CI") ? 1 : 0;
    }
    const std::string name = argc > 1 ? argv[1] : "";
    for (const auto& test : mavlo::registered_tests()) {
        if (test.name != name) continue;
        std::vector<char*> rest{argv[0]};
        rest.insert(rest.end(), argv + 2, argv + argc);
        int count = int(rest.size());
        rest.push_back(nullptr);
        const auto around = mavlo::application(test.around, count, rest.data());
        return test.run(count, rest.data());
    }
    return mavlo::list_tests();
}
