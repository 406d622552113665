#include "quantity/latin_hypercube.h"

#include <numeric>
#include <random>

namespace mavlo {

std::vector<std::vector<double>> latin_hypercube(std::size_t dimensions, int count, unsigned seed) {
    std::mt19937 random(seed);
    const auto unit = [&] { return double(random()) / 4294967296.0; };
    std::vector<std::vector<double>> rows(static_cast<std::size_t>(count), std::vector<double>(dimensions));
    std::vector<int> order(static_cast<std::size_t>(count));
    for (std::size_t d = 0; d < dimensions; ++d) {
        std::iota(order.begin(), order.end(), 0);
        for (int k = count - 1; k > 0; --k)
            std::swap(order[std::size_t(k)], order[std::size_t(int(unit() * (k + 1)))]);
        for (int k = 0; k < count; ++k) rows[std::size_t(k)][d] = (order[std::size_t(k)] + unit()) / count;
    }
    return rows;
}

} // namespace mavlo
