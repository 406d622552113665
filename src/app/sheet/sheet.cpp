#include "sheet/sheet.h"

#include "machine/slots/slot_form.h"
#include "shell/spoken.h"

#include <QHBoxLayout>
#include <algorithm>

namespace mavlo::app {
namespace {

std::vector<SheetPage> make_pages() {
    std::vector<SheetPage> pages;
    const auto at = [](auto& list, const std::string& title) -> auto& {
        for (auto& item : list)
            if (item.title == title) return item;
        list.push_back({title, {}});
        return list.back();
    };
    for (const Parameter& p : parameters()) at(at(pages, p.page).groups, p.group).paths.push_back(p.path);
    return pages;
}

/// The part of the section that a page is about.
std::string region_of(const std::string& page) {
    return page == "Rotor" ? "rotor" : page == "Winding" ? "stator.slot" : page == "Stator" ? "stator" : "";
}

std::string page_of(const std::string& region) {
    return region == "stator.slot" ? "Winding" : region.starts_with("rotor") ? "Rotor" : "Stator";
}

} // namespace

const std::vector<SheetPage>& sheet_pages() {
    static const std::vector<SheetPage> pages = make_pages();
    return pages;
}

SheetRows::SheetRows(Document& document, const SheetPage& page, QWidget* parent)
    : QWidget(parent)
    , m_document(document) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 4, 8, 12);
    layout->setSpacing(2);
    for (const SheetGroup& group : page.groups) {
        auto* title = new QLabel(spoken(group.title), this);
        m_headings.push_back({title, m_rows.size(), m_rows.size() + group.paths.size()});
        title->setProperty("group", true);
        title->setContentsMargins(12, 12, 0, 4);
        layout->addWidget(title);
        for (const std::string& path : group.paths) {
            auto* row = new ParameterRow(document, *find_parameter(path), this);
            connect(row, &ParameterRow::hovered, this, &SheetRows::hovered);
            connect(row, &ParameterRow::vary_wanted, this, &SheetRows::vary_wanted);
            m_rows.push_back(row);
            layout->addWidget(row);
            for (const Equivalent& e : registry<Equivalent>().all())
                if (e.path == path) {
                    m_equivalents.push_back(new EquivalentRow(document, e, this));
                    layout->addWidget(m_equivalents.back());
                }
            if (path == "stator.slot.depth") {
                m_slot_note = new QLabel(this);
                m_slot_note->setProperty("soft", true);
                m_slot_note->setWordWrap(true);
                m_slot_note->setContentsMargins(12, 0, 0, 2);
                layout->addWidget(m_slot_note);
            }
        }
    }
    layout->addStretch();
    connect(&document, &Document::changed, this, &SheetRows::refresh);
    refresh();
}

void SheetRows::refresh() {
    for (ParameterRow* row : m_rows) row->refresh();
    for (EquivalentRow* row : m_equivalents) row->refresh();
    for (const Heading& heading : m_headings)
        heading.label->setVisible(std::any_of(
            m_rows.begin() + std::ptrdiff_t(heading.first), m_rows.begin() + std::ptrdiff_t(heading.end),
            [&](const ParameterRow* row) { return m_document.used(row->path()) != nullptr; }));
    if (!m_slot_note) return;
    const auto built = m_document.built();
    QString text;
    if (built && m_document.is_good() && built->machine.wound()) {
        const Values& v = built->machine.values;
        const TileFrame frame = stator_frame(v);
        const auto contour = contour_of(frame, v);
        if (contour && contour->conductor_from > 0) {
            const double tip = v.has("stator.slot.tip_depth") ? v.number("stator.slot.tip_depth") : 0,
                         body = frame.depth_of(contour->steps[contour->conductor_from].to);
            const double wedge = std::max(0.0, body - tip);
            text = tr("tip %1 + wedge %2 + body %3 mm")
                       .arg(tip * 1e3, 0, 'f', 2)
                       .arg(wedge * 1e3, 0, 'f', 2)
                       .arg((frame.depth_of(contour->steps.back().to) - tip - wedge) * 1e3, 0, 'f', 2);
        }
    }
    m_slot_note->setText(text);
    m_slot_note->setVisible(!text.isEmpty());
}

