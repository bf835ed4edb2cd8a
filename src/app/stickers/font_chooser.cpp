#include "app/stickers/font_chooser.h"

#include "app/controls/design_controls.h"
#include "app/kit/theme.h"
#include "app/words/words.h"
#include "base/error.h"
#include "files/paint_sticker.h"
#include "lettering/ink.h"
#include "lettering/lay_lettering.h"

#include <QCheckBox>
#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QPainter>
#include <QStyledItemDelegate>
#include <QVBoxLayout>

#include <algorithm>
#include <map>

namespace hasami {

namespace {

constexpr QSize popupSize(320, 420);
constexpr int rowHeight = 48;

/// Draws a font's sample in its own letters, and its name below.
class FontSample : public QStyledItemDelegate {
public:
    FontSample(FontLibrary& fonts, QObject* parent) : QStyledItemDelegate(parent), fonts_(fonts) {}

    void setText(const QString& text) {
        text_ = text.trimmed().isEmpty() ? QString("Heather") : text.left(24);
        samples_.clear();
    }

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override {
        return {100, rowHeight};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option,
               const QModelIndex& index) const override {
        const bool isChosen = option.state & QStyle::State_Selected;
        painter->save();
        if (isChosen)
            painter->fillRect(option.rect, option.palette.highlight());
        const QColor ink =
            isChosen ? option.palette.highlightedText().color() : option.palette.text().color();
        const QRect inner = option.rect.adjusted(10, 4, -10, -4);
        const QPainterPath& sample = sampleOf(index.data(Qt::UserRole).toInt());
        painter->setRenderHint(QPainter::Antialiasing);
        painter->save();
        painter->setClipRect(inner);
        painter->translate(inner.left(), inner.top() + 20);
        painter->fillPath(sample, ink);
        painter->restore();
        QFont small = option.font;
        small.setPixelSize(QFontInfo(small).pixelSize() * 6 / 7);
        painter->setFont(small);
        painter->setPen(ink);
        painter->drawText(
            inner, Qt::AlignLeft | Qt::AlignBottom,
            painter->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, inner.width()));
        painter->restore();
    }

private:
    const QPainterPath& sampleOf(int number) const {
        const auto [found, isNew] = samples_.try_emplace(number);
        if (isNew)
            try {
                const KnownFont& known = fonts_.fonts().at(std::size_t(number));
                Lettering lettering;
                lettering.text = text_.toStdString();
                lettering.fonts = {{known.family, known.style}};
                lettering.capHeight = 15; // pixels
                const auto font = fonts_.open(known);
                for (const LaidLetter& letter :
                     layLettering(lettering, [&](const FontChoice&) { return font; }).letters)
                    found->second.addPath(painterPath(letter.rims));
                found->second.setFillRule(Qt::WindingFill);
            } catch (const InputError&) {
                found->second = {}; // a damaged font shows nothing; choosing it says why
            }
        return found->second;
    }

    FontLibrary& fonts_;
    QString text_ = "Heather";
    mutable std::map<int, QPainterPath> samples_;
};

} // namespace

FontChooser::FontChooser(Document& document, QWidget* parent)
    : QFrame(parent, Qt::Popup), document_(document), search_(new QLineEdit),
      heavyFirst_(new QCheckBox(tr("Heaviest first"))), list_(new QListWidget) {
    setObjectName("Fonts");
    setProperty("role", "panel");
    setFixedSize(popupSize);
    search_->setObjectName("Search fonts");
    search_->setAccessibleName(tr("Search fonts"));
    search_->setPlaceholderText(tr("Search fonts"));
    search_->setToolTip(tr("Shows fonts whose name holds what is typed"));
    search_->installEventFilter(this);
    heavyFirst_->setObjectName("Heaviest first");
    heavyFirst_->setToolTip(
        tr("Fonts with the most ink first: a picture inside the letters shows best in them"));
    list_->setObjectName("Font list");
    list_->setAccessibleName(tr("Fonts"));
    list_->setToolTip(tr("Click a font to set the lettering in it"));
    list_->setUniformItemSizes(true);
    list_->setItemDelegate(new FontSample(document.fonts(), list_));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 8);
    layout->setSpacing(6);
    layout->addWidget(search_);
    layout->addWidget(heavyFirst_);
    layout->addWidget(list_, 1);
    connect(search_, &QLineEdit::textChanged, this, &FontChooser::filter);
    connect(heavyFirst_, &QCheckBox::clicked, this, &FontChooser::sortByInk);
    connect(list_, &QListWidget::itemClicked, this, &FontChooser::take);
    connect(list_, &QListWidget::itemActivated, this, &FontChooser::take);
}

