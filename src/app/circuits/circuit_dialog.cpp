#include "circuits/circuit_dialog.h"

#include "circuit/netlist.h"
#include "shell/file_to_write.h"
#include "shell/theme.h"
#include "shell/told_problem.h"
#include "storage/file.h"

#include <QFile>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QPushButton>
#include <QTextBlock>
#include <cstdlib>
#include <fmt/format.h>

namespace mavlo::app {
namespace {

/// To begin with: a bridge of one phase on a battery, switched by the rotor's angle.
constexpr const char* example = "* a switch by the rotor's angle\n"
                                "Vdc plus 0 48\n"
                                "Vgate gate 0 angle(0 1 30 150)\n"
                                "S1 plus u gate 0 fast\n"
                                "D1 0 u\n"
                                "XU u star phase_u\n"
                                "XV star v phase_v\n"
                                "XW star w phase_w\n"
                                "RV v 0 10m\n"
                                "RW w 0 10m\n"
                                ".model fast sw(vt=0.5 ron=1m)\n";

constexpr int rest = 350; // ms

/// The line that a sentence of the reader names ("Line 4: …"); 0: none.
int line_in(const std::string& sentence) {
    for (const char* word : {"Line ", "line "})
        if (const auto at = sentence.find(word); at != std::string::npos)
            return std::atoi(sentence.c_str() + at + 5);
    return 0;
}

} // namespace

CircuitDialog::CircuitDialog(Document& document, QWidget* parent)
    : QDialog(parent)
    , m_document(document)
    , m_names(new QListWidget(this))
    , m_name(new QLineEdit(this))
    , m_list(new QPlainTextEdit(this))
    , m_schematic(new NetworkSchematic(this))
    , m_says(new QLabel(this)) {
    setObjectName(QStringLiteral("circuits"));
    setWindowTitle(tr("Own circuits"));
    resize(1120, 640);
    auto* layout = new QHBoxLayout(this);
    layout->setSpacing(16);
    layout->addWidget(make_names());
    layout->addWidget(make_list(), 4);
    layout->addWidget(m_schematic, 6);
    m_soon.setSingleShot(true);
    m_soon.setInterval(rest);
    connect(&m_soon, &QTimer::timeout, this, &CircuitDialog::keep);
    connect(m_list, &QPlainTextEdit::textChanged, this, [this] {
        read();
        m_soon.start();
    });
    connect(m_list, &QPlainTextEdit::cursorPositionChanged, this,
            [this] { m_schematic->set_line(m_list->textCursor().blockNumber() + 1); });
    connect(m_schematic, &NetworkSchematic::line_clicked, this, &CircuitDialog::go_to_line);
    connect(m_names, &QListWidget::currentTextChanged, this, &CircuitDialog::show_circuit);
    connect(m_name, &QLineEdit::editingFinished, this, &CircuitDialog::rename);
    connect(&document, &Document::changed, this, &CircuitDialog::follow_document);
    follow_document();
    if (m_names->count() > 0) m_names->setCurrentRow(0);
}

QWidget* CircuitDialog::make_names() {
    auto* side = new QWidget(this);
    side->setFixedWidth(170);
    auto* column = new QVBoxLayout(side);
    column->setContentsMargins(0, 0, 0, 0);
    m_names->setObjectName(QStringLiteral("circuit_names"));
    column->addWidget(m_names, 1);
    for (const auto& [text, object, act] : {std::tuple{tr("New"), "circuit_new", &CircuitDialog::add},
                                            {tr("Remove"), "circuit_remove", &CircuitDialog::remove},
                                            {tr("From a file …"), "circuit_open", &CircuitDialog::open_file},
                                            {tr("To a file …"), "circuit_save", &CircuitDialog::save_file}}) {
        auto* button = new QPushButton(text, side);
        button->setObjectName(QString::fromLatin1(object));
        button->setAutoDefault(false);
        connect(button, &QPushButton::clicked, this, act);
        column->addWidget(button);
    }
    return side;
}

QWidget* CircuitDialog::make_list() {
    auto* middle = new QWidget(this);
    auto* column = new QVBoxLayout(middle);
    column->setContentsMargins(0, 0, 0, 0);
    m_name->setObjectName(QStringLiteral("circuit_name"));
    m_name->setToolTip(tr("The name by which in-time takes it: supply own, circuit …"));
    column->addWidget(m_name);
    m_list->setObjectName(QStringLiteral("netlist"));
    QFont mono(QStringLiteral("monospace"));
    mono.setStyleHint(QFont::Monospace);
    mono.setPixelSize(13);
    m_list->setFont(mono);
    m_list->setLineWrapMode(QPlainTextEdit::NoWrap);
    m_list->setPlaceholderText(
        tr("One element a line: R1 a b 10, L1 b c 2m, C1 c 0 100u, Vdc plus 0 48, D1 anode "
           "cathode, S1 a b control+ control- model, XU a b phase_u"));
    column->addWidget(m_list, 1);
    m_says->setObjectName(QStringLiteral("circuit_says"));
    m_says->setWordWrap(true);
    m_says->setMinimumHeight(52);
    m_says->setAlignment(Qt::AlignTop);
    column->addWidget(m_says);
    return middle;
}

std::string CircuitDialog::name() const {
    return m_names->currentItem() ? m_names->currentItem()->text().toStdString() : std::string();
}

/// Undo and other windows change circuits too; what is being typed stays.
void CircuitDialog::follow_document() {
    const QString before = m_names->currentItem() ? m_names->currentItem()->text() : QString();
    m_names->blockSignals(true);
    m_names->clear();
    for (const auto& [name, text] : m_document.design().circuits)
        m_names->addItem(QString::fromStdString(name));
    m_names->setCurrentRow(0);
    select(before);
    m_names->blockSignals(false);
    const auto& circuits = m_document.design().circuits;
    const auto now = circuits.find(name());
    const bool typing = m_soon.isActive();
    if (!typing && (now == circuits.end() || m_list->toPlainText().toStdString() != now->second))
        show_circuit(QString::fromStdString(name()));
}

void CircuitDialog::show_circuit(const QString& wanted) {
    const auto& circuits = m_document.design().circuits;
    const auto found = circuits.find(wanted.toStdString());
    const bool is = found != circuits.end();
    m_name->setText(is ? wanted : QString());
    m_name->setEnabled(is);
    m_list->setEnabled(is);
    m_list->blockSignals(true);
    m_list->setPlainText(is ? QString::fromStdString(found->second) : QString());
    m_list->blockSignals(false);
    m_gesture = Document::next_gesture();
    read();
    if (!is) m_says->setText(tr("No circuit yet: New begins with a small one."));
}

/// What the list says, drawn; or what keeps it from being read, and where.
void CircuitDialog::read() {
    const std::string text = m_list->toPlainText().toStdString();
    QList<QTextEdit::ExtraSelection> marks;
    const auto network = read_netlist(text);
    Problems problems = network ? Problems{} : network.problems();
    if (network) {
        m_schematic->show_network(*network);
        const auto built = m_document.built();
        problems = network_problems(*network, built ? built->machine.winding.phases : 3);
    } else {
        m_schematic->clear();
    }
    if (problems.empty()) {
        m_says->setText(
            network && !network->elements.empty()
                ? tr("%1 elements, %2 nodes.").arg(network->elements.size()).arg(network->nodes.size())
                : QString());
    } else {
        m_says->setText(told(problems.front()));
        if (const int line = line_in(to_string(problems.front())); line > 0) {
            QTextEdit::ExtraSelection mark;
            QColor wash = theme().caution;
            wash.setAlphaF(0.25F);
            mark.format.setBackground(wash);
            mark.format.setProperty(QTextFormat::FullWidthSelection, true);
            mark.cursor = QTextCursor(m_list->document()->findBlockByNumber(line - 1));
            marks << mark;
        }
    }
    m_list->setExtraSelections(marks);
}

/// Into the design, as one step for what is typed in one go. What cannot be read stays here until it can.
void CircuitDialog::keep() {
    const std::string text = m_list->toPlainText().toStdString(), circuit = name();
    if (circuit.empty() || !read_netlist(text)) return;
    Design design = m_document.design();
    if (design.circuits[circuit] == text) return;
    design.circuits[circuit] = text;
    m_document.set_design(tr("circuit %1").arg(QString::fromStdString(circuit)), design, m_gesture);
}

/// Where there is a circuit of this name.
void CircuitDialog::select(const QString& circuit) {
    const auto found = m_names->findItems(circuit, Qt::MatchExactly);
    if (!found.isEmpty()) m_names->setCurrentItem(found.front());
}

void CircuitDialog::add() {
    Design design = m_document.design();
    std::string fresh;
    for (int n = 1; fresh.empty() || design.circuits.contains(fresh); ++n) fresh = fmt::format("circuit{}", n);
    design.circuits[fresh] = example;
    m_document.set_design(tr("new circuit"), design);
    select(QString::fromStdString(fresh));
    show_circuit(QString::fromStdString(fresh));
}

void CircuitDialog::remove() {
    Design design = m_document.design();
    if (design.circuits.erase(name()) == 0) return;
    m_soon.stop();
    m_document.set_design(tr("circuit removed"), design);
}

void CircuitDialog::rename() {
    const std::string before = name(), after = m_name->text().trimmed().toStdString();
    Design design = m_document.design();
    if (before.empty() || after == before) return;
    if (after.empty() || design.circuits.contains(after)) {
        m_says->setText(tr("A circuit needs a name that no other has."));
        m_name->setText(QString::fromStdString(before));
        return;
    }
    auto node = design.circuits.extract(before);
    node.key() = after;
    design.circuits.insert(std::move(node));
    m_document.set_design(tr("circuit renamed"), design);
    select(QString::fromStdString(after));
}

void CircuitDialog::open_file() {
    const QString file = QFileDialog::getOpenFileName(this, tr("Netlist"), QString(),
                                                      QStringLiteral("*.cir *.net *.sp *.txt (*)"));
    QFile in(file);
    if (file.isEmpty()) return;
    if (!in.open(QIODevice::ReadOnly)) return m_says->setText(tr("%1 cannot be read.").arg(file));
    add();
    m_list->setPlainText(QString::fromUtf8(in.readAll()));
}

void CircuitDialog::save_file() {
    const QString file =
        file_to_write(this, tr("Netlist"), QString::fromStdString(name()), QStringLiteral("cir"));
    if (file.isEmpty()) return;
    if (const auto problem = write_file_atomically(file.toStdString(), m_list->toPlainText().toStdString()))
        m_says->setText(told(*problem));
}

void CircuitDialog::go_to_line(int line) {
    m_list->setTextCursor(QTextCursor(m_list->document()->findBlockByNumber(line - 1)));
    m_list->setFocus();
}

} // namespace mavlo::app
