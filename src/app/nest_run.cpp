#include "app/nest_run.h"

#include "app/work_aside.h"
#include "base/error.h"
#include "checks/costs.h"

#include <algorithm>

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
    Search(std::vector<Copies> all, const Layout& present, SheetPlan asked, Profile machine)
        : copies(std::move(all)), plan(std::move(asked)), profile(std::move(machine)),
          nest(copies, present, plan, profile) {}

    std::vector<Copies> copies;
    SheetPlan plan;
    Profile profile;
    SheetNest nest;

    std::mutex mutex; // guards what follows
    std::optional<nesting::Nest> newest;
    bool isNew = false, isOver = false;
    QString trouble;

    std::jthread thread; // last: ends before anything goes
};

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

NestRun::~NestRun() = default;

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
    const Job& job = document_.job();
    SheetPlan plan = job.plan;
    plan.packing = Packing::nest;
    const std::vector<Copies> copies = copiesOf(job, made->designs);
    const Layout present = layOut(copies, plan, job.profile, Checking::no);
    auto search = std::make_shared<Search>(copies, present, plan, job.profile);
    if (!search->nest.trouble().empty()) {
        Q_EMIT changed();
        Q_EMIT told(QString::fromStdString(search->nest.trouble()));
        return;
    }
    search_ = std::move(search);
    isShowing_ = false;
    ++number_;
    clock_.start();
    looking_.start();
    search_->thread = std::jthread([&search = *search_, seconds = length_](const std::stop_token& stop) {
        const auto keep = [&](const nesting::Nest& better) {
            const std::scoped_lock lock(search.mutex);
            search.newest = better;
            search.isNew = true;
        };
        try {
            keep(nesting::nest(search.nest.problem(), {seconds, {}, 1, 0}, stop, keep));
        } catch (const InputError& error) {
            const std::scoped_lock lock(search.mutex);
            search.trouble = QString::fromUtf8(error.what());
        }
        const std::scoped_lock lock(search.mutex);
        search.isOver = true;
    });
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
    if (found) {
        isShowing_ = true;
        workAside(
            this,
            [search = search_, nest = *found] {
                SheetPlan plan = search->plan;
                plan.laid = search->nest.laid(nest);
                return std::make_shared<const Layout>(
                    layOut(search->copies, plan, search->profile, Checking::no));
            },
            [this, number = number_, at = seconds()](const std::shared_ptr<const Layout>& layout) {
                if (!search_ || number != number_)
                    return;
                isShowing_ = false;
                best_ = layout;
                curve_.push_back({at, layoutCosts(document_.job(), *document_.made(), *layout).density});
                Q_EMIT changed();
            });
    }
    if (isOver && !isShowing_)
        return finish(); // the last one has been taken
    Q_EMIT changed();
}

void NestRun::stop() {
    if (search_)
        finish();
    else if (std::exchange(isWaiting_, false))
        Q_EMIT changed();
}

void NestRun::finish() {
    const std::shared_ptr<Search> search = std::exchange(search_, nullptr);
    looking_.stop();
    search->thread.request_stop();
    search->thread.join();
    best_.reset();
    if (search->newest) {
        document_.endRun();
        document_.change("Nest", [&](Job& job) {
            job.plan.packing = Packing::nest;
            job.plan.laid = search->nest.laid(*search->newest);
        });
    }
    Q_EMIT changed();
    if (!search->trouble.isEmpty())
        Q_EMIT told("The stickers can't be nested: " + search->trouble);
}

/// Another job takes the place of this one.
void NestRun::drop() {
    isWaiting_ = false;
    search_.reset();
    best_.reset();
    curve_.clear();
    looking_.stop();
    Q_EMIT changed();
}

} // namespace hasami
