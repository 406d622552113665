#include "question/run_record.h"

#include "map/hdf5_apart.h"
#include "map/hdf5_set.h"
#include "storage/file.h"

#include <fmt/format.h>

namespace mavlo {
namespace {

constexpr std::chrono::seconds kept_every{2};

/// Numbers of all entries of a file, one data set after the other.
struct Columns {
    std::vector<double> angle, current, per_time, torque, linkage, coenergy, energy, functional, potential,
        inductance, after;
};

/// What is most of an entry: its potentials.
double bytes_of(const FieldSolution& field) {
    return double(sizeof(double) * field.potential.size());
}

} // namespace

RunRecord::RunRecord(const PointStore& store)
    : m_stem(store.stem("run"))
    , m_since(std::chrono::steady_clock::now()) {
    hdf5::be_quiet();
    m_replays = !m_stem.empty();
}

RunRecord::~RunRecord() {
    write();
}

std::filesystem::path RunRecord::file(int number) const {
    std::filesystem::path path = m_stem;
    path += fmt::format("-{:04}.h5", number);
    return path;
}

/// The next file's entries; false where there is none, or one that does not hold together.
bool RunRecord::load() {
    if (!is_kept(file(m_files + 1))) return false;
    auto sets = hdf5::read_apart(file(m_files + 1),
                                 {"angle", "current", "per_time", "torque", "flux_linkage", "coenergy",
                                  "energy", "functional", "potential", "inductance", "inductance_after"});
    const auto set = [&](const char* name) { return std::move(sets[name].values); };
    const Columns c{set("angle"),        set("current"),    set("per_time"),        set("torque"),
                    set("flux_linkage"), set("coenergy"),   set("energy"),          set("functional"),
                    set("potential"),    set("inductance"), set("inductance_after")};
    const std::size_t n = c.angle.size();
    if (n == 0 || c.current.size() % n || c.potential.size() % n || c.potential.empty() || c.current.empty())
        return false;
    const std::size_t ports = c.current.size() / n, unknowns = c.potential.size() / n, square = ports * ports;
    if (m_ports > 0 && (ports != m_ports || unknowns != m_unknowns)) return false; // of another model
    for (const auto* column : {&c.per_time, &c.torque, &c.coenergy, &c.energy, &c.functional})
        if (column->size() != n) return false;
    if (c.linkage.size() != c.current.size() || c.inductance.size() != square * c.after.size()) return false;
    const auto part = [](const std::vector<double>& all, std::size_t k, std::size_t each) {
        const auto begin = all.begin() + std::ptrdiff_t(k * each);
        return std::vector<double>(begin, begin + std::ptrdiff_t(each));
    };
    m_entries.clear();
    std::size_t inductances = 0;
    for (std::size_t k = 0; k <= n; ++k) {
        for (; inductances < c.after.size() && c.after[inductances] <= double(k); ++inductances) {
            Entry entry;
            for (std::size_t row = 0; row < ports; ++row)
                entry.inductance.push_back(part(c.inductance, inductances * ports + row, ports));
            m_entries.push_back(std::move(entry));
        }
        if (k == n) break;
        Entry entry{{c.angle[k], part(c.current, k, ports), c.per_time[k]}, {}, {}};
        entry.field.angle = c.angle[k];
        entry.field.current = entry.query.current;
        entry.field.potential = part(c.potential, k, unknowns);
        entry.field.torque = c.torque[k];
        entry.field.flux_linkage = part(c.linkage, k, ports);
        entry.field.coenergy = c.coenergy[k];
        entry.field.energy = c.energy[k];
        entry.field.functional = c.functional[k];
        m_entries.push_back(std::move(entry));
    }
    for (const Entry& entry : m_entries) m_bytes += bytes_of(entry.field);
    m_next = 0;
    ++m_files;
    return true;
}

/// The entry that comes next on the record; null at its end.
RunRecord::Entry* RunRecord::ahead() {
    if (!m_replays) return nullptr;
    if (m_next == m_entries.size() && !load()) {
        diverge();
        return nullptr;
    }
    return &m_entries[m_next];
}

/// From here on the run makes its own entries: those of the file in hand that were not given back, and all
/// files after it, are void.
void RunRecord::diverge() {
    m_replays = false;
    std::error_code error;
    for (int later = m_files + 1; std::filesystem::remove(file(later), error); ++later) {
    }
    if (m_next == m_entries.size()) {
        m_entries.clear();
    } else { // the file in hand is written again with what of it holds
        m_entries.resize(m_next);
        --m_files;
    }
    m_next = 0;
    m_bytes_here = 0;
    for (const Entry& entry : m_entries) m_bytes_here += bytes_of(entry.field);
    m_since = std::chrono::steady_clock::now();
}

std::optional<FieldSolution> RunRecord::next_field(const FieldQuery& query) {
    Entry* entry = ahead();
    if (!entry) return std::nullopt;
    if (!entry->inductance.empty() || !(entry->query == query)) {
        diverge();
        return std::nullopt;
    }
    ++m_next;
    return entry->field;
}

std::optional<std::vector<PortValues>> RunRecord::next_inductance() {
    Entry* entry = ahead();
    if (!entry) return std::nullopt;
    if (entry->inductance.empty()) {
        diverge();
        return std::nullopt;
    }
    ++m_next;
    return entry->inductance;
}

void RunRecord::add(const FieldQuery& query, const FieldSolution& field) {
    push({query, field, {}});
}

void RunRecord::add(const std::vector<PortValues>& inductance) {
    push({{}, {}, inductance});
}

void RunRecord::expect(std::size_t unknowns, std::size_t ports) {
    m_unknowns = unknowns;
    m_ports = ports;
}

void RunRecord::push(Entry entry) {
    const double bytes = bytes_of(entry.field);
    if (m_stem.empty() || m_bytes + bytes > most_bytes) return;
    m_bytes += bytes;
    m_bytes_here += bytes;
    m_entries.push_back(std::move(entry));
    if (m_bytes_here > most_bytes_of_a_file || std::chrono::steady_clock::now() - m_since > kept_every) write();
}

/// A failure to write (a full disk) loses these entries, and with them all that follow.
void RunRecord::write() {
    if (m_replays || m_stem.empty() || m_entries.empty()) return;
    Columns c;
    const auto append = [](std::vector<double>& to, const std::vector<double>& more) {
        to.insert(to.end(), more.begin(), more.end());
    };
    for (const Entry& entry : m_entries) {
        if (!entry.inductance.empty()) {
            for (const PortValues& row : entry.inductance) append(c.inductance, row);
            c.after.push_back(double(c.angle.size()));
            continue;
        }
        c.angle.push_back(entry.query.angle);
        append(c.current, entry.query.current);
        c.per_time.push_back(entry.query.per_time);
        c.torque.push_back(entry.field.torque);
        append(c.linkage, entry.field.flux_linkage);
        c.coenergy.push_back(entry.field.coenergy);
        c.energy.push_back(entry.field.energy);
        c.functional.push_back(entry.field.functional);
        append(c.potential, entry.field.potential);
    }
    const hsize_t n = c.angle.size();
    if (n == 0) return; // they wait for a field
    const hsize_t ports = c.current.size() / n;
    std::error_code error;
    std::filesystem::create_directories(m_stem.parent_path(), error);
    auto aside = FileAside::beside_kept(file(m_files + 1));
    bool good = bool(aside);
    if (aside) {
        const hdf5::File to(H5Fcreate(aside->path().c_str(), H5F_ACC_TRUNC, H5P_DEFAULT, H5P_DEFAULT));
        const auto set = [&](const char* name, const char* unit, const std::vector<hsize_t>& size,
                             const std::vector<double>& values) {
            return hdf5::write_set(to.id, name, unit, size, values.data());
        };
        good = to.id >= 0 && set("angle", "rad", {n}, c.angle) && set("current", "A", {n, ports}, c.current) &&
               set("per_time", "1/s", {n}, c.per_time) && set("torque", "N.m", {n}, c.torque) &&
               set("flux_linkage", "Wb", {n, ports}, c.linkage) && set("coenergy", "J", {n}, c.coenergy) &&
               set("energy", "J", {n}, c.energy) && set("functional", "J/m", {n}, c.functional) &&
               set("potential", "Wb/m", {n, c.potential.size() / n}, c.potential) &&
               (c.after.empty() || (set("inductance", "H", {c.after.size(), ports, ports}, c.inductance) &&
                                    set("inductance_after", "1", {c.after.size()}, c.after)));
    }
    if (!good || aside->put_in_place()) {
        m_stem.clear();
        return;
    }
    ++m_files;
    m_entries.clear();
    m_bytes_here = 0;
    m_since = std::chrono::steady_clock::now();
}

PointStore run_store(const QuestionContext& c) {
    return c.points.of("a run with " + c.inputs.canonical_text());
}

std::vector<std::filesystem::path> RunRecord::finish() {
    write();
    std::vector<std::filesystem::path> files;
    for (int number = 1; !m_stem.empty() && is_kept(file(number)); ++number) files.push_back(file(number));
    m_stem.clear();
    return files;
}

} // namespace mavlo