void SheetRows::set_hot(const std::string& path) {
    for (ParameterRow* row : m_rows) row->set_hot(row->path() == path);
}

ParameterRow* SheetRows::row(const std::string& path) const {
    for (ParameterRow* row : m_rows)
        if (row->path() == path) return row;
    return nullptr;
}

Sheet::Sheet(Document& document, QWidget* parent)
    : QWidget(parent)
    , m_document(document)
    , m_tabs(new PageTabs(QStringLiteral("part:"), this))
    , m_help(new QLabel(tr("What the row under the cursor means stands here."), this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_tabs);
    connect(m_tabs, &PageTabs::page_shown, this, &Sheet::page_shown);
    for (const SheetPage& page : sheet_pages()) {
        auto* rows = new SheetRows(document, page, this);
        connect(rows, &SheetRows::hovered, this, &Sheet::hovered);
        connect(rows, &SheetRows::hovered, this, &Sheet::explain);
        connect(rows, &SheetRows::vary_wanted, this, &Sheet::vary_wanted);
        m_pages.push_back(rows);
        connect(m_tabs->add(spoken(page.title), rows), &QPushButton::clicked, this,
                [this, title = page.title] { Q_EMIT part_chosen(region_of(title)); });
    }
    m_help->setObjectName(QStringLiteral("row_help"));
    m_help->setProperty("soft", true);
    m_help->setWordWrap(true);
    m_help->setAlignment(Qt::AlignLeft | Qt::AlignTop);
    m_help->setContentsMargins(16, 6, 16, 6);
    m_help->setFixedHeight(3 * fontMetrics().lineSpacing() + 14);
    layout->addWidget(m_help);
}

/// What a parameter is, where it is set; the last one stays while none is under the cursor.
void Sheet::explain(const std::string& path) {
    const Parameter* parameter = path.empty() ? nullptr : find_parameter(path, m_document.design());
    if (!parameter) return;
    QString text = QStringLiteral("%1: %2").arg(spoken(parameter->label), spoken(parameter->help));
    if (!parameter->standard.empty() && !parameter->standard.starts_with("="))
        text += tr(" Else %1.").arg(QString::fromStdString(parameter->standard));
    m_help->setText(text);
}

void Sheet::add_page(const QString& title, QWidget* page) {
    m_tabs->add(title, page);
}

void Sheet::show_page_of(QWidget* page) {
    m_tabs->show_page_of(page);
}

void Sheet::show_part(const std::string& region, const std::string& material) {
    if (region.empty()) return;
    const std::string page = page_of(region);
    for (std::size_t i = 0; i < sheet_pages().size(); ++i)
        if (sheet_pages()[i].title == page) m_tabs->show_page(int(i));
    if (!material.empty()) set_hot(material);
}

void Sheet::set_hot(const std::string& path) {
    explain(path);
    const bool own_page = m_tabs->page() >= int(m_pages.size()); // one of the bench's own stays
    for (std::size_t i = 0; i < m_pages.size(); ++i) {
        m_pages[i]->set_hot(path);
        if (!own_page && !path.empty() && m_pages[i]->row(path)) m_tabs->show_page(int(i));
    }
    if (const auto page = std::size_t(m_tabs->page()); page < m_pages.size() && !path.empty())
        if (auto* row = m_pages[page]->row(path)) m_tabs->ensure_visible(row);
}

void Sheet::show_row(const std::string& path) {
    for (std::size_t i = 0; i < m_pages.size(); ++i)
        if (ParameterRow* row = m_pages[i]->row(path)) {
            m_tabs->show_page(int(i));
            set_hot(path);
            row->take_cursor();
            return;
        }
}

} // namespace mavlo::app
