#include "job/history.h"

#include <utility>

namespace hasami {

namespace {

constexpr std::size_t mostSteps = 500;

} // namespace

void History::put(Job job, const std::string& label, const std::string& run) {
    const bool goesOn = !run.empty() && run == run_;
    if (goesOn)
        undo_.back().label = label;
    else
        undo_.push_back({label, job_, selected_});
    if (undo_.size() > mostSteps)
        undo_.erase(undo_.begin());
    if (!goesOn)
        redoBeforeRun_ = std::exchange(redo_, {});
    run_ = run;
    if (!job.find(selected_))
        selected_ = job.designs.empty() ? std::string() : job.designs.back().id;
    job_ = std::make_shared<const Job>(std::move(job));
}

bool History::endRun() {
    const bool isNothing = !run_.empty() && !undo_.empty() && areEqual(undo_.back().job, job_);
    if (isNothing) {
        undo_.pop_back();
        redo_ = std::move(redoBeforeRun_);
    }
    redoBeforeRun_.clear();
    run_.clear();
    return isNothing;
}

bool History::takeRunBack() {
    if (run_.empty() || undo_.empty() || areEqual(undo_.back().job, job_))
        return false;
    job_ = undo_.back().job;
    selected_ = undo_.back().selected;
    return true;
}

bool History::goBack(std::vector<Step>& from, std::vector<Step>& to) {
    endRun();
    if (from.empty())
        return false;
    Step step = std::move(from.back());
    from.pop_back();
    to.push_back({step.label, job_, selected_});
    job_ = std::move(step.job);
    selected_ = std::move(step.selected);
    return true;
}

} // namespace hasami
