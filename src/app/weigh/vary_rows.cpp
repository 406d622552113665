#include "weigh/vary_rows.h"

#include "quantity/quantity.h"
#include "question/words.h"
#include "shell/spoken.h"

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

VaryRows::VaryRows(Document& document, const QString& prefix, const QString& hint, Takes takes, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_prefix(prefix)
    , m_hint(hint)
    , m_takes(takes)
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
        box.addItem(QStringLiteral("%1 · %2").arg(spoken(p->label), QString::fromStdString(place_of(*p))),
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
    box->setAccessibleName(tr("What varies"));
    fill_paths(*box);
    box->setCurrentIndex(path.isEmpty() ? -1 : box->findData(path));
    box->lineEdit()->setPlaceholderText(tr("parameter"));
    box->completer()->setFilterMode(Qt::MatchContains);
    box->completer()->setCompletionMode(QCompleter::PopupCompletion);
    auto* second = new QHBoxLayout;
    auto* edit = new QLineEdit(values, whole);
    edit->setObjectName(m_prefix + QStringLiteral(":values:") + number);
    edit->setPlaceholderText(m_hint);
    edit->setAccessibleName(tr("Its values"));
    auto* remove = new QPushButton(QStringLiteral("×"), whole);
    remove->setProperty("flat", true);
    remove->setFixedWidth(26);
    remove->setToolTip(tr("Leave this one out"));
    second->addWidget(edit, 1);
    second->addWidget(remove);
    line->addWidget(box);
    line->addLayout(second);
    auto* strip = new RangeStrip(whole);
    strip->setObjectName(m_prefix + QStringLiteral(":range:") + number);
    line->addWidget(strip);
    m_column->insertWidget(int(m_rows.size()), whole);
    const Row own{whole, box, edit, strip};
    m_rows.push_back(own);
    show_range(own);
    connect(box, &QComboBox::currentIndexChanged, this, [this, own] {
        begin(own);
        show_range(own);
    });
    connect(box, &QComboBox::currentTextChanged, this, &VaryRows::changed);
    connect(strip, &RangeStrip::range_dragged, this,
            [this, own](double from, double to, int count) { write_range(own, from, to, count); });
    connect(box->lineEdit(), &QLineEdit::editingFinished, this, [box] {
        // A path that was typed gets its words.
        if (const int at = box->findData(box->currentText().trimmed()); at >= 0) box->setCurrentIndex(at);
    });
    connect(edit, &QLineEdit::textChanged, this, [this, own] {
        show_range(own);
        Q_EMIT changed();
    });
    connect(remove, &QPushButton::clicked, this, [this, whole] {
        const auto row =
            std::find_if(m_rows.begin(), m_rows.end(), [&](const Row& r) { return r.whole == whole; });
        row->whole->deleteLater();
        m_rows.erase(row);
        if (m_rows.empty()) add_row();
        Q_EMIT changed();
    });
}

const Parameter* VaryRows::parameter_of(const Row& row) const {
    const Parameter* p = find_parameter(row.path->currentData().toString().toStdString(), m_document.design());
    const auto built = m_document.built();
    return p && !p->is_word() && built && built->machine.values.has(p->path) ? p : nullptr;
}

namespace {

double shown(const Parameter& p, double si) {
    return p.unit.empty() ? si : to_unit(si, *find_unit(p.unit));
}

/// The values a variation takes, in the parameter's unit; empty where one is no plain number.
std::vector<double> values_of(const Parameter& p, const Variation& variation) {
    std::vector<double> list;
    for (const std::string& text : variation.texts) {
        const auto quantity = parse_quantity(text);
        if (!quantity) return {};
        list.push_back(quantity->dimension.plain() && !p.unit.empty() ? quantity->si : shown(p, quantity->si));
    }
    if (variation.texts.empty()) list = {shown(p, variation.low), shown(p, variation.high)};
    return list;
}

} // namespace

/// A dimension that is chosen begins with a range about its present value.
void VaryRows::begin(const Row& row) const {
    if (const Parameter* p = parameter_of(row); p && row.values->text().trimmed().isEmpty())
        row.values->setText(range_about(*p, m_document.value(p->path)));
}

/// As it is typed, on the scale; hidden where it is no range of numbers.
void VaryRows::show_range(const Row& row) const {
    const Parameter* p = parameter_of(row);
    std::vector<double> values;
    if (p)
        if (const auto variation =
                read_variation(p->path + "=" + row.values->text().trimmed().toStdString(), m_document.design()))
            values = values_of(*p, *variation);
    row.strip->setVisible(!values.empty());
    if (values.empty()) return;
    const bool limited = p->low <= p->high;
    constexpr double far = 1e12;
    row.strip->show_range(shown(*p, m_document.value(p->path)), values, limited ? p->low : -far,
                          limited ? p->high : far, p->kind == ParameterKind::Whole,
                          QString::fromStdString(shown_unit(p->unit)));
}

QString VaryRows::range_text(const Parameter& p, double from, double to, int count) const {
    const QString ends = QStringLiteral("%1:%2").arg(from, 0, 'g', 6).arg(to, 0, 'g', 6);
    const QString many = m_takes == Takes::Values ? QStringLiteral(":%1").arg(count) : QString();
    return QStringLiteral("%1%2 %3").arg(ends, many, QString::fromStdString(p.unit)).trimmed();
}

void VaryRows::write_range(const Row& row, double from, double to, int count) const {
    if (const Parameter* p = parameter_of(row)) row.values->setText(range_text(*p, from, to, count));
}

/// Five values, a fifth to both sides; of whole numbers two less to two more.
QString VaryRows::range_about(const Parameter& p, double si) const {
    const double now = shown(p, si);
    double low = 0.8 * now, high = 1.2 * now;
    if (low > high) std::swap(low, high);
    if (p.kind == ParameterKind::Whole || now == 0)
        low = std::max(now - 2, p.low <= p.high ? p.low : now - 2), high = low + 4;
    if (p.low <= p.high) low = std::clamp(low, p.low, p.high), high = std::clamp(high, p.low, p.high);
    constexpr int values = 5;
    return range_text(p, rounded_to(low, 4), rounded_to(high, 4), values);
}

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
