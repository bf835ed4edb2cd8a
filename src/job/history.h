#pragma once

#include "job/job.h"

#include <memory>
#include <string>
#include <vector>

namespace hasami {

/// A job with all that undo and redo go back to. Jobs are never changed: an edit brings another one, and the
/// old one is shared by the history, saves and work in the background for as long as they need it.
class History {
public:
    explicit History(std::shared_ptr<const Job> job, std::string selected = {})
        : job_(std::move(job)), selected_(std::move(selected)) {}

    const std::shared_ptr<const Job>& job() const { return job_; } ///< never null
    const std::string& selected() const { return selected_; }      ///< a design's id, or empty
    void select(std::string design) { selected_ = std::move(design); }

    /// Another job takes the place of the present one, as one entry with that label. Entries in a row with
    /// the same `run` (a drag, a run of key presses) are one, until the run ends. The selection stays where
    /// its design is still there; else the last design is selected.
    void put(Job job, const std::string& label, const std::string& run = {});

    /// A run that ended as it began leaves no entry, and what could be redone before it can be again. True if
    /// so.
    bool endRun();
    /// Takes back what the run that is under way changed, which endRun then finds to be nothing. True if the
    /// job is another one by it.
    bool takeRunBack();

    /// Empty where there is nothing to undo or redo.
    std::string undoLabel() const { return labelOf(undo_); }
    std::string redoLabel() const { return labelOf(redo_); }
    /// True if the job is another one by it.
    bool undo() { return goBack(undo_, redo_); }
    bool redo() { return goBack(redo_, undo_); }

    /// Whether two jobs are equal; quick where they are the same one.
    static bool areEqual(const std::shared_ptr<const Job>& a, const std::shared_ptr<const Job>& b) {
        return a == b || *a == *b;
    }

private:
    struct Step {
        std::string label;
        std::shared_ptr<const Job> job; ///< what undo (or redo) goes back to
        std::string selected;
    };

    static std::string labelOf(const std::vector<Step>& steps) {
        return steps.empty() ? std::string() : steps.back().label;
    }
    bool goBack(std::vector<Step>& from, std::vector<Step>& to);

    std::shared_ptr<const Job> job_;
    std::string selected_;
    std::vector<Step> undo_, redo_;
    std::string run_; ///< that the last entry may go on with; empty: none
    std::vector<Step> redoBeforeRun_;
};

} // namespace hasami
