#include "sheet/table_source.h"

#include <QApplication>
#include <QClipboard>
#include <QFile>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QStringDecoder>

namespace mavlo::app {
namespace {

constexpr qint64 largest_file = 20 << 20;

QString text_of_file(const QString& name, QString& wrong) {
    QFile file(name);
    if (!file.open(QIODevice::ReadOnly)) {
        wrong = TableSource::tr("%1 cannot be opened: %2.").arg(name, file.errorString());
        return {};
    }
    if (file.size() > largest_file) {
        wrong = TableSource::tr("%1 is larger than 20 MB: no such table.").arg(name);
        return {};
    }
    const QByteArray bytes = file.readAll();
    if (bytes.startsWith("\xff\xfe") || bytes.startsWith("\xfe\xff")) {
        QStringDecoder decode(QStringDecoder::Utf16);
        return decode(bytes);
    }
    return QString::fromUtf8(bytes);
}

} // namespace

QString open_table(QWidget* parent, const QString& title, QString& wrong, const QString& filter) {
    const QString file = QFileDialog::getOpenFileName(parent, title, {}, filter);
    return file.isEmpty() ? QString() : text_of_file(file, wrong);
}

TableSource::TableSource(const QString& paste, const QString& open, const QString& name, QWidget* parent)
    : QWidget(parent) {
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    auto* from_clipboard = new QPushButton(paste, this);
    auto* from_file = new QPushButton(open, this);
    from_clipboard->setObjectName(name + QStringLiteral("_paste"));
    from_file->setObjectName(name + QStringLiteral("_open"));
    layout->addWidget(from_clipboard);
    layout->addWidget(from_file);
    layout->addStretch(1);
    connect(from_clipboard, &QPushButton::clicked, this,
            [this] { Q_EMIT given(QApplication::clipboard()->text()); });
    connect(from_file, &QPushButton::clicked, this, [this] {
        QString wrong;
        const QString text = open_table(this, tr("A table of a data sheet"), wrong);
        if (!wrong.isEmpty()) Q_EMIT failed(wrong);
        if (!text.isEmpty()) Q_EMIT given(text);
    });
}

} // namespace mavlo::app
