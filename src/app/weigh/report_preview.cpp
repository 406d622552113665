#include "weigh/report_preview.h"

#include "question/words.h"
#include "section/small_section.h"
#include "shell/spoken.h"
#include "shell/theme.h"

#include <QPaintEvent>
#include <QPainter>
#include <QSvgRenderer>
#include <algorithm>

namespace mavlo::app {
namespace {

constexpr double gap = 14, tall = 297.0 / 210, least_page = 230;
constexpr double paper_width = 480; ///< points of a page, in which it is laid out

const QColor ink(0x1F, 0x2A, 0x33), pale(0x66, 0x72, 0x7C);

QFont sized(double points, bool strong) {
    QFont font = body_font();
    font.setPixelSize(int(points));
    font.setWeight(strong ? QFont::DemiBold : QFont::Normal);
    return font;
}

/// Lays words and pictures one under the other down a page.
class Layouter {
  public:
    explicit Layouter(QPainter& painter)
        : m_painter(painter) {}

    void words(const QString& text, double size, bool strong, const QColor& colour) {
        if (text.isEmpty() || m_y > bottom) return;
        m_painter.setFont(sized(size, strong));
        m_painter.setPen(colour);
        QRectF used;
        m_painter.drawText(QRectF(margin, m_y, paper_width - 2 * margin, bottom - m_y),
                           Qt::AlignLeft | Qt::TextWordWrap, text, &used);
        m_y += used.height() + 6;
    }
    void figures(const std::vector<Figure>& list) {
        const double wide = (paper_width - 2 * margin) / std::max<double>(3, double(list.size()));
        double x = margin;
        for (const Figure& figure : list) {
            m_painter.setPen(pale);
            m_painter.setFont(sized(9, false));
            m_painter.drawText(QRectF(x, m_y, wide - 8, 14), Qt::AlignLeft,
                               m_painter.fontMetrics().elidedText(spoken(figure_name(figure.name).label),
                                                                  Qt::ElideRight, int(wide - 8)));
            m_painter.setPen(ink);
            m_painter.setFont(sized(17, true));
            m_painter.drawText(QPointF(x, m_y + 31), QString::fromStdString(shown_figure(figure)));
            x += wide;
        }
        if (!list.empty()) m_y += 44;
    }
    void svg(const std::string& source, double left, double wide) {
        QByteArray alone = QByteArray::fromStdString(source);
        alone.replace("<svg ", "<svg xmlns=\"http://www.w3.org/2000/svg\" "); // as a file of its own
        QSvgRenderer renderer(alone);
        const QRectF box = renderer.viewBoxF();
        if (!renderer.isValid() || box.isEmpty()) return;
        m_high = wide * box.height() / box.width();
        if (m_y + m_high < bottom) renderer.render(&m_painter, QRectF(left, m_y, wide, m_high));
    }
    void picture(const std::string& source) {
        svg(source, margin, paper_width - 2 * margin);
        m_y += m_high + 8;
    }
    void small_pictures(const std::vector<std::pair<std::string, std::string>>& list) {
        const double wide = (paper_width - 3 * margin) / 2;
        for (std::size_t k = 0; k < list.size(); ++k) {
            svg(list[k].second, k % 2 == 0 ? margin : 2 * margin + wide, wide);
            if (k % 2 == 1 || k + 1 == list.size()) m_y += m_high + 6;
        }
    }
    void groups(const std::vector<FigureGroup>& list) {
        m_painter.setFont(sized(9, false));
        const double wide = (paper_width - 3 * margin) / 2;
        int count = 0;
        for (const FigureGroup& group : list)
            for (const Figure& figure : group.figures) {
                const double x = count % 2 == 0 ? margin : 2 * margin + wide, y = m_y + 13.0 * (count / 2);
                ++count;
                if (y > bottom - 14) continue;
                m_painter.setPen(pale);
                m_painter.drawText(QRectF(x, y, wide - 70, 13), Qt::AlignLeft,
                                   m_painter.fontMetrics().elidedText(spoken(figure_name(figure.name).label),
                                                                      Qt::ElideRight, int(wide - 74)));
                m_painter.setPen(ink);
                m_painter.drawText(QRectF(x, y, wide, 13), Qt::AlignRight,
                                   QString::fromStdString(shown_figure(figure)));
            }
        m_y += 13.0 * ((count + 1) / 2) + 8;
    }
    void section(const DrawnMachine& built) {
        const double side = 300;
        paint_small_section(m_painter, QRectF((paper_width - side) / 2, m_y, side, side), built);
        m_y += side + 10;
    }

