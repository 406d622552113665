#include "draw/import_dialog.h"

#include "drawing/pitch.h"
#include "quantity/quantity.h"
#include "shell/typed_number.h"

#include <QApplication>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QIntValidator>
#include <QPointer>
#include <QScrollArea>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace mavlo::app {
namespace {

QString joined(const std::vector<std::string>& sentences) {
    QString text;
    for (const std::string& s : sentences) text += QString::fromStdString(s) + QStringLiteral("\n");
    return text;
}

/// What a click makes of a region.
Role next_role(const ImportedRegion& region) {
    const Role special = region.side == DrawnSide::Rotor ? Role::Magnet : Role::Conductor;
    return region.role == Role::Iron ? special : region.role == special ? Role::Air : Role::Iron;
}

} // namespace

ImportDialog::ImportDialog(Document& document, const QString& file, QWidget* parent)
    : QDialog(parent)
    , m_document(document)
    , m_file(file)
    , m_canvas(new ImportCanvas(this))
    , m_list(new ImportList(this))
    , m_part(new QComboBox(this))
    , m_unit(new QComboBox(this))
    , m_tolerance(new QLineEdit(QStringLiteral("0.01 mm"), this))
    , m_direction(new QLineEdit(this))
    , m_pitches(new QLineEdit(this))
    , m_words(new QLabel(this))
    , m_take(new QPushButton(tr("Take it into the design"), this))
    , m_stop(new QPushButton(tr("Stop reading"), this))
    , m_reading(new Beside(this)) {
    setObjectName(QStringLiteral("import"));
    setWindowTitle(tr("Drawing: %1").arg(QFileInfo(file).fileName()));
    resize(1080, 680);
    auto* layout = new QHBoxLayout(this);
    layout->addWidget(m_canvas, 1);
    auto* side = new QVBoxLayout;
    make_side(*side);
    layout->addLayout(side);
    join();
    read();
}

void ImportDialog::make_side(QVBoxLayout& side) {
    const auto row = [&](const QString& text, QWidget* field) {
        auto* line = new QHBoxLayout;
        line->addWidget(new QLabel(text, this), 1);
        field->setFixedWidth(130);
        line->addWidget(field);
        side.addLayout(line);
    };
    m_part->setObjectName(QStringLiteral("import_part"));
    m_part->addItems({tr("rotor"), tr("stator"), tr("both")});
    m_unit->setObjectName(QStringLiteral("import_unit"));
    m_unit->addItems({QStringLiteral("auto"), QStringLiteral("mm"), QStringLiteral("in"), QStringLiteral("m"),
                      QStringLiteral("cm")});
    m_tolerance->setObjectName(QStringLiteral("import_tolerance"));
    m_take->setObjectName(QStringLiteral("import_take"));
    m_take->setProperty("main", true);
    m_words->setObjectName(QStringLiteral("import_words"));
    row(tr("Part that is wanted"), m_part);
    row(tr("Unit of the drawing"), m_unit);
    row(tr("Gaps to be closed, up to"), m_tolerance);
    m_pitches->setObjectName(QStringLiteral("import_pitches"));
    m_pitches->setValidator(new QIntValidator(1, 400, this));
    m_pitches->setPlaceholderText(tr("as it repeats"));
    m_pitches->setToolTip(tr("Where pieces of magnets look like more poles, or half a pole like a whole one"));
    row(tr("Poles or slots in a turn"), m_pitches);
    m_direction->setObjectName(QStringLiteral("import_direction"));
    m_direction->setPlaceholderText(tr("touch an arrow first"));
    m_direction->setEnabled(false);
    row(tr("Direction of the magnet in hand, °"), m_direction);
    m_words->setWordWrap(true);
    m_words->setAlignment(Qt::AlignTop);
    m_words->setProperty("soft", true);
    auto* scroll = new QScrollArea(this);
    scroll->setFocusPolicy(Qt::NoFocus); // what stands in it takes the keys
    scroll->setWidget(m_words);
    scroll->setWidgetResizable(true);
    scroll->setFixedWidth(330);
    m_list->setFixedWidth(330);
    side.addWidget(m_list, 3);
    side.addWidget(scroll, 2);
    m_stop->setObjectName(QStringLiteral("import_stop"));
    m_stop->setAutoDefault(false);
    m_stop->hide();
    connect(m_stop, &QPushButton::clicked, this, [this] {
        m_reading->stop();
        m_stop->hide();
        m_words->setText(tr("Stopped. Change something above to read it again."));
    });
    side.addWidget(m_stop);
    side.addWidget(m_take);
    m_take->setAutoDefault(false); // Enter is the fields'
}

