#include "circuit/bench_tests.h"

#include "quantity/search.h"

#include <algorithm>
#include <cmath>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

/// What the tests say of the other elements where X1 is known.
InductionElements with_leakage(const BenchTest& no_load, const BenchTest& locked, double r1, double x1) {
    InductionElements e;
    e.frequency = no_load.frequency;
    e.r1 = r1;
    e.x1 = x1;
    const Complex main = 1.0 / (no_load.impedance() - Complex(r1, x1));
    e.xm = -1 / main.imag();
    e.rfe = main.real() > 0 ? 1 / main.real() : 0;
    const double share = locked.frequency / no_load.frequency;
    const Complex across = locked.impedance() - Complex(r1, share * x1),
                  beside(std::max(main.real(), 0.0), main.imag() / share),
                  rotor = 1.0 / (1.0 / across - beside);
    e.r2 = rotor.real();
    e.x2 = rotor.imag() / share;
    return e;
}

} // namespace

Complex BenchTest::impedance() const {
    const double cosine = std::clamp(power / (3 * voltage * current), -1.0, 1.0);
    return std::polar(voltage / current, std::acos(cosine));
}

Result<InductionElements> identified(const BenchTest& no_load, const BenchTest& locked, double r1,
                                     double split) {
    const double most = locked.impedance().imag() * no_load.frequency / locked.frequency;
    const auto apart = [&](double x1) { return x1 - split * with_leakage(no_load, locked, r1, x1).x2; };
    const auto x1 = rising_root(apart, 0, 0.999999 * most);
    if (!x1)
        return Problem{"circuit", "The two tests give no leakage that is parted so; look at the split, and at "
                                  "whether the locked rotor's impedance is the smaller one."};
    const InductionElements e = with_leakage(no_load, locked, r1, *x1);
    if (!(e.r2 > 0 && e.xm > 0))
        return Problem{"circuit", "The two tests give no positive rotor resistance and main reactance."};
    return e;
}

} // namespace mavlo
