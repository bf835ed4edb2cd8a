#include "app/run/queue_list.h"

#include "app/kit/theme.h"
#include "app/paint/line_names.h"

#include <QDragEnterEvent>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QMimeData>
#include <QPainter>
#include <QStyledItemDelegate>

#include <algorithm>

namespace hasami {

namespace {

constexpr int margin = 8, signWidth = 28, dotWidth = 16;

/// The process colours as three dots, and each special ink as a disc with the first letter of its name.
void paintInks(QPainter& painter, QRect room, const std::vector<InkKind>& inks, const Colours& colours) {
    painter.setPen(Qt::NoPen);
    const QPoint middle = room.topLeft() + QPoint(dotWidth / 2, room.height() / 2);
    const std::pair<QPoint, QColor> dots[] = {
        {{-3, 2}, {0x2A, 0x9D, 0xC8}}, {{3, 2}, {0xD9, 0x5B, 0x8C}}, {{0, -3}, {0xE3, 0xB5, 0x2F}}};
    for (const auto& [at, colour] : dots) {
        painter.setBrush(colour);
        painter.drawEllipse(middle + at, 4, 4);
    }
    room.setLeft(room.left() + dotWidth + 4);
    QFont font = painter.font();
    font.setPixelSize(10);
    painter.setFont(font);
    for (const InkKind ink : inks) {
        const QRect disc(room.left(), room.top() + (room.height() - dotWidth) / 2, dotWidth, dotWidth);
        painter.setPen(QPen(colours.quiet, 1));
        painter.setBrush(ink == InkKind::white ? QColor(Qt::white) : colours.field);
        painter.drawEllipse(disc.adjusted(1, 1, -1, -1));
        painter.setPen(ink == InkKind::white ? colour::ink : colours.ink);
        painter.drawText(disc, Qt::AlignCenter, nameOf(ink).left(1).toUpper());
        room.setLeft(room.left() + dotWidth + 3);
    }
}

class RowPainter : public QStyledItemDelegate {
public:
    explicit RowPainter(const QueueList& list) : QStyledItemDelegate(nullptr), list_(list) {}

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const int line = option.fontMetrics.height();
        switch (rowAt(index).kind) {
        case QueueRow::Kind::heading:
            return {0, line + 10};
        case QueueRow::Kind::hint:
            return {0, 2 * line + 12};
        default:
            return {0, 3 * line + 12};
        }
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        const QueueRow& row = rowAt(index);
        const Colours& colours = coloursOf(QGuiApplication::palette()); // the style changes the list's
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        QRect room = option.rect.adjusted(margin, 4, -margin, -4);
        if (row.kind == QueueRow::Kind::heading || row.kind == QueueRow::Kind::hint) {
            const auto above = row.kind == QueueRow::Kind::hint ? Qt::AlignTop : Qt::AlignVCenter;
            painter->setPen(colours.quiet);
            painter->drawText(room, Qt::AlignLeft | above | Qt::TextWordWrap, row.title);
        } else {
            if (option.state & QStyle::State_Selected) {
                painter->setPen(Qt::NoPen);
                painter->setBrush(colours.tint);
                painter->drawRoundedRect(option.rect.adjusted(1, 1, -1, -1), 6, 6);
            }
            paintRow(*painter, room, row, colours);
        }
        if (option.state & QStyle::State_HasFocus && row.kind != QueueRow::Kind::heading) {
            painter->setBrush(Qt::NoBrush);
            painter->setPen(QPen(colours.indigo, 1));
            painter->drawRoundedRect(option.rect.adjusted(1, 1, -2, -2), 6, 6);
        }
        painter->restore();
    }

private:
    const QueueRow& rowAt(const QModelIndex& index) const {
        static const QueueRow none;
        const auto place = std::size_t(index.row());
        return place < list_.rows().size() ? list_.rows()[place] : none;
    }

    static void paintRow(QPainter& painter, QRect room, const QueueRow& row, const Colours& colours) {
        const int line = painter.fontMetrics().height();
        QFont plain = painter.font(), bold = plain;
        bold.setWeight(QFont::DemiBold);
        painter.setFont(bold);
        painter.setPen(row.isQuiet ? colours.quiet : colours.ink);
        const QString title = (row.isRun ? "▶ " : "") + row.title;
        const QRect top(room.left(), room.top(), room.width(), line);
        painter.drawText(top, Qt::AlignLeft | Qt::AlignVCenter,
                         QFontMetrics(bold).elidedText(title, Qt::ElideMiddle, room.width()));
        QRect signs(room.left(), room.top() + line + 2, room.width(), line);
        painter.setFont(plain);
        for (const LineKind kind : row.kinds) {
            signOf(kind).paint(&painter, QRect(signs.left(), signs.top(), signWidth, line));
            signs.setLeft(signs.left() + signWidth + 4);
        }
        painter.save();
        paintInks(painter, signs, row.inks, colours);
        painter.restore();
        painter.setPen(colours.quiet);
        const QRect bottom(room.left(), room.top() + 2 * line + 4, room.width(), line);
        painter.drawText(bottom, Qt::AlignRight | Qt::AlignVCenter, row.count);
        constexpr int gap = 8;
        const int taken = row.count.isEmpty() ? 0 : painter.fontMetrics().horizontalAdvance(row.count) + gap;
        painter.drawText(
            bottom, Qt::AlignLeft | Qt::AlignVCenter,
            painter.fontMetrics().elidedText(row.status, Qt::ElideRight, bottom.width() - taken));
    }

