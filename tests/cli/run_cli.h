#pragma once
// Runs the terminal program.

#include <QProcess>
#include <sys/resource.h>

namespace mavlo {

struct CliRun {
    int code; ///< -1: it did not end by itself, in time
    QString out, err;
};

/// What a run may take.
struct CliLimits {
    int seconds = 120;
    rlim_t memory = 0; ///< bytes of address space; 0: as much as it likes
    QString folder{};  ///< to run in
};

inline CliRun run_cli(const QStringList& arguments, const QString& program = QStringLiteral(MAVLO_CLI),
                      const CliLimits& limits = {}) {
    QProcess process;
    if (limits.memory > 0)
        process.setChildProcessModifier([memory = limits.memory] {
            const ::rlimit limit{memory, memory};
            ::setrlimit(RLIMIT_AS, &limit);
        });
    if (!limits.folder.isEmpty()) process.setWorkingDirectory(limits.folder);
    process.start(program, arguments);
    const bool ended = process.waitForFinished(1000 * limits.seconds);
    if (!ended) {
        process.kill();
        process.waitForFinished();
    }
    return {ended && process.exitStatus() == QProcess::NormalExit ? process.exitCode() : -1,
            QString::fromUtf8(process.readAllStandardOutput()),
            QString::fromUtf8(process.readAllStandardError())};
}

} // namespace mavlo