void FontChooser::open(const QWidget& button, const FontChoice& inUse, const QString& text) {
    inUse_ = inUse;
    static_cast<FontSample*>(list_->itemDelegate())->setText(text);
    if (list_->count() == 0)
        fill();
    search_->clear();
    filter();
    for (int row = 0; row < list_->count(); ++row) {
        const KnownFont& font = document_.fonts().fonts()[list_->item(row)->data(Qt::UserRole).toUInt()];
        if (font.family == inUse.family && font.style == inUse.style) {
            list_->setCurrentRow(row);
            list_->scrollToItem(list_->item(row), QAbstractItemView::PositionAtCenter);
        }
    }
    move(button.mapToGlobal(QPoint(button.width() - width(), button.height() + 2)));
    show();
    search_->setFocus();
}

void FontChooser::fill() {
    const auto& fonts = document_.fonts().fonts();
    std::vector<std::size_t> order(fonts.size());
    for (std::size_t i = 0; i < order.size(); ++i)
        order[i] = i;
    if (heavyFirst_->isChecked() && ink_.size() == fonts.size())
        std::ranges::stable_sort(order, [&](std::size_t a, std::size_t b) { return ink_[a] > ink_[b]; });
    list_->clear();
    for (const std::size_t i : order) {
        auto* item = new QListWidgetItem(QString::fromStdString(fonts[i].name()), list_);
        item->setData(Qt::UserRole, uint(i));
    }
    filter();
}

void FontChooser::filter() {
    int first = -1;
    for (int row = 0; row < list_->count(); ++row) {
        QListWidgetItem* item = list_->item(row);
        item->setHidden(!item->text().contains(search_->text().trimmed(), Qt::CaseInsensitive));
        if (!item->isHidden() && first < 0)
            first = row;
    }
    if (!search_->text().isEmpty() && first >= 0)
        list_->setCurrentRow(first);
}

/// Fonts are opened for it, which takes a while where there are many.
void FontChooser::sortByInk() {
    if (ink_.size() == document_.fonts().fonts().size())
        return fill();
    const auto measure = [fonts = document_.sharedFonts()](const std::stop_token& stop) {
        std::vector<double> ink;
        for (const KnownFont& font : fonts->fonts()) {
            throwIfStopped(stop);
            try {
                ink.push_back(inkShare(*FontLibrary::openOnce(font)));
            } catch (const InputError&) {
                ink.push_back(0);
            }
        }
        return ink;
    };
    runInBackground(document_.background().pictures, this, tr("The fonts can't be sorted"), measure,
                    [this](const Outcome<std::vector<double>>& ink) {
                        if (ink.value) {
                            ink_ = *ink.value;
                            fill();
                        }
                    });
}

void FontChooser::take() {
    const QListWidgetItem* item = list_->currentItem();
    if (!item || item->isHidden())
        return;
    hide();
    Q_EMIT chosen(document_.fonts().fonts()[item->data(Qt::UserRole).toUInt()]);
}

/// The list follows the keys while one types.
bool FontChooser::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) {
            take();
            return true;
        }
        if (key->key() == Qt::Key_Down || key->key() == Qt::Key_Up) {
            const int by = key->key() == Qt::Key_Down ? 1 : -1;
            int row = list_->currentRow() + by;
            while (row >= 0 && row < list_->count() && list_->item(row)->isHidden())
                row += by;
            if (row >= 0 && row < list_->count())
                list_->setCurrentRow(row);
            return true;
        }
    }
    return QFrame::eventFilter(watched, event);
}

} // namespace hasami
