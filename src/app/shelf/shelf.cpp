#include "app/shelf/shelf.h"

#include "app/kit/quantity_field.h"
#include "app/kit/theme.h"
#include "app/paint/paint_design.h"
#include "app/shelf/reading_bar.h"
#include "app/words/words.h"

#include <QAction>
#include <QApplication>
#include <QListView>
#include <QMimeData>
#include <QPushButton>
#include <QSignalBlocker>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

namespace hasami {

namespace {

/// Paints a design's card.
class CardDelegate : public QStyledItemDelegate {
public:
    explicit CardDelegate(Document& document, QObject* parent)
        : QStyledItemDelegate(parent), document_(document) {}

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override { return {180, 92}; }

    /// The count, typed on the card itself.
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem&,
                          const QModelIndex& index) const override {
        auto* field =
            new QuantityField(QuantityKind::count, 0, Limits::mostCopies, parent); // the view owns it
        field->setObjectName("Card count field");
        field->setAccessibleName(QObject::tr("Copies of %1").arg(index.data().toString()));
        field->setToolTip(tr("How many copies of this sticker lie on the sheet"));
        return field;
    }

    void setEditorData(QWidget* editor, const QModelIndex& index) const override {
        auto* field = static_cast<QuantityField*>(editor);
        field->show(index.data(Qt::EditRole).toInt());
        field->selectAll();
    }

    void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override {
        auto* field = static_cast<QuantityField*>(editor);
        if (const auto typed = field->typed())
            model->setData(index, int(*typed), Qt::EditRole);
    }

    void updateEditorGeometry(QWidget* editor, const QStyleOptionViewItem& option,
                              const QModelIndex&) const override {
        editor->setGeometry(option.rect.left() + 84, option.rect.bottom() - 36, 88, 30);
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        if (index.row() >= int(document_.job().designs.size()))
            return;
        const Design& design = document_.job().designs[std::size_t(index.row())];
        const MadeDesign* made = document_.newest(design.id);
        const QRectF card = QRectF(option.rect).adjusted(4, 4, -4, -4);
        const Colours& c = coloursOf(QApplication::palette()); // the list's own is see-through
        const bool selected = option.state & QStyle::State_Selected;
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        painter->setPen(QPen(selected ? c.indigo : c.rule, selected ? 2 : 1));
        painter->setBrush(selected ? c.tint : c.ground);
        painter->drawRoundedRect(card, 8, 8);
        paintPicture(*painter, card.adjusted(8, 8, 0, -8), design);

        QRectF text = card.adjusted(84, 8, -8, -8);
        QFont bold = option.font;
        bold.setWeight(QFont::DemiBold);
        painter->setFont(bold);
        painter->setPen(c.ink);
        painter->drawText(text, Qt::AlignTop,
                          QFontMetricsF(bold).elidedText(QString::fromStdString(design.name), Qt::ElideRight,
                                                         text.width()));
        painter->setFont(option.font);
        painter->setPen(c.quiet);
        const double line = QFontMetricsF(option.font).height() + 4;
        const bool hasLine = made && !made->sticker->isEmpty();
        painter->drawText(text.adjusted(0, line, 0, 0), Qt::AlignTop,
                          hasLine ? sizeText(made->sticker->peeledBox.width(),
                                             made->sticker->peeledBox.height(), document_.job().unit)
                                  : QString("…"));
        if (made && !made->trouble.empty()) {
            painter->setPen(c.warning);
            painter->drawText(text.adjusted(0, 2 * line, 0, 0), Qt::AlignTop, tr("▲ no cut line"));
        } else {
            painter->drawText(text.adjusted(0, 2 * line, 0, 0), Qt::AlignTop,
                              design.fills ? tr("fill") : QString("%1 ×").arg(design.count));
        }
        if (const std::size_t count = watch_ ? watch_->countOf(design.id) : 0; count > 0) {
            painter->setPen(c.warning);
            painter->drawText(text, Qt::AlignRight | Qt::AlignBottom, QString("▲ %1").arg(count));
        }
        painter->restore();
    }

    void setWatch(const FindingsWatch& watch) { watch_ = &watch; }

private:
    void paintPicture(QPainter& painter, QRectF room, const Design& design) const {
        room.setWidth(68);
        const Sticker& sticker = stickerOf(document_, design.id);
        Box box = bounds(design.artwork);
        if (!sticker.peeledBox.isEmpty())
            box = sticker.peeledBox;
        const double scale = std::min(room.width() / box.width(), room.height() / box.height());
        painter.save();
        painter.translate(room.center());
        painter.scale(scale, scale);
        painter.translate(-box.centre().x, -box.centre().y);
        const DesignPainting painting{document_, design, sticker, scale};
        if (sticker.isEmpty())
            painting.artwork(painter);
        else
            painting.peeled(painter);
        painter.restore();
    }

    Document& document_;
    const FindingsWatch* watch_ = nullptr;
};

/// A design's id, dragged along the shelf.
QString cardType() {
    return "application/x-hasami-card";
}

} // namespace

ShelfModel::ShelfModel(Document& document)
    : QAbstractListModel(&document), document_(document), rows_(int(document.job().designs.size())) {
    connect(&document, &Document::jobChanged, this, &ShelfModel::update);
    connect(&document, &Document::madeChanged, this, &ShelfModel::update);
    connect(&document.pictures(), &PictureCache::ready, this, &ShelfModel::update);
}

int ShelfModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : rows_;
}

QVariant ShelfModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= int(document_.job().designs.size()))
        return {};
    const Design& design = document_.job().designs[std::size_t(index.row())];
    if (role == Qt::DisplayRole)
        return QString::fromStdString(design.name);
    if (role == Qt::AccessibleTextRole)
        return tr("%1, copies: %2").arg(QString::fromStdString(design.name)).arg(design.count);
    if (role == Qt::EditRole)
        return design.count;
    if (role == Qt::UserRole)
        return QString::fromStdString(design.id);
    return {};
}

bool ShelfModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !index.isValid())
        return false;
    const std::string id = index.data(Qt::UserRole).toString().toStdString();
    document_.endRun();
    document_.change(counted(std::size_t(value.toInt()), "%1 copy", "%1 copies"), [&](Job& job) {
        if (Design* design = job.find(id))
            design->count = value.toInt(), design->fills = false;
    });
    return true;
}

QStringList ShelfModel::mimeTypes() const {
    return {cardType()};
}

Qt::ItemFlags ShelfModel::flags(const QModelIndex& index) const {
    return QAbstractListModel::flags(index) |
           (index.isValid() ? Qt::ItemIsDragEnabled | Qt::ItemIsEditable : Qt::ItemIsDropEnabled);
}

QMimeData* ShelfModel::mimeData(const QModelIndexList& indexes) const {
    auto* data = new QMimeData; // the drag owns it
    data->setData(cardType(), indexes.front().data(Qt::UserRole).toString().toUtf8());
    return data;
}

bool ShelfModel::dropMimeData(const QMimeData* data, Qt::DropAction, int row, int, const QModelIndex&) {
    const std::string id = data->data(cardType()).toStdString();
    if (id.empty())
        return false;
    document_.moveDesign(id, row < 0 ? document_.job().designs.size() : std::size_t(row));
    return false; // moved already: the view is not to remove anything
}

void ShelfModel::update() {
    const int rows = int(document_.job().designs.size());
    if (rows != rows_) {
        beginResetModel();
        rows_ = rows;
        endResetModel();
    } else if (rows > 0) {
        Q_EMIT dataChanged(index(0), index(rows - 1));
    }
}

Shelf::Shelf(Document& document, QWidget* parent)
    : QFrame(parent), document_(document), list_(new QListView) {
    setProperty("role", "panel");
    setFixedWidth(232);
    list_->setObjectName("Shelf");
    list_->setAccessibleName(tr("Shelf"));
    list_->setToolTip(
        tr("Your designs: pick one to work on, double-click to type its count, drag it to another "
           "place, right-click for more"));
    list_->setEditTriggers(QAbstractItemView::DoubleClicked);
    list_->setModel(new ShelfModel(document));
    list_->setItemDelegate(new CardDelegate(document, list_));
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setDragDropMode(QAbstractItemView::InternalMove);
    list_->setContextMenuPolicy(Qt::ActionsContextMenu);
    auto* add = new QPushButton(icon("add"), tr("Open artwork…"));
    add->setToolTip(tr("Make new designs from pictures; dropping files on the window does the same"));

    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 8);
    layout->addWidget(list_, 1);
    layout->addWidget(new ReadingBar(document));
    layout->addWidget(add);

    auto* remove = new QAction(tr("Delete design"), list_);
    remove->setShortcut(QKeySequence::Delete);
    remove->setShortcutContext(Qt::WidgetShortcut);
    list_->addAction(remove);
    connect(remove, &QAction::triggered, this, [this] { document_.deleteDesign(document_.selected()); });
    connect(add, &QPushButton::clicked, this, &Shelf::artworkWanted);
    connect(list_->selectionModel(), &QItemSelectionModel::currentChanged, this,
            [this](const QModelIndex& now) {
                if (now.isValid())
                    document_.select(now.data(Qt::UserRole).toString().toStdString());
            });
    connect(&document, &Document::selectionChanged, this, &Shelf::showSelection);
    connect(list_->model(), &QAbstractItemModel::modelReset, this, &Shelf::showSelection);
    showSelection();
}

void Shelf::offerToMake(QMenu* kinds) {
    auto* make = new QPushButton(tr("Make artwork"));
    make->setObjectName("Make artwork");
    make->setToolTip(tr("A new design from lettering, a shape or a code"));
    make->setMenu(kinds);
    layout()->addWidget(make);
}

void Shelf::showFindings(const FindingsWatch& watch) {
    static_cast<CardDelegate*>(list_->itemDelegate())->setWatch(watch);
    connect(&watch, &FindingsWatch::changed, list_->viewport(), qOverload<>(&QWidget::update));
}

void Shelf::setDesignActions(const QList<QAction*>& actions) {
    list_->addActions(actions);
}

void Shelf::editCount() {
    list_->edit(list_->currentIndex());
}

void Shelf::showSelection() {
    const QSignalBlocker quiet(list_->selectionModel());
    list_->selectionModel()->clear();
    for (std::size_t i = 0; i < document_.job().designs.size(); ++i)
        if (document_.job().designs[i].id == document_.selected())
            list_->setCurrentIndex(list_->model()->index(int(i), 0));
    list_->viewport()->update();
}

} // namespace hasami
