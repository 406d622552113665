#pragma once
// Runs the terminal program.

#include <QProcess>

namespace mavlo {

struct CliRun {
    int code; ///< -1: it did not end by itself
    QString out, err;
};

inline CliRun run_cli(const QStringList& arguments, const QString& program = QStringLiteral(MAVLO_CLI)) {
    QProcess process;
    process.start(program, arguments);
    process.waitForFinished(120000);
    return {process.exitStatus() == QProcess::NormalExit ? process.exitCode() : -1,
            QString::fromUtf8(process.readAllStandardOutput()),
            QString::fromUtf8(process.readAllStandardError())};
}

} // namespace mavlo
