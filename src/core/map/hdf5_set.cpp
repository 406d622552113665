#include "map/hdf5_set.h"

#include <string>

namespace mavlo::hdf5 {
namespace {

/// Makes the groups that a name goes through.
struct Links {
    hid_t id = H5Pcreate(H5P_LINK_CREATE);
    Links() { H5Pset_create_intermediate_group(id, 1); }
    ~Links() { H5Pclose(id); }
    Links(const Links&) = delete;
    Links& operator=(const Links&) = delete;
};

/// More than that is no file of ours.
constexpr hssize_t most_numbers = 100000000;

} // namespace

bool write_set(hid_t file, const char* name, const char* unit, const std::vector<hsize_t>& size,
               const double* values) {
    const Space space(H5Screate_simple(int(size.size()), size.data(), nullptr));
    const Links links;
    const Data data(H5Dcreate2(file, name, H5T_IEEE_F64LE, space.id, links.id, H5P_DEFAULT, H5P_DEFAULT));
    if (data.id < 0 || H5Dwrite(data.id, H5T_NATIVE_DOUBLE, H5S_ALL, H5S_ALL, H5P_DEFAULT, values) < 0)
        return false;
    const Type text(H5Tcopy(H5T_C_S1));
    H5Tset_size(text.id, std::char_traits<char>::length(unit));
    const Space scalar(H5Screate(H5S_SCALAR));
    const Attribute attribute(H5Acreate2(data.id, "unit", text.id, scalar.id, H5P_DEFAULT, H5P_DEFAULT));
    return attribute.id >= 0 && H5Awrite(attribute.id, text.id, unit) >= 0;
}

std::vector<double> read_set(hid_t file, const char* name) {
    if (H5Lexists(file, name, H5P_DEFAULT) <= 0) return {};
    const Data data(H5Dopen2(file, name, H5P_DEFAULT));
    if (data.id < 0) return {};
    const Space space(H5Dget_space(data.id));
    const auto count = H5Sget_simple_extent_npoints(space.id);
    if (count <= 0 || count > most_numbers) return {};
    std::vector<double> values(static_cast<std::size_t>(count));
    if (H5Dread(data.id, H5T_NATIVE_DOUBLE, H5S_ALL, H5S_ALL, H5P_DEFAULT, values.data()) < 0) return {};
    return values;
}

bool write_texts(hid_t file, const char* name, const std::vector<const char*>& texts) {
    const hsize_t size = texts.size();
    const Space space(H5Screate_simple(1, &size, nullptr));
    const Type text(H5Tcopy(H5T_C_S1));
    H5Tset_size(text.id, H5T_VARIABLE);
    const Links links;
    const Data data(H5Dcreate2(file, name, text.id, space.id, links.id, H5P_DEFAULT, H5P_DEFAULT));
    return data.id >= 0 && H5Dwrite(data.id, text.id, H5S_ALL, H5S_ALL, H5P_DEFAULT, texts.data()) >= 0;
}

} // namespace mavlo::hdf5
