#pragma once
// A folder for one hostile file after another, and the terminal program on a short leash.

#include "cli/run_cli.h"
#include "project/project.h"
#include "support.h"

#include <QDir>
#include <QFile>
#include <QTemporaryDir>

namespace mavlo {

class Leash {
  public:
    QString path(const QString& name) const { return m_folder.filePath(name); }
    QString folder() const { return m_folder.path(); }
    QString put(const QString& name, const QByteArray& content) const {
        QFile f(path(name));
        if (!f.open(QIODevice::WriteOnly) || f.write(content) != content.size()) qFatal("cannot write");
        return path(name);
    }
    QByteArray content(const QString& name) const {
        QFile f(path(name));
        return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
    }
    /// With 2 GB and half a minute.
    CliRun run(const QStringList& arguments) const {
        return run_cli(arguments, QStringLiteral(MAVLO_CLI), {30 * patience(), rlim_t(2) << 30, folder()});
    }
    /// A project made by the program itself.
    QString project(const QString& name = QStringLiteral("p.mavlo"),
                    const QString& shape = QStringLiteral("surface")) const {
        if (run({"new", shape, "-o", path(name)}).code != 0) qFatal("no project");
        return path(name);
    }

  private:
    /// Instrumented programs are slower, on every machine.
    static int patience() {
#ifdef __SANITIZE_ADDRESS__
        return 10;
#else
        return 2;
#endif
    }
    QTemporaryDir m_folder;
};

/// It ended with a sentence: wrong input, or what could not be finished; not by a signal, and not silently.
inline bool refused(const CliRun& run) {
    const bool said = run.code == 1 || run.code == 3;
    if (!said)
        qWarning("code %d: %s%s", run.code, qPrintable(run.out.left(400)), qPrintable(run.err.left(400)));
    return said && !(run.err + run.out).trimmed().isEmpty();
}

inline bool says(const CliRun& run, const char* words) {
    const bool found = (run.err + run.out).contains(QString::fromUtf8(words));
    if (!found) qWarning("it says: %s", qPrintable((run.err + run.out).left(400)));
    return found;
}

} // namespace mavlo
