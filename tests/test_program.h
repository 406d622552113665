#pragma once
// One program holds the tests of a folder: `tests_field solver` runs one of them, with Qt Test's own options
// after its name. Each file registers itself.

#include <QTest>
#include <functional>
#include <string>
#include <vector>

namespace mavlo {

/// What a test needs around it.
enum class Around { Nothing, EventLoop, Windows };

struct RegisteredTest {
    std::string name; ///< as CTest knows it
    Around around;
    std::function<int(int, char**)> run;
};
std::vector<RegisteredTest>& registered_tests();

template <class Test>
struct RegisterTest {
    RegisterTest(const char* name, Around around) {
        registered_tests().push_back({name, around, [](int argc, char** argv) {
                                          Test test;
                                          return QTest::qExec(&test, argc, argv);
                                      }});
    }
};

} // namespace mavlo

#define MAVLO_TEST(name, Test, around)                                                                         \
    static const mavlo::RegisterTest<Test> registered_##name(#name, mavlo::Around::around);
