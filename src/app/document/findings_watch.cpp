#include "app/document/findings_watch.h"

#include "app/words/words.h"
#include "base/error.h"

#include <algorithm>

namespace hasami {

FindingsWatch::FindingsWatch(Document& document, QObject* parent) : QObject(parent), document_(document) {
    connect(&document, &Document::madeChanged, this, &FindingsWatch::look);
    look();
}

FindingsWatch::~FindingsWatch() {
    looking_.request_stop();
    drifting_.request_stop();
}

std::size_t FindingsWatch::countOf(const std::string& design) const {
    return std::size_t(std::ranges::count(findings(), design, &Finding::design));
}

std::size_t FindingsWatch::errors() const {
    return std::size_t(std::ranges::count(findings(), Severity::error, &Finding::severity));
}

std::shared_ptr<const StickerCheck> FindingsWatch::checkOf(const std::string& design) const {
    const auto found = known_->checks.find(design);
    return found == known_->checks.end() ? nullptr : found->second;
}

void FindingsWatch::look() {
    if (document_.isMade() && !isUpToDate())
        inspectAgain();
}

void FindingsWatch::setFilesOutside(const FilesOutside& around) {
    if (around_ == around)
        return;
    around_ = around;
    if (document_.isMade())
        inspectAgain();
}

void FindingsWatch::inspectAgain() {
    looking_.request_stop();
    looking_ = runInBackground(
        document_.background().checks, this, tr("The job can't be checked"),
        [job = document_.sharedJob(), made = document_.made(), stickers = stickers_,
         around = around_](const std::stop_token& stop) {
            Known known;
            known.revision = made->revision;
            known.findings = inspect(*job, *made, *stickers, stop, around);
            known.checks = stickers->ofAll(*made, job->profile, stop);
            return known;
        },
        [this](const Outcome<Known>& outcome) {
            if (!outcome.failure.empty())
                Q_EMIT document_.refused(QString::fromStdString(outcome.failure));
            if (!outcome.value)
                return;
            known_ = std::make_shared<const Known>(*outcome.value);
            Q_EMIT changed();
        });
}

void FindingsWatch::findSafeDrift(const std::optional<std::string>& design, std::size_t sheet,
                                  const CutDrift& drift, std::function<void(const SafeDrift&)> then) {
    drifting_.request_stop();
    drifting_ = runInBackground(
        document_.background().checks, this, tr("The safe drift can't be found"),
        [made = document_.made(), known = known_, design, sheet, drift](const std::stop_token& stop) {
            std::map<std::string, std::shared_ptr<const DriftRims>> rims;
            for (const auto& [id, check] : known->checks)
                rims[id] = check->rims;
            if (!design)
                return sheet < made->layout.sheets.size()
                           ? safeDrift(made->layout.sheets[sheet], rims, drift, stop)
                           : SafeDrift{};
            Sheet alone; // the design by itself, which is turned and stretched about its middle
            if (const MadeDesign* one = made->find(*design)) {
                alone.pieces.push_back({*design, {}});
                alone.work = one->sticker->footprint;
            }
            return safeDrift(alone, rims, drift, stop);
        },
        [then = std::move(then)](const Outcome<SafeDrift>& safe) {
            if (safe.value)
                then(*safe.value);
        });
}

std::optional<QString> FindingsWatch::fix(const Finding& finding) {
    if (!finding.fix)
        return {};
    try {
        Job changed = document_.job();
        finding.fix->apply(changed);
        document_.endRun();
        document_.change(QString::fromStdString(finding.fix->label), [&](Job& job) { job = changed; });
    } catch (const InputError& error) {
        return QString::fromStdString(error.what());
    }
    return {};
}

} // namespace hasami
