#pragma once
// A study spread over a cluster: a job array of Slurm, one job a shard, all writing into one answers folder.

#include "study/study.h"

#include <filesystem>
#include <string>
#include <vector>

namespace mavlo {

/// A study as the terminal is asked for it.
struct StudyCall {
    std::string program, file, variant, quality = "normal"; ///< file names from the root
    std::vector<std::string> settings{}, vary{}, ask{};
    int samples = 0;
    unsigned seed = 1;
    bool paired = false, latin = false;
};
std::vector<std::string> words_of(const StudyCall& call);

struct SlurmJob {
    std::vector<std::string> command; ///< one shard's; "--shard I/N" is put behind it
    int shards = 1, threads = 1;
    std::vector<std::string> options{}; ///< further lines for sbatch, such as "--partition=main"
    std::filesystem::path folder;       ///< of the answers: script, logs and the job's number stand in it
    std::string subject;                ///< what the study is, so that it is found again
};

/// The script of the job array. A job whose node dies is queued again and takes the answers that are kept.
std::string slurm_script(const SlurmJob& job);

/// Submits it, or finds the array that was submitted for the same subject and is not over yet. Its number.
Result<std::string> submit(const SlurmJob& job, const std::stop_token& stop = {});

struct SlurmState {
    int waiting = 0, running = 0;
    bool over() const { return waiting + running == 0; }
};
/// How far an array is; fails where Slurm cannot be asked.
Result<SlurmState> slurm_state(const std::string& number, const std::stop_token& stop = {});

/// Answers of a study that are on the shelf.
int count_kept(const Study& study, const AnswerShelf& shelf);

/// Told about once a second while an array runs.
using ClusterProgress = std::function<void(const SlurmState& state, int answers)>;

/// Waits until an array is over; stopped, it goes on without.
Problems follow_array(const std::string& number, const Study& study, const AnswerShelf& shelf,
                      const std::stop_token& stop, const ClusterProgress& progress);

} // namespace mavlo