void ImportDialog::join() {
    const auto again = [this] {
        m_options.roles.clear();
        m_options.directions.clear();
        read();
    };
    connect(m_part, &QComboBox::currentIndexChanged, this, again);
    connect(m_unit, &QComboBox::currentIndexChanged, this, again);
    connect(m_tolerance, &QLineEdit::editingFinished, this, again);
    connect(m_pitches, &QLineEdit::editingFinished, this, again);
    connect(m_canvas, &ImportCanvas::region_clicked, this, &ImportDialog::change_role);
    connect(m_canvas, &ImportCanvas::magnet_touched, this, &ImportDialog::touch_magnet);
    connect(m_canvas, &ImportCanvas::magnet_turned, this, &ImportDialog::turn_magnet);
    connect(m_direction, &QLineEdit::editingFinished, this, [this] {
        bool good = false;
        const double degrees =
            m_direction->text().replace(',', '.').remove(QStringLiteral("°")).toDouble(&good);
        if (good && m_magnet > 0) turn_magnet(m_magnet, degrees * M_PI / 180);
    });
    connect(m_take, &QPushButton::clicked, this, &ImportDialog::take);
    connect(m_canvas, &ImportCanvas::role_wanted, this, &ImportDialog::set_role);
    connect(m_canvas, &ImportCanvas::region_pointed, m_list, &ImportList::light);
    connect(m_list, &ImportList::role_wanted, this, &ImportDialog::set_role);
    connect(m_list, &ImportList::pointed, m_canvas, &ImportCanvas::light);
}

void ImportDialog::read() {
    m_options.rotor = m_part->currentIndex() != 1;
    m_options.stator = m_part->currentIndex() != 0;
    m_options.unit = m_unit->currentText().toStdString();
    m_pitches->setEnabled(m_options.rotor != m_options.stator);
    m_options.pitches.reset();
    if (m_pitches->isEnabled() && m_pitches->hasAcceptableInput())
        m_options.pitches = m_pitches->text().toInt();
    m_options.outer_rotor = m_document.design().text("machine.topology") == "outer-rotor";
    m_options.poles = poles_of(m_document.design());
    const auto tolerance = parse_quantity(typed_number(m_tolerance->text()));
    m_drawing.reset();
    m_take->setEnabled(false);
    if (!tolerance || tolerance->dimension != dimension::length || tolerance->si <= 0 || tolerance->si > 1e-3) {
        m_reading->stop();
        m_words->setText(tr("A length of up to 1 mm is wanted for the gaps, such as 0.01 mm."));
        return;
    }
    m_options.tolerance = tolerance->si;
    m_words->setText(tr("Reading the drawing …"));
    m_stop->show();
    struct Found {
        std::shared_ptr<const Result<DxfDrawing>> file;
        Result<ImportedDrawing> drawing;
        OpenDrawing open;
    };
    const auto told = [dialog = QPointer<ImportDialog>(this)](double share) {
        QMetaObject::invokeMethod(
            qApp,
            [dialog, share] {
                if (dialog) dialog->show_progress(share);
            },
            Qt::QueuedConnection);
    };
    const auto work = [file = m_file.toStdString(), known = m_read, options = m_options,
                       told](std::stop_token stop) {
        auto wanted = options;
        wanted.stop = stop;
        wanted.progress = told;
        const auto read = known ? known : std::make_shared<const Result<DxfDrawing>>(read_dxf(file, stop));
        auto drawing = *read ? understood(**read, wanted) : Result<ImportedDrawing>(read->problems());
        auto open = *read && !drawing ? open_drawing(**read, wanted) : OpenDrawing{};
        return std::make_shared<Found>(Found{read, std::move(drawing), std::move(open)});
    };
    m_reading->start(
        [this, work](const std::stop_token& stop) -> Beside::Taken {
            return [this, found = work(stop)] {
                m_read = found->file;
                show_read(std::move(found->drawing), std::move(found->open));
            };
        },
        [this](const QString& sentence) {
            m_stop->hide();
            m_words->setText(sentence);
        });
}

