#include "job/history.h"

#include <catch2/catch.hpp>

using namespace hasami;

namespace {

/// A job of designs by these ids, with a gap that distinguishes it from others.
Job jobOf(std::initializer_list<const char*> ids, double gap) {
    Job job;
    for (const char* id : ids) {
        job.designs.push_back({});
        job.designs.back().id = id;
    }
    job.plan.gap = gap;
    return job;
}

History startOf(const Job& job, const std::string& selected = {}) {
    return History(std::make_shared<const Job>(job), selected);
}

} // namespace

TEST_CASE("undo and redo go through all entries and give their labels") {
    History history = startOf(jobOf({"a"}, 1), "a");
    CHECK(history.undoLabel().empty());
    CHECK_FALSE(history.undo());
    history.put(jobOf({"a"}, 2), "Gap");
    history.put(jobOf({"a", "b"}, 2), "Open b");
    history.select("b");
    CHECK(history.undoLabel() == "Open b");
    CHECK(history.undo());
    CHECK(history.job()->designs.size() == 1);
    CHECK(history.selected() == "a"); // as it was before the entry
    CHECK(history.redoLabel() == "Open b");
    CHECK(history.undo());
    CHECK(history.job()->plan.gap == 1);
    CHECK_FALSE(history.undo());
    CHECK(history.redo());
    CHECK(history.redo());
    CHECK(history.selected() == "b");
    CHECK_FALSE(history.redo());
    CHECK(history.undo());
    history.put(jobOf({"a"}, 3), "Gap");
    CHECK(history.redoLabel().empty()); // another way was taken
}

TEST_CASE("entries with one run are one, with the newest label, until it ends") {
    History history = startOf(jobOf({}, 1));
    history.put(jobOf({}, 2), "Gap 2", "drag");
    history.put(jobOf({}, 3), "Gap 3", "drag");
    CHECK(history.undoLabel() == "Gap 3");
    CHECK_FALSE(history.endRun());
    history.put(jobOf({}, 4), "Gap 4", "drag");
    CHECK(history.undo());
    CHECK(history.job()->plan.gap == 3);
    CHECK(history.undo());
    CHECK(history.job()->plan.gap == 1);
}

TEST_CASE("a run that ends as it began leaves no entry, and what could be redone can be again") {
    History history = startOf(jobOf({}, 1));
    history.put(jobOf({}, 2), "Gap");
    history.undo();
    history.put(jobOf({}, 5), "Drag", "drag");
    CHECK(history.redoLabel().empty());
    history.put(jobOf({}, 1), "Drag", "drag");
    CHECK(history.endRun());
    CHECK(history.undoLabel().empty());
    CHECK(history.redoLabel() == "Gap");

    history.put(jobOf({}, 7), "Drag", "drag"); // taken back by Escape
    CHECK(history.takeRunBack());
    CHECK(history.job()->plan.gap == 1);
    CHECK(history.endRun());
    CHECK_FALSE(history.takeRunBack());
    CHECK(history.redoLabel() == "Gap");
}

TEST_CASE("where the selected design goes, the last one is selected") {
    History history = startOf(jobOf({"a", "b", "c"}, 1), "b");
    history.put(jobOf({"a", "c"}, 1), "Delete b");
    CHECK(history.selected() == "c");
    history.put(jobOf({}, 1), "Delete all");
    CHECK(history.selected().empty());
    history.undo();
    history.undo();
    CHECK(history.selected() == "b");
}

TEST_CASE("the history keeps 500 entries, and shares jobs instead of copying them") {
    const auto first = std::make_shared<const Job>(jobOf({"a"}, 0));
    History history(first, "a");
    for (int i = 1; i <= 600; ++i)
        history.put(jobOf({"a"}, i), "Gap");
    CHECK(first.use_count() == 1); // the oldest entries are gone
    int steps = 0;
    while (history.undo())
        ++steps;
    CHECK(steps == 500);
    CHECK(history.job()->plan.gap == 100);
    const std::shared_ptr<const Job> now = history.job();
    history.redo();
    history.undo();
    CHECK(history.job() == now);
}
