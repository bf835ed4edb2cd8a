#include "app/stickers/lettering_hand.h"

#include "base/error.h"
#include "files/paint_sticker.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QTextBoundaryFinder>

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr const char* typingRun = "type lettering";
constexpr qsizetype mostLetters = 10'000;

/// Where in UTF-8 text a place in UTF-16 text is.
std::size_t bytesBefore(const QString& text, qsizetype place) {
    return std::size_t(text.left(place).toUtf8().size());
}

qsizetype unitsBefore(const std::string& text, std::size_t bytes) {
    return QString::fromUtf8(text.data(), qsizetype(std::min(bytes, text.size()))).size();
}

QPointF toPoint(Point p) {
    return {p.x, p.y};
}

} // namespace

LetteringHand::LetteringHand(ItemHand& items, QObject* parent) : QObject(parent), items_(items) {
    connect(&items, &ItemHand::changed, this, &LetteringHand::follow);
}

const Lettering* LetteringHand::lettering() const {
    const OwnArtwork* own = items_.own();
    return own ? std::get_if<Lettering>(&own->what) : nullptr;
}

QString LetteringHand::text() const {
    return lettering() ? QString::fromStdString(lettering()->text) : QString();
}

bool LetteringHand::begin(std::optional<Point> at) {
    if (!lettering())
        return false;
    isEditing_ = true;
    isPicking_ = false;
    anchor_ = 0;
    caret_ = text().size();
    if (at)
        moveTo(*at, false);
    Q_EMIT changed();
    return true;
}

void LetteringHand::end() {
    if (!isEditing_ && !isPicking_)
        return;
    const bool wasEditing = isEditing();
    isEditing_ = isPicking_ = false;
    items_.document().endRun();
    if (wasEditing && text().trimmed().isEmpty() && items_.canMove())
        items_.remove(); // nothing was typed
    Q_EMIT changed();
}

void LetteringHand::setPicking(bool isPicking) {
    if (isPicking && isEditing())
        end();
    isPicking_ = isPicking;
    Q_EMIT changed();
}

/// Undo, and other artwork that is held.
void LetteringHand::follow() {
    if (!lettering()) {
        if (isEditing_ || isPicking_) {
            isEditing_ = isPicking_ = false;
            Q_EMIT changed();
        }
        return;
    }
    caret_ = std::min(caret_, text().size());
    anchor_ = std::min(anchor_, text().size());
}

const LetteringHand::Places& LetteringHand::places() const {
    const Item& item = *items_.lone();
    const Drawing& drawing = *item.own()->drawing->drawing;
    places_.toDesign = item.toDesign() *
                       Affine::scaling(item.place.width / drawing.width, item.place.height / drawing.height);
    const std::string id = item.source() + lettering()->text;
    if (places_.of == id)
        return places_;
    places_.of = id;
    places_.all.clear();
    try {
        const LaidLettering laid =
            layLettering(*lettering(), items_.document().fonts().sourceFor(items_.document().job()));
        const Point origin = layoutOrigin(*lettering(), laid, drawing);
        places_.all = caretPlaces(lettering()->text, laid);
        for (CaretPlace& place : places_.all) {
            place.base = place.base + origin;
            place.top = place.top + origin;
        }
    } catch (const InputError&) {
        places_.all.push_back({}); // its font is not there: the text alone is known
    }
    return places_;
}

const CaretPlace& LetteringHand::placeOf(qsizetype caret) const {
    const std::size_t bytes = bytesBefore(text(), caret);
    const auto& all = places().all;
    const auto found = std::ranges::find_if(all, [&](const CaretPlace& place) { return place.at >= bytes; });
    return found == all.end() ? all.back() : *found;
}

QLineF LetteringHand::caret() const {
    const CaretPlace& place = placeOf(caret_);
    constexpr double below = 0.2; // of the cap height
    const Point foot = place.base + (place.base - place.top) * below,
                head = place.top + (place.top - place.base) * below;
    return {toPoint(places().toDesign(foot)), toPoint(places().toDesign(head))};
}

std::vector<QPolygonF> LetteringHand::selection() const {
    std::vector<QPolygonF> marked;
    const std::size_t from = bytesBefore(text(), std::min(caret_, anchor_)),
                      to = bytesBefore(text(), std::max(caret_, anchor_));
    const auto& all = places().all;
    const Affine& toDesign = places_.toDesign;
    for (std::size_t i = 0; i + 1 < all.size(); ++i) {
        const CaretPlace &here = all[i], &next = all[i + 1];
        if (here.at < from || here.at >= to || here.line != next.line)
            continue;
        marked.push_back(QPolygonF({toPoint(toDesign(here.base)), toPoint(toDesign(here.top)),
                                    toPoint(toDesign(next.top)), toPoint(toDesign(next.base))}));
    }
    return marked;
}

QString LetteringHand::selectedText() const {
    return text().mid(std::min(caret_, anchor_), std::abs(caret_ - anchor_));
}

