#pragma once
// HDF5's objects, closed when they go, and data sets with their unit.

#include <hdf5.h>
#include <vector>

namespace mavlo::hdf5 {

/// Closes an HDF5 object when it goes.
template <herr_t (*close)(hid_t)>
struct Handle {
    hid_t id;
    explicit Handle(hid_t from)
        : id(from) {}
    ~Handle() {
        if (id >= 0) close(id);
    }
    Handle(const Handle&) = delete;
    Handle& operator=(const Handle&) = delete;
};
using File = Handle<H5Fclose>;
using Space = Handle<H5Sclose>;
using Data = Handle<H5Dclose>;
using Attribute = Handle<H5Aclose>;
using Type = Handle<H5Tclose>;

/// Failures are told in our own words, not on standard error.
inline void be_quiet() {
    H5Eset_auto2(H5E_DEFAULT, nullptr, nullptr);
}

/// A data set of doubles of this size, its unit as the attribute "unit"; groups in its name are made. False
/// where it cannot be written.
bool write_set(hid_t file, const char* name, const char* unit, const std::vector<hsize_t>& size,
               const double* values);
/// Its finite numbers as a grid of so many dimensions with its sizes; empty where there is no such set, or none
/// of numbers. What a link leads to in another file, or what another file holds, is not read; nor is more than
/// the file itself has room for.
struct Grid {
    std::vector<hsize_t> size;
    std::vector<double> values;
};
Grid read_grid(hid_t file, const char* name);
/// Texts as a data set, without a unit.
bool write_texts(hid_t file, const char* name, const std::vector<const char*>& texts);

} // namespace mavlo::hdf5