    const QueueList& list_;
};

/// All of the row in words, for its tooltip and for people who hear the window.
QString wordsOf(const QueueRow& row) {
    if (row.kind == QueueRow::Kind::heading || row.kind == QueueRow::Kind::hint)
        return row.title;
    QStringList holds;
    for (const LineKind kind : row.kinds)
        holds << nameOf(kind);
    if (row.kinds.empty())
        holds << tr("print only");
    for (const InkKind ink : row.inks)
        holds << nameOf(ink);
    return row.title + ": " + holds.join(", ") + "\n" + row.status +
           (row.count.isEmpty() ? QString() : ", " + row.count);
}

} // namespace

QueueList::QueueList(QWidget* parent) : QListWidget(parent) {
    auto* painter = new RowPainter(*this);
    painter->setParent(this);
    setItemDelegate(painter);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setVerticalScrollMode(ScrollPerPixel);
    setFrameShape(NoFrame);
    setDragDropMode(InternalMove);
    setDefaultDropAction(Qt::MoveAction);
    connect(this, &QListWidget::itemClicked, this, &QueueList::chosen);
}

void QueueList::showRows(const std::vector<QueueRow>& rows) {
    if (rows == rows_)
        return;
    const QueueRow before = selected() ? *selected() : QueueRow();
    const QSignalBlocker quiet(this);
    rows_ = rows;
    while (count() > int(rows.size()))
        delete takeItem(count() - 1);
    while (count() < int(rows.size()))
        addItem(new QListWidgetItem);
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const bool isText = rows[i].kind == QueueRow::Kind::heading || rows[i].kind == QueueRow::Kind::hint;
        const bool isEntry = rows[i].kind == QueueRow::Kind::entry;
        QListWidgetItem& one = *item(int(i));
        one.setFlags(isText ? Qt::ItemIsEnabled
                            : Qt::ItemIsEnabled | Qt::ItemIsSelectable |
                                  (isEntry ? Qt::ItemIsDragEnabled : Qt::NoItemFlags));
        one.setText(wordsOf(rows[i]));
        one.setToolTip(isText ? QString() : wordsOf(rows[i]));
        one.setData(Qt::SizeHintRole, QVariant());
    }
    select(before);
    doItemsLayout();
}

const QueueRow* QueueList::selected() const {
    const int row = currentRow();
    return row >= 0 && row < int(rows_.size()) &&
                   (rows_[std::size_t(row)].kind == QueueRow::Kind::sheet ||
                    rows_[std::size_t(row)].kind == QueueRow::Kind::entry)
               ? &rows_[std::size_t(row)]
               : nullptr;
}

void QueueList::select(const QueueRow& row) {
    const auto found = std::ranges::find_if(rows_, [&](const QueueRow& one) {
        return one.kind == row.kind && one.id == row.id && one.sheet == row.sheet;
    });
    const bool isThere = found != rows_.end() && row.kind != QueueRow::Kind::heading;
    setCurrentRow(isThere ? int(found - rows_.begin()) : -1);
}

void QueueList::selectSheet(std::size_t sheet) {
    QueueRow wanted;
    wanted.kind = QueueRow::Kind::sheet;
    wanted.sheet = sheet;
    select(wanted);
}

void QueueList::selectEntry(const std::string& id) {
    const auto found = std::ranges::find(rows_, id, &QueueRow::id);
    if (found != rows_.end())
        select(*found);
}

std::size_t QueueList::entriesBefore(int row) const {
    const auto end = rows_.begin() + std::clamp(row, 0, int(rows_.size()));
    return std::size_t(std::count_if(rows_.begin(), end,
                                     [](const QueueRow& one) { return one.kind == QueueRow::Kind::entry; }));
}

namespace {

bool movesUp(const QKeyEvent& key) {
    return key.modifiers() == Qt::AltModifier && key.key() == Qt::Key_Up;
}
bool movesDown(const QKeyEvent& key) {
    return key.modifiers() == Qt::AltModifier && key.key() == Qt::Key_Down;
}

} // namespace

/// The list's keys go before those of menus, which have some of them too.
bool QueueList::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride) {
        const auto& key = static_cast<QKeyEvent&>(*event);
        if (movesUp(key) || movesDown(key) || key.key() == Qt::Key_Delete) {
            event->accept();
            return true;
        }
    }
    return QListWidget::event(event);
}

void QueueList::keyPressEvent(QKeyEvent* event) {
    const QueueRow* row = selected();
    const std::string id = row && row->kind == QueueRow::Kind::entry ? row->id : std::string();
    const std::size_t place = entriesBefore(currentRow());
    if (movesUp(*event) || movesDown(*event)) {
        if (!id.empty() && (movesDown(*event) || place > 0))
            Q_EMIT moveWanted(id, movesDown(*event) ? place + 2 : place - 1);
    } else if (event->key() == Qt::Key_Delete) {
        if (!id.empty())
            Q_EMIT removeWanted(id);
    } else if (row && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter))
        Q_EMIT chosen();
    else
        QListWidget::keyPressEvent(event);
}

/// Files are dropped on the window.
void QueueList::dragEnterEvent(QDragEnterEvent* event) {
    if (event->source() == this)
        QListWidget::dragEnterEvent(event);
    else
        event->ignore();
}

void QueueList::dropEvent(QDropEvent* event) {
    if (event->source() != this)
        return event->ignore();
    event->setDropAction(Qt::CopyAction); // the rows are shown again as the queue then is
    event->accept();
    dropAt(event->position().toPoint());
}

void QueueList::dropAt(QPoint place) {
    const QueueRow* row = selected();
    if (!row || row->kind != QueueRow::Kind::entry)
        return;
    const QModelIndex at = indexAt(place);
    const bool isBelow = at.isValid() && place.y() > visualRect(at).center().y();
    Q_EMIT moveWanted(std::string(row->id),
                      entriesBefore(at.isValid() ? at.row() + (isBelow ? 1 : 0) : count()));
}

} // namespace hasami
