#include "weigh/vary_rows.h"

#include "quantity/quantity.h"

#include <QCompleter>
#include <QHBoxLayout>
#include <QPushButton>
#include <algorithm>

namespace mavlo::app {
namespace {

/// Where a parameter stands on the sheet, by which those of one name are told apart.
std::string place_of(const Parameter& p) {
    const std::string page = p.page.empty() ? "machine" : lower_case(p.page);
    return p.group.empty() || p.group == p.page ? page : page + ", " + lower_case(p.group);
}

} // namespace

VaryRows::VaryRows(Document& document, const QString& prefix, const QString& hint, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_prefix(prefix)
    , m_hint(hint)
    , m_column(new QVBoxLayout(this)) {
    m_column->setContentsMargins(0, 0, 0, 0);
    m_column->setSpacing(4);
    auto* add = new QPushButton(tr("+ another"), this);
    add->setObjectName(prefix + QStringLiteral(":add"));
    add->setProperty("flat", true);
    m_column->addWidget(add, 0, Qt::AlignLeft);
    connect(add, &QPushButton::clicked, this, [this] { add_row(); });
    add_row();
}

/// What the design uses, by the words of the sheet, with the path behind.
void VaryRows::fill_paths(QComboBox& box) const {
    for (const Parameter* p : used_parameters(m_document.design()))
        box.addItem(QStringLiteral("%1 · %2").arg(QString::fromStdString(p->label),
                                                  QString::fromStdString(place_of(*p))),
                    QString::fromStdString(p->path));
}

void VaryRows::add_row(const QString& path, const QString& values) {
    const QString number = QString::number(m_rows.size());
    auto* whole = new QWidget(this);
    auto* line = new QVBoxLayout(whole);
    line->setContentsMargins(0, 0, 0, 2);
    line->setSpacing(2);
    auto* box = new QComboBox(whole);
    box->setObjectName(m_prefix + QStringLiteral(":path:") + number);
    box->setEditable(true);
    box->setInsertPolicy(QComboBox::NoInsert);
    box->setMinimumWidth(120);
    fill_paths(*box);
    box->setCurrentIndex(path.isEmpty() ? -1 : box->findData(path));
    box->lineEdit()->setPlaceholderText(tr("parameter"));
    box->completer()->setFilterMode(Qt::MatchContains);
    box->completer()->setCompletionMode(QCompleter::PopupCompletion);
    auto* second = new QHBoxLayout;
    auto* edit = new QLineEdit(values, whole);
    edit->setObjectName(m_prefix + QStringLiteral(":values:") + number);
    edit->setPlaceholderText(m_hint);
    auto* remove = new QPushButton(QStringLiteral("×"), whole);
    remove->setProperty("flat", true);
    remove->setFixedWidth(26);
    remove->setToolTip(tr("Leave this one out"));
    second->addWidget(edit, 1);
    second->addWidget(remove);
    line->addWidget(box);
    line->addLayout(second);
    m_column->insertWidget(int(m_rows.size()), whole);
    m_rows.push_back({whole, box, edit});
    connect(box, &QComboBox::currentTextChanged, this, [this, box, edit] {
        suggest({nullptr, box, edit});
        Q_EMIT changed();
    });
    connect(box->lineEdit(), &QLineEdit::editingFinished, this, [box] {
        // A path that was typed gets its words.
        if (const int own = box->findData(box->currentText().trimmed()); own >= 0) box->setCurrentIndex(own);
    });
    connect(edit, &QLineEdit::textChanged, this, &VaryRows::changed);
    connect(remove, &QPushButton::clicked, this, [this, whole] {
        const auto row =
            std::find_if(m_rows.begin(), m_rows.end(), [&](const Row& r) { return r.whole == whole; });
        row->whole->deleteLater();
        m_rows.erase(row);
        if (m_rows.empty()) add_row();
        Q_EMIT changed();
    });
}

/// The present value, so that one sees where one is.
void VaryRows::suggest(const Row& row) const {
    const QString path = row.path->currentData().toString();
    const Parameter* p = find_parameter(path.toStdString());
    const auto built = m_document.built();
    if (!p || !built || p->is_word() || !built->machine.values.has(p->path)) return;
    row.values->setPlaceholderText(
        tr("%1 · now %2")
            .arg(m_hint, QString::fromStdString(text_for(*p, built->machine.values.number(p->path), 5))));
}

namespace {

/// Five values "FROM:TO:5 UNIT", of whole numbers two less to two more.
QString range_about(const Parameter& p, double si) {
    const double now = p.unit.empty() ? si : to_unit(si, *find_unit(p.unit));
    double low = 0.8 * now, high = 1.2 * now;
    if (p.kind == ParameterKind::Whole || now == 0)
        low = std::max(now - 2, p.low <= p.high ? p.low : now - 2), high = low + 4;
    if (p.low <= p.high) low = std::clamp(low, p.low, p.high), high = std::clamp(high, p.low, p.high);
    return QStringLiteral("%1:%2:5 %3")
        .arg(low, 0, 'g', 4)
        .arg(high, 0, 'g', 4)
        .arg(QString::fromStdString(p.unit))
        .trimmed();
}

} // namespace

void VaryRows::vary(const std::string& path) {
    const QString wanted = QString::fromStdString(path);
    const Parameter* p = find_parameter(path, m_document.design());
    const auto varies = [&](const Row& row) { return row.path->currentData().toString() == wanted; };
    if (!p || p->is_word() || std::any_of(m_rows.begin(), m_rows.end(), varies)) return;
    const auto empty = [](const Row& row) {
        return row.path->currentText().trimmed().isEmpty() && row.values->text().trimmed().isEmpty();
    };
    auto row = std::find_if(m_rows.begin(), m_rows.end(), empty);
    if (row == m_rows.end()) {
        add_row();
        row = m_rows.end() - 1;
    }
    if (row->path->findData(wanted) < 0) { // made for another design
        row->path->clear();
        fill_paths(*row->path);
    }
    row->path->setCurrentIndex(row->path->findData(wanted));
    row->values->setText(range_about(*p, m_document.value(path)));
}

std::vector<std::string> VaryRows::texts() const {
    std::vector<std::string> list;
    for (const Row& row : m_rows) {
        QString path = row.path->currentData().toString();
        // What was typed may be a path itself.
        if (row.path->currentText() != row.path->itemText(row.path->currentIndex()))
            path = row.path->currentText();
        if (!path.trimmed().isEmpty() && !row.values->text().trimmed().isEmpty())
            list.push_back((path.trimmed() + '=' + row.values->text().trimmed()).toStdString());
    }
    return list;
}

Result<std::vector<Variation>> VaryRows::variations() const {
    std::vector<Variation> list;
    for (const std::string& text : texts()) {
        auto variation = read_variation(text, m_document.design());
        if (!variation) return variation.problems();
        list.push_back(std::move(*variation));
    }
    return list;
}

} // namespace mavlo::app