/// Openings that were picked stay with their letters.
void LetteringHand::setText(const QString& text, qsizetype from, qsizetype taken, qsizetype added) {
    if (text.size() > mostLetters) {
        Q_EMIT items_.told(tr("Lettering can have at most %1 letters").arg(mostLetters));
        return;
    }
    const QString before = this->text();
    const int begin = int(bytesBefore(before, from)), end = int(bytesBefore(before, from + taken));
    const int grown = int(bytesBefore(text, from + added)) - end;
    const auto edit = [&](OwnArtwork& own, Job& job) {
        Lettering& lettering = std::get<Lettering>(own.what);
        lettering.text = text.toStdString();
        std::erase_if(lettering.switched, [&](const Counter& counter) {
            return counter.letter >= begin && counter.letter < end;
        });
        for (Counter& counter : lettering.switched)
            if (counter.letter >= end)
                counter.letter += grown;
        items_.document().fonts().addFallbacks(job, lettering);
    };
    items_.editOwn(tr("Type lettering"), edit, typingRun);
    if (this->text() == text)
        caret_ = anchor_ = from + added;
    Q_EMIT changed();
}

void LetteringHand::type(const QString& typed) {
    QString clean, lines = typed;
    lines.replace("\r\n", "\n").replace('\r', '\n');
    for (const QChar letter : std::as_const(lines))
        if (letter == '\n' || letter == '\t' || letter.isPrint() || letter.isSurrogate() ||
            letter.category() == QChar::Other_Format)
            clean += letter == '\t' ? QChar(' ') : letter;
    if (clean.isEmpty())
        return;
    const qsizetype from = std::min(caret_, anchor_), taken = std::abs(caret_ - anchor_);
    setText(text().replace(from, taken, clean), from, taken, clean.size());
}

void LetteringHand::erase(bool forward) {
    if (caret_ == anchor_)
        anchor_ = nextTo(caret_, Move::letter, forward);
    const qsizetype from = std::min(caret_, anchor_), taken = std::abs(caret_ - anchor_);
    if (taken > 0)
        setText(text().remove(from, taken), from, taken, 0);
}

void LetteringHand::selectAll() {
    anchor_ = 0;
    caret_ = text().size();
    Q_EMIT changed();
}

void LetteringHand::copy() const {
    if (!selectedText().isEmpty())
        QGuiApplication::clipboard()->setText(selectedText());
}

void LetteringHand::cut() {
    if (selectedText().isEmpty())
        return;
    copy();
    erase(true);
}

void LetteringHand::paste() {
    type(QGuiApplication::clipboard()->text());
}

qsizetype LetteringHand::nextTo(qsizetype caret, Move move, bool forward) const {
    const QString whole = text();
    switch (move) {
    case Move::letter:
    case Move::word: {
        QTextBoundaryFinder finder(
            move == Move::word ? QTextBoundaryFinder::Word : QTextBoundaryFinder::Grapheme, whole);
        finder.setPosition(caret);
        const qsizetype to = forward ? finder.toNextBoundary() : finder.toPreviousBoundary();
        return to < 0 ? caret : to;
    }
    case Move::endOfLine: {
        const qsizetype to = forward ? whole.indexOf('\n', caret) : whole.lastIndexOf('\n', caret - 1) + 1;
        return forward && to < 0 ? whole.size() : caret == 0 ? 0 : to;
    }
    case Move::endOfText:
        return forward ? whole.size() : 0;
    case Move::line: {
        const CaretPlace& here = placeOf(caret);
        const CaretPlace* best = nullptr;
        for (const CaretPlace& place : places().all)
            if (place.line == here.line + (forward ? 1 : -1) &&
                (!best || std::abs(place.base.x - here.base.x) < std::abs(best->base.x - here.base.x)))
                best = &place;
        return best ? unitsBefore(lettering()->text, best->at) : forward ? whole.size() : 0;
    }
    }
    return caret;
}

void LetteringHand::put(qsizetype caret, bool selects) {
    items_.document().endRun(); // what is typed elsewhere is another step
    caret_ = caret;
    if (!selects)
        anchor_ = caret;
    Q_EMIT changed();
}

void LetteringHand::move(Move move, bool forward, bool selects) {
    // Arrows go by the eye: in a line that runs from right to left, right is back.
    const bool isLetters = move == Move::letter || move == Move::word;
    if (isLetters && text().isRightToLeft())
        forward = !forward;
    if (!selects && caret_ != anchor_ && move == Move::letter)
        return put(forward ? std::max(caret_, anchor_) : std::min(caret_, anchor_), false);
    put(nextTo(caret_, move, forward), selects);
}

void LetteringHand::moveTo(Point place, bool selects) {
    const CaretPlace* best = nullptr;
    double nearest = 0;
    const Point own = inverse(places().toDesign)(place);
    for (const CaretPlace& caret : places().all)
        if (const double away = distanceToSegment(own, caret.base, caret.top); !best || away < nearest) {
            best = &caret;
            nearest = away;
        }
    put(unitsBefore(lettering()->text, best->at), selects);
}

void LetteringHand::switchCounterAt(Point place) {
    const Item* item = items_.lone();
    if (!lettering())
        return;
    try {
        const FontSource fonts = items_.document().fonts().sourceFor(items_.document().job());
        const Point origin =
            layoutOrigin(*lettering(), layLettering(*lettering(), fonts), *item->own()->drawing->drawing);
        const auto counter = counterAt(*lettering(), fonts, inverse(places().toDesign)(place) - origin);
        if (!counter)
            return Q_EMIT items_.told(tr("Click in an opening of a letter"));
        items_.editOwn(tr("Switch an opening"), [&](OwnArtwork& own, Job&) {
            auto& switched = std::get<Lettering>(own.what).switched;
            if (std::erase(switched, *counter) == 0)
                switched.push_back(*counter);
        });
    } catch (const InputError& error) {
        Q_EMIT items_.told(QString::fromStdString(error.what()));
    }
}

} // namespace hasami
