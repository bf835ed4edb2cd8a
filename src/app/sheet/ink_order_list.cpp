#include "app/sheet/ink_order_list.h"

#include "app/paint/line_names.h"
#include "app/words/words.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QListWidget>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>

namespace hasami {

namespace {

QString nameOfPass(const InkOrder::Pass& pass) {
    return pass ? nameOf(*pass) : tr("Colours");
}

std::vector<InkOrder::Pass> reversed(std::vector<InkOrder::Pass> passes) {
    std::ranges::reverse(passes);
    return passes;
}

} // namespace

InkOrderList::InkOrderList(QWidget* parent)
    : QWidget(parent), list_(new QListWidget), up_(new QPushButton(tr("Move up"))),
      down_(new QPushButton(tr("Move down"))), twice_(new QCheckBox(tr("Print the colours twice"))) {
    list_->setObjectName("Order of the inks");
    list_->setAccessibleName(tr("Order of the inks"));
    list_->setToolTip(tr("Each ink covers those below it; the medium lies under the last one"));
    list_->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setDragDropMode(QAbstractItemView::InternalMove);
    list_->installEventFilter(this);
    connect(list_->model(), &QAbstractItemModel::rowsMoved, this, &InkOrderList::takeDragged,
            Qt::QueuedConnection);
    connect(list_, &QListWidget::currentRowChanged, this, &InkOrderList::showButtons);
    up_->setObjectName("Move ink up");
    up_->setToolTip(tr("The chosen ink is printed later, over the one above (Alt+Up)"));
    down_->setObjectName("Move ink down");
    down_->setToolTip(tr("The chosen ink is printed earlier, under the one below (Alt+Down)"));
    connect(up_, &QPushButton::clicked, this, [this] { move(-1); });
    connect(down_, &QPushButton::clicked, this, [this] { move(1); });
    twice_->setObjectName("Print the colours twice");
    twice_->setToolTip(tr("Once more on top, with white between: read from both sides"));
    connect(twice_, &QCheckBox::clicked, this, &InkOrderList::setTwice);
    auto* buttons = new QHBoxLayout;
    for (QPushButton* button : {up_, down_}) {
        button->setProperty("role", "small");
        buttons->addWidget(button);
    }
    buttons->addStretch(1);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(list_);
    layout->addLayout(buttons);
    layout->addWidget(twice_);
}

void InkOrderList::show(const InkOrder& order) {
    const QSignalBlocker quiet(list_);
    downwards_ = reversed(order.passes());
    const int row = std::max(list_->currentRow(), 0);
    list_->clear();
    for (const InkOrder::Pass& pass : downwards_) {
        auto* item = new QListWidgetItem(nameOfPass(pass), list_);
        item->setFlags(item->flags() & ~Qt::ItemIsDropEnabled); // between others, not onto one
    }
    list_->setCurrentRow(std::min(row, list_->count() - 1));
    constexpr int mostRows = int(inkKinds.size()) + 2; // the colours twice: what is below stays in its place
    list_->setFixedHeight(mostRows * list_->sizeHintForRow(0) + 2 * list_->frameWidth());
    twice_->setChecked(order.printsColoursTwice());
    showButtons();
}

/// The list's keys go before those of menus, which have them too.
bool InkOrderList::eventFilter(QObject* object, QEvent* event) {
    const bool isKey = event->type() == QEvent::KeyPress || event->type() == QEvent::ShortcutOverride;
    if (object != list_ || !isKey)
        return QWidget::eventFilter(object, event);
    const auto& key = static_cast<QKeyEvent&>(*event);
    if (key.modifiers() != Qt::AltModifier || (key.key() != Qt::Key_Up && key.key() != Qt::Key_Down))
        return QWidget::eventFilter(object, event);
    if (event->type() == QEvent::ShortcutOverride)
        event->accept();
    else
        move(key.key() == Qt::Key_Up ? -1 : 1);
    return true;
}

/// Past each other, two passes of the colours would be one: such a move goes on over the next ink.
void InkOrderList::move(int by) {
    std::vector<InkOrder::Pass> passes = downwards_;
    int row = list_->currentRow();
    const auto isInside = [&](int place) { return place >= 0 && place < int(passes.size()); };
    while (isInside(row) && isInside(row + by)) {
        std::swap(passes[std::size_t(row)], passes[std::size_t(row + by)]);
        row += by;
        if (InkOrder::isValid(passes)) {
            list_->setCurrentRow(row);
            return choose(std::move(passes));
        }
    }
}

void InkOrderList::takeDragged() {
    std::vector<InkOrder::Pass> passes, left = downwards_;
    for (int i = 0; i < list_->count(); ++i) {
        const auto found = std::ranges::find(left, list_->item(i)->text(), nameOfPass);
        if (found == left.end())
            return;
        passes.push_back(*found);
        left.erase(found);
    }
    if (left.empty() && InkOrder::isValid(passes))
        return choose(std::move(passes));
    show(InkOrder(reversed(downwards_)));
}

/// With white between.
void InkOrderList::setTwice(bool isTwice) {
    const InkOrder order(reversed(downwards_));
    choose(reversed(order.with(isTwice ? WhitePlace::between : WhitePlace::under).passes()));
}

void InkOrderList::showButtons() {
    up_->setEnabled(list_->currentRow() > 0);
    down_->setEnabled(list_->currentRow() >= 0 && list_->currentRow() + 1 < list_->count());
}

void InkOrderList::choose(std::vector<InkOrder::Pass> downwards) {
    const InkOrder order(reversed(std::move(downwards)));
    show(order);
    Q_EMIT chosen(order);
}

} // namespace hasami
