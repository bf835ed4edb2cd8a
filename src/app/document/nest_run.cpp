#include "app/document/nest_run.h"

#include "app/words/words.h"
#include "checks/costs.h"

#include <algorithm>
#include <mutex>

namespace hasami {

namespace {

constexpr int lookEvery = 100; // ms

/// Whether a search for the one's layout serves the other too.
bool packAlike(const Job& a, const Job& b) {
    const auto isSame = [](const Design& d, const Design& e) {
        return d.id == e.id && d.artwork == e.artwork && d.recipe == e.recipe && d.count == e.count &&
               d.fills == e.fills && d.turning == e.turning;
    };
    SheetPlan plan = a.plan;
    plan.medium.price = b.plan.medium.price;
    return plan == b.plan && a.profile == b.profile &&
           std::equal(a.designs.begin(), a.designs.end(), b.designs.begin(), b.designs.end(), isSame);
}

} // namespace

/// What the search's thread and the window share.
struct NestRun::Search {
    /// What is searched for; set once by the search's thread, before there is anything newest.
    struct Asked {
        std::vector<Copies> copies;
        SheetPlan plan;
        Profile profile;
        SheetNest nest;
    };

    std::mutex mutex; // guards what follows
    std::shared_ptr<const Asked> asked;
    std::optional<nesting::Nest> newest;
    bool isNew = false;

    // The window's alone.
    std::stop_source stop;
    bool isOver = false;
};

namespace {

/// Searches, and publishes each better layout. What is returned: why there is nothing to nest, or nothing.
template <class Search>
QString runSearch(Search& search, const Job& job, const Made& made, double seconds,
                  const std::stop_token& stop) {
    SheetPlan plan = job.plan;
    plan.packing = Packing::nest;
    std::vector<Copies> copies = copiesOf(job, made.designs);
    const Layout present = layOut(copies, plan, job.profile, Checking::no, stop);
    SheetNest nest(copies, present, plan, job.profile, stop);
    if (!nest.trouble().empty())
        return QString::fromStdString(nest.trouble());
    const auto asked = std::make_shared<const typename Search::Asked>(
        typename Search::Asked{std::move(copies), std::move(plan), job.profile, std::move(nest)});
    {
        const std::scoped_lock lock(search.mutex);
        search.asked = asked;
    }
    const auto keep = [&](const nesting::Nest& better) {
        const std::scoped_lock lock(search.mutex);
        search.newest = better;
        search.isNew = true;
    };
    try {
        keep(nesting::nest(asked->nest.problem(), {seconds, {}, 1, 0}, stop, keep));
    } catch (const InputError& error) {
        throw InputError(sentence("The stickers can't be nested: %1", error.what()));
    }
    return {};
}

} // namespace

NestRun::NestRun(Document& document, QObject* parent) : QObject(parent), document_(document) {
    looking_.setInterval(lookEvery);
    connect(&looking_, &QTimer::timeout, this, &NestRun::look);
    connect(&document, &Document::aboutToChange, this, [this](const Job& next) {
        if (isOn() && !packAlike(document_.job(), next))
            stop();
    });
    connect(&document, &Document::aboutToGoBack, this, &NestRun::stop);
    connect(&document, &Document::aboutToReset, this, &NestRun::drop);
}

NestRun::~NestRun() {
    if (search_)
        search_->stop.request_stop();
}

bool NestRun::isSettingUp() const {
    if (!search_)
        return isWaiting_;
    const std::scoped_lock lock(search_->mutex);
    return !search_->asked;
}

double NestRun::seconds() const {
    return clock_.isValid() ? double(clock_.elapsed()) / 1000 : 0;
}

double NestRun::density() const {
    return curve_.empty() ? 0 : curve_.back().density;
}

void NestRun::start() {
    if (isOn())
        return;
    isWaiting_ = true;
    curve_.clear();
    clock_.invalidate();
    best_.reset();
    Q_EMIT changed();
    document_.whenMade([this](const std::shared_ptr<const Made>& made) {
        if (isWaiting_)
            begin(made);
    });
}

void NestRun::begin(const std::shared_ptr<const Made>& made) {
    isWaiting_ = false;
    search_ = std::make_shared<Search>();
    isShowing_ = false;
    ++number_;
    clock_.start();
    looking_.start();
    const auto end = [this, search = search_](const Outcome<QString>& outcome) {
        if (search != search_)
            return; // stopped by hand, and all taken
        if (outcome.value && outcome.value->isEmpty())
            search_->isOver = true;
        else
            giveUp(outcome.value ? *outcome.value : QString::fromStdString(outcome.failure));
    };
    search_->stop = runInBackground(
        document_.background().nesting, this, tr("The stickers can't be nested"),
        [search = search_, job = document_.sharedJob(), made, seconds = length_](
            const std::stop_token& stop) { return runSearch(*search, *job, *made, seconds, stop); },
        end);
    Q_EMIT changed();
}

/// Takes what the search has found since the last look.
void NestRun::look() {
    if (!search_)
        return;
    std::optional<nesting::Nest> found;
    bool isOver = false;
    {
        const std::scoped_lock lock(search_->mutex);
        if (!isShowing_ && std::exchange(search_->isNew, false))
            found = search_->newest;
        isOver = search_->isOver && !search_->isNew;
    }
    if (found)
        show(*found);
    if (isOver && !isShowing_)
        return finish(); // the last one has been taken
    Q_EMIT changed();
}

void NestRun::show(const nesting::Nest& nest) {
    isShowing_ = true;
    const auto lay = [asked = search_->asked, nest](const std::stop_token& stop) {
        SheetPlan plan = asked->plan;
        plan.laid = asked->nest.laid(nest);
        return std::make_shared<const Layout>(
            layOut(asked->copies, plan, asked->profile, Checking::no, stop));
    };
    runInBackground(
        document_.background().nestShown, this, tr("The nest can't be shown"), lay,
        [this, number = number_, at = seconds()](const Outcome<std::shared_ptr<const Layout>>& layout) {
            if (!search_ || number != number_)
                return;
            isShowing_ = false;
            if (!layout.value)
                return; // the next better one may be
            best_ = *layout.value;
            curve_.push_back({at, layoutCosts(document_.job(), *document_.made(), *best_).density});
            Q_EMIT changed();
        });
}

void NestRun::stop() {
    if (search_)
        finish();
    else if (std::exchange(isWaiting_, false))
        Q_EMIT changed();
}

/// The best goes into the job; the search, where it still goes on, ends by itself.
void NestRun::finish() {
    const std::shared_ptr<Search> search = std::exchange(search_, nullptr);
    search->stop.request_stop();
    looking_.stop();
    best_.reset();
    std::optional<nesting::Nest> newest;
    {
        const std::scoped_lock lock(search->mutex);
        newest = search->newest;
    }
    if (newest) {
        document_.endRun();
        document_.change(tr("Nest"), [&](Job& job) {
            job.plan.packing = Packing::nest;
            job.plan.laid = search->asked->nest.laid(*newest);
        });
    }
    Q_EMIT changed();
}

void NestRun::giveUp(const QString& why) {
    drop();
    if (!why.isEmpty())
        Q_EMIT told(why);
}

/// Another job takes the place of this one.
void NestRun::drop() {
    isWaiting_ = false;
    if (search_)
        search_->stop.request_stop();
    search_.reset();
    best_.reset();
    curve_.clear();
    looking_.stop();
    Q_EMIT changed();
}

} // namespace hasami
