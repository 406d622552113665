#include "field/transform.h"

#include <fftw3.h>
#include <mutex>

namespace mavlo {
namespace {

using Complex = std::complex<double>;

std::mutex& planner() { // FFTW's planner is not safe for threads; its execution is
    static std::mutex mutex;
    return mutex;
}

struct Plan {
    fftw_plan plan;
    ~Plan() {
        const std::lock_guard lock(planner());
        fftw_destroy_plan(plan);
    }
};

} // namespace

std::vector<Complex> forward_transform(std::vector<double> samples) {
    const int n = int(samples.size());
    std::vector<Complex> out(std::size_t(n / 2 + 1));
    Plan plan{};
    {
        const std::lock_guard lock(planner());
        plan.plan =
            fftw_plan_dft_r2c_1d(n, samples.data(), reinterpret_cast<fftw_complex*>(out.data()), FFTW_ESTIMATE);
    }
    fftw_execute(plan.plan);
    return out;
}

std::vector<double> inverse_transform(std::vector<Complex> spectrum, int n) {
    std::vector<double> out(std::size_t(n), 0.0);
    Plan plan{};
    {
        const std::lock_guard lock(planner());
        plan.plan = fftw_plan_dft_c2r_1d(n, reinterpret_cast<fftw_complex*>(spectrum.data()), out.data(),
                                         FFTW_ESTIMATE);
    }
    fftw_execute(plan.plan);
    return out;
}

} // namespace mavlo
