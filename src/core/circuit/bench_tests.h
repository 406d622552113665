#pragma once
// The circuit's elements as a test bench finds them: from a run without load and one with the rotor locked.

#include "circuit/induction_circuit.h"
#include "quantity/problem.h"

namespace mavlo {

/// Of a phase in star, rms; `power` of all three phases, W, without friction.
struct BenchTest {
    double voltage = 0, frequency = 0, current = 0, power = 0;
    std::complex<double> impedance() const;
};

/// The elements that both tests' impedances give back, with R1 measured by itself and the leakage parted as
/// X1 = split X2 (IEEE Std 112, sec. 5.9, solved without its iterations). Reactances go with the frequency, the
/// iron's resistance stays; they are given at the no-load test's frequency.
Result<InductionElements> identified(const BenchTest& no_load, const BenchTest& locked, double r1,
                                     double split);

} // namespace mavlo