void ImportDialog::show_progress(double share) {
    if (is_idle() || share < 0.02) return;
    m_words->setText(
        tr("Reading the drawing … It has many lines and crossings: %1 % of what is looked through at most.")
            .arg(int(100 * std::min(share, 1.0))));
}

void ImportDialog::show_read(Result<ImportedDrawing> drawing, OpenDrawing open) {
    if (drawing) {
        m_drawing = std::move(*drawing);
        m_canvas->show_drawing(*m_drawing);
        m_list->show_drawing(*m_drawing);
        m_words->setText(words());
    } else {
        QString wrong;
        for (const Problem& p : drawing.problems())
            wrong += QString::fromStdString(p.sentence) + QStringLiteral("\n");
        m_canvas->show_open(open);
        m_words->setText(wrong);
    }
    m_stop->hide();
    m_take->setEnabled(m_drawing.has_value());
    if (m_magnet > 0) touch_magnet(m_magnet);
}

QString ImportDialog::words() const {
    QString text;
    for (const ImportedPart& part : m_drawing->parts)
        text += tr("%1: %2 %3%4.\n")
                    .arg(QString::fromStdString(to_string(part.side)))
                    .arg(part.portion.pitches)
                    .arg(part.side == DrawnSide::Rotor ? tr("poles") : tr("slots"))
                    .arg(part.portion.covers > 0.999
                             ? QString()
                             : tr(", %1 of a turn drawn").arg(part.portion.covers, 0, 'g', 4));
    for (const auto& [role, whole] : m_drawing->whole)
        text += tr("%1: %2, %3 mm² in all\n")
                    .arg(QString::fromStdString(to_string(role)))
                    .arg(whole.count)
                    .arg(whole.area * 1e6, 0, 'f', 1);
    return text + QStringLiteral("\n") + joined(m_drawing->notes) + joined(m_drawing->healed) +
           joined(m_drawing->left_out.sentences);
}

void ImportDialog::change_role(int number) {
    if (const auto clicked = region(number)) set_role(number, next_role(*clicked));
}

/// Its like in the other pitches goes with it.
void ImportDialog::set_role(int number, Role role) {
    const auto chosen = region(number);
    if (!chosen) return;
    for (const ImportedRegion& other : m_drawing->regions)
        if (are_alike(other, *chosen)) m_options.roles[other.number] = role;
    read();
}

std::optional<ImportedRegion> ImportDialog::region(int number) const {
    if (m_drawing)
        for (const ImportedRegion& r : m_drawing->regions)
            if (r.number == number) return r;
    return std::nullopt;
}

void ImportDialog::touch_magnet(int number) {
    const auto magnet = region(number);
    if (!magnet || !magnet->direction) return;
    m_magnet = number;
    m_direction->setEnabled(true);
    m_direction->setText(QString::number(std::remainder(*magnet->direction * 180 / M_PI, 360), 'f', 2));
}

void ImportDialog::turn_magnet(int number, double direction) {
    const auto magnet = region(number);
    if (!magnet) return;
    for (const ImportedRegion& other : m_drawing->regions)
        if (other.role == Role::Magnet && are_alike(other, *magnet))
            m_options.directions[other.number] =
                carried_direction(*m_drawing->part(other.side), *magnet, direction, other);
    m_magnet = number;
    read();
}

void ImportDialog::take() {
    Design design = m_document.design();
    for (const ImportedPart& part : m_drawing->parts) {
        auto with = with_part(design, *m_drawing, part.side);
        if (!with) {
            m_words->setText(QString::fromStdString(with.problems().front().sentence));
            return;
        }
        design = std::move(*with);
    }
    m_document.set_design(tr("drawing %1").arg(QFileInfo(m_file).fileName()), design);
    accept();
}

} // namespace mavlo::app
