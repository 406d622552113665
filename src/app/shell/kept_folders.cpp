#include "shell/kept_folders.h"

#include <QStandardPaths>
#include <QUuid>

namespace mavlo::app {
namespace {

std::filesystem::path own_folder() {
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation);
    return std::filesystem::path(folder.toStdString()) / "mavlo";
}

} // namespace

std::filesystem::path journal_folder() {
    return own_folder() / "journal";
}

std::filesystem::path scratch_folder() {
    return own_folder() / "unsaved" / QUuid::createUuid().toString(QUuid::WithoutBraces).toStdString();
}

} // namespace mavlo::app