  private:
    static constexpr double margin = 30, bottom = paper_width * tall - 24;
    QPainter& m_painter;
    double m_y = 28, m_high = 0;
};

void paint_page(QPainter& painter, const PreviewPage& page) {
    Layouter layout(painter);
    layout.words(page.title, page.sheet ? 17 : 22, true, ink);
    layout.words(page.text, 11, false, pale);
    if (page.section) layout.section(*page.section);
    if (!page.sheet) return;
    layout.words(QString::fromStdString(page.sheet->sentence), 11, false, ink);
    layout.figures(page.sheet->large);
    layout.picture(page.sheet->picture);
    layout.groups(page.sheet->rest);
    layout.small_pictures(page.sheet->more);
    layout.words(QString::fromStdString(page.sheet->note), 9, false, pale);
}

} // namespace

ReportPreview::ReportPreview(QWidget* parent)
    : QWidget(parent)
    , m_next(new QTimer(this)) {
    setObjectName(QStringLiteral("report_preview"));
    setAccessibleName(tr("Pages of the report"));
    m_next->setSingleShot(true);
    connect(m_next, &QTimer::timeout, this, &ReportPreview::draw_next);
}

void ReportPreview::show_pages(std::vector<PreviewPage> pages) {
    m_pages = std::move(pages);
    m_drawn.assign(m_pages.size(), {});
    QStringList titles;
    for (const PreviewPage& page : m_pages) titles << page.title;
    setAccessibleDescription(titles.join(QStringLiteral(", ")));
    fit_height();
    update();
}

int ReportPreview::across() const {
    return std::max(1, int((width() + gap) / (least_page + gap)));
}

double ReportPreview::page_width() const {
    return (width() - gap * (across() - 1)) / across() - 2;
}

QRectF ReportPreview::place_of(std::size_t page) const {
    const double wide = page_width(), high = wide * tall;
    const auto n = int(page);
    return {1 + (n % across()) * (wide + gap), 1 + (n / across()) * (high + gap), wide, high};
}

void ReportPreview::fit_height() {
    if (m_pages.empty()) return setMinimumHeight(0);
    setMinimumHeight(int(place_of(m_pages.size() - 1).bottom()) + 4);
}

void ReportPreview::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (event->size().width() != event->oldSize().width()) m_drawn.assign(m_pages.size(), {});
    fit_height();
}

void ReportPreview::paintEvent(QPaintEvent* event) {
    QPainter painter(this);
    for (std::size_t k = 0; k < m_pages.size(); ++k) {
        const QRectF place = place_of(k);
        if (!place.intersects(event->rect())) continue;
        painter.setPen(theme().line);
        painter.setBrush(Qt::white); // paper, in the dark too
        painter.drawRect(place);
        if (const QPixmap& drawn = m_drawn[k]; !drawn.isNull())
            painter.drawPixmap(place.topLeft(), drawn);
        else
            m_next->start(); // one after the other, so that no call takes long
    }
}

/// The first page in view that is not drawn yet.
void ReportPreview::draw_next() {
    const QRect seen = visibleRegion().boundingRect();
    for (std::size_t k = 0; k < m_pages.size(); ++k) {
        const QRectF place = place_of(k);
        if (!m_drawn[k].isNull() || !place.intersects(seen)) continue;
        m_drawn[k] = drawn(m_pages[k], place.size());
        return update(place.toAlignedRect());
    }
}

QPixmap ReportPreview::drawn(const PreviewPage& page, QSizeF size) const {
    QPixmap pixmap((size * devicePixelRatioF()).toSize());
    pixmap.setDevicePixelRatio(devicePixelRatioF());
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.scale(size.width() / paper_width, size.width() / paper_width);
    paint_page(painter, page);
    return pixmap;
}

} // namespace mavlo::app
