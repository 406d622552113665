#include "map/hdf5_set.h"

#include <algorithm>
#include <cmath>
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

namespace {

/// A set that lies in this very file, whole and plain, so that its size bounds what is read.
bool is_own(hid_t file, hid_t data, const char* name, hsize_t count) {
    H5L_info_t link;
    if (H5Lget_info(file, name, &link, H5P_DEFAULT) < 0 || link.type != H5L_TYPE_HARD) return false;
    const Handle<H5Pclose> made(H5Dget_create_plist(data));
    if (made.id < 0 || H5Pget_external_count(made.id) != 0 || H5Pget_layout(made.id) == H5D_VIRTUAL ||
        H5Pget_nfilters(made.id) != 0)
        return false;
    const Type type(H5Dget_type(data));
    const H5T_class_t kind = H5Tget_class(type.id);
    if (kind != H5T_FLOAT && kind != H5T_INTEGER) return false;
    return H5Dget_storage_size(data) >= count * H5Tget_size(type.id);
}

/// Names with slashes lead through groups, which could be links themselves.
bool leads_through_own_groups(hid_t file, const std::string& name) {
    for (std::size_t slash = name.find('/', 1); slash != std::string::npos; slash = name.find('/', slash + 1)) {
        H5L_info_t link;
        if (H5Lget_info(file, name.substr(0, slash).c_str(), &link, H5P_DEFAULT) < 0 ||
            link.type != H5L_TYPE_HARD)
            return false;
    }
    return true;
}

} // namespace

Grid read_grid(hid_t file, const char* name) {
    if (!leads_through_own_groups(file, name) || H5Lexists(file, name, H5P_DEFAULT) <= 0) return {};
    const Data data(H5Dopen2(file, name, H5P_DEFAULT));
    if (data.id < 0) return {};
    const Space space(H5Dget_space(data.id));
    const auto count = H5Sget_simple_extent_npoints(space.id);
    const int dimensions = H5Sget_simple_extent_ndims(space.id);
    if (count <= 0 || count > most_numbers || dimensions < 1 || dimensions > 4) return {};
    if (!is_own(file, data.id, name, hsize_t(count))) return {};
    Grid grid;
    grid.size.resize(std::size_t(dimensions));
    H5Sget_simple_extent_dims(space.id, grid.size.data(), nullptr);
    grid.values.resize(static_cast<std::size_t>(count));
    const bool read =
        H5Dread(data.id, H5T_NATIVE_DOUBLE, H5S_ALL, H5S_ALL, H5P_DEFAULT, grid.values.data()) >= 0;
    if (!read ||
        !std::all_of(grid.values.begin(), grid.values.end(), [](double v) { return std::isfinite(v); }))
        return {};
    return grid;
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
