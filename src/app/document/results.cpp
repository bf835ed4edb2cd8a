#include "app/document/results.h"

#include <algorithm>
#include <utility>

namespace hasami {

namespace {

bool isGood(const MadeDesign& made) {
    return !made.sticker->isEmpty() && std::none_of(made.inks.begin(), made.inks.end(),
                                                    [](const auto& ink) { return ink->area.empty(); });
}

} // namespace

Results::Results(PictureSource pictures, QObject* parent)
    : QObject(parent), made_(std::make_shared<const Made>()) {
    const auto later = [this](auto act) { QMetaObject::invokeMethod(this, act, Qt::QueuedConnection); };
    workshop_ = std::make_unique<Workshop>(
        std::move(pictures),
        Workshop::Tells{
            [this, later](std::uint64_t revision, const MadeDesign& made) {
                later([this, revision, made] { takeDesign(revision, made); });
            },
            [this, later](const std::shared_ptr<const Made>& made) { later([this, made] { take(made); }); }});
    constexpr int showEvery = 60; // ms
    moreMade_.setSingleShot(true);
    moreMade_.setInterval(showEvery);
    connect(&moreMade_, &QTimer::timeout, this, &Results::changed);
}

Results::~Results() = default;

void Results::make(std::shared_ptr<const Job> job, const std::string& first) {
    ++revision_;
    first_ = first;
    workshop_->submit(std::move(job), revision_, first_);
}

void Results::makeFirst(std::shared_ptr<const Job> job, const std::string& first) {
    first_ = first;
    if (!isMade())
        workshop_->submit(std::move(job), revision_, first_);
}

void Results::forget() {
    firstRevision_ = revision_ + 1;
    newest_.clear();
    lastGood_.clear();
    made_ = std::make_shared<const Made>();
}

void Results::whenMade(std::function<void(std::shared_ptr<const Made>)> then) {
    if (isMade())
        then(made_);
    else
        waiting_.push_back(std::move(then));
}

void Results::take(std::shared_ptr<const Made> made) {
    if (made->revision != revision_)
        return; // of an older revision
    made_ = std::move(made);
    newest_.clear();
    moreMade_.stop();
    for (const MadeDesign& design : made_->designs)
        keepIfGood(design);
    Q_EMIT changed();
    for (const auto& then : std::exchange(waiting_, {}))
        then(made_);
}

void Results::takeDesign(std::uint64_t revision, MadeDesign made) {
    if (revision < firstRevision_ || revision <= made_->revision)
        return;
    const bool isFirst = made.design == first_;
    keepIfGood(made);
    newest_[made.design] = std::move(made);
    if (isFirst)
        Q_EMIT changed();
    else if (!moreMade_.isActive())
        moreMade_.start();
}

const MadeDesign* Results::newest(const std::string& design) const {
    const auto found = newest_.find(design);
    return found == newest_.end() ? made_->find(design) : &found->second;
}

void Results::keepIfGood(const MadeDesign& made) {
    if (!isGood(made))
        return;
    MadeDesign& kept = lastGood_[made.design];
    if (kept.sticker != made.sticker || kept.inks != made.inks)
        kept = made;
}

const MadeDesign* Results::lastGood(const std::string& design) const {
    const MadeDesign* now = newest(design);
    const auto found = lastGood_.find(design);
    const bool holds =
        now && found != lastGood_.end() && !isGood(*now) && found->second.artwork == now->artwork;
    return holds ? &found->second : nullptr;
}

} // namespace hasami
