#include "shell/file_to_write.h"

#include "shell/one_question.h"

#include <QFileDialog>
#include <QFileInfo>

namespace mavlo::app {

QString with_suffix(QWidget* parent, const QString& given, const QString& suffixes) {
    const QStringList list = suffixes.split(' ');
    if (given.isEmpty() || list.contains(QFileInfo(given).suffix().toLower())) return given;
    QString whole = given + '.' + list.first();
    if (!QFileInfo::exists(whole)) return whole;
    // The dialog has asked about the name as it was typed, not about this one.
    const auto choice = one_question(
        parent, QObject::tr("There already"),
        QObject::tr("%1 is there already.").arg(QFileInfo(whole).fileName()),
        {{QMessageBox::Yes, QObject::tr("Write over it"), QObject::tr("what it holds now is lost")},
         {QMessageBox::Cancel, QObject::tr("Leave it"), QObject::tr("nothing is written")}});
    return choice == QMessageBox::Yes ? whole : QString();
}

QString file_to_write(QWidget* parent, const QString& title, const QString& name, const QString& suffixes) {
    QStringList patterns;
    for (const QString& suffix : suffixes.split(' ')) patterns << QStringLiteral("*.") + suffix;
    const QString first = suffixes.section(' ', 0, 0);
    const QString proposed = name.isEmpty() ? QString() : name + '.' + first;
    return with_suffix(
        parent,
        QFileDialog::getSaveFileName(parent, title, proposed,
                                     QObject::tr("%1 files (%2)").arg(first.toUpper(), patterns.join(' '))),
        suffixes);
}

} // namespace mavlo::app
