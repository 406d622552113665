#pragma once
// The fields of a run in time, kept in files as they are solved.

#include "field/recorded_solver.h"
#include "question/question.h"

#include <chrono>
#include <filesystem>
#include <vector>

namespace mavlo {

/// HDF5 files of some seconds' fields each, "run-HASH-0001.h5" and so on in the store's folder, written whole
/// or not at all: a killed run goes on from the last. In each, a row for each field: /angle, /current,
/// /per_time, /torque, /flux_linkage, /coenergy, /energy, /functional and /potential; and /inductance, each
/// after so many fields as /inductance_after says. What goes on for very long is kept as far as `most_bytes`.
class RunRecord : public FieldRecord {
  public:
    /// Of the subject that the store is of; nothing is kept where the store keeps nothing.
    explicit RunRecord(const PointStore& store);
    ~RunRecord() override; ///< keeps what it has
    RunRecord(const RunRecord&) = delete;
    RunRecord& operator=(const RunRecord&) = delete;

    std::optional<FieldSolution> next_field(const FieldQuery& query) override;
    std::optional<std::vector<PortValues>> next_inductance() override;
    void add(const FieldQuery& query, const FieldSolution& field) override;
    void add(const std::vector<PortValues>& inductance) override;
    void expect(std::size_t unknowns, std::size_t ports) override;

    /// The run has ended: its files, which go once the answer that says all is kept.
    std::vector<std::filesystem::path> finish();

  private:
    static constexpr double most_bytes = 2e9, most_bytes_of_a_file = 4e7;

    struct Entry {
        FieldQuery query;
        FieldSolution field;
        std::vector<PortValues> inductance; ///< where it is one, and no field
    };
    std::filesystem::path file(int number) const;
    bool load();
    Entry* ahead();
    void diverge();
    void push(Entry entry);
    void write();

    std::filesystem::path m_stem; ///< empty: keeps nothing
    std::vector<Entry> m_entries; ///< being given back, or gathered for the next file
    std::size_t m_next = 0;       ///< of those given back
    int m_files = 0;              ///< read or written so far
    bool m_replays = true;
    std::size_t m_unknowns = 0, m_ports = 0; ///< of the model; 0: not told
    double m_bytes = 0, m_bytes_here = 0;
    std::chrono::steady_clock::time_point m_since;
};

/// Where the fields of this very run are kept.
PointStore run_store(const QuestionContext& context);

} // namespace mavlo
