#pragma once

#include "run/run_event.h"

namespace hasami {

/// What goes on in the present step.
enum class RunActivity {
    none,      ///< the operator comes next
    printing,  ///< also drawing what is printed
    preparing, ///< the cut
    locating,  ///< the marks are read, or the head is asked for
    cutting,   ///< a pass or a test cut
    paused,
    stopping, ///< the knife is being lifted
    checking, ///< what was cut
};

/// A run of one sheet, from the printer to the weeded stickers, on any machine: a pure state machine. Events
/// come from the operator and from the machine; each gives what is to be done. While a cut is under way
/// (isCutting), nothing but pause, resume, stop and the machine's own answers changes anything.
class RunModel {
public:
    /// `now`: any clock that runs evenly, s.
    std::vector<RunEffect> on(const RunEvent& event, double now);

    /// Whether an action does something now: what can't be done is not offered either.
    bool offers(RunAction action) const;
    /// What the one large button does.
    RunAction mainAction() const;

    const RunOrder& order() const { return order_; }
    const RunPlan& plan() const { return plan_; }
    RunStep step() const { return step_; }
    RunTask task() const { return step_.task; }
    RunActivity activity() const { return activity_; }
    std::uint64_t question() const { return question_; } ///< the number of the last one
    bool isBusy() const;                                 ///< with something else than a cut
    bool isCutting() const;                              ///< or paused, or the knife is being lifted
    bool isTesting() const { return testing_.has_value(); }
    bool isDone() const; ///< weeded, or printed and not cut now
    bool isOnlyPrinted() const { return isOnlyPrinted_; }
    bool isCounted() const { return isCounted_; } ///< the present copy, as done
    bool isPrepared() const { return lines_ != nullptr; }
    const std::string& trouble() const { return trouble_; } ///< a sentence; empty: none
    /// Why the sheet hardly lies as its marks say, a sentence; empty: it may.
    const std::string& doubt() const { return doubt_; }

    const Registration& registration() const { return registration_; }
    bool areMarksRead() const;                 ///< all, perhaps wrongly
    std::size_t mark() const { return mark_; } ///< of those that are touched one by one, the next
    const std::optional<TestCut>& testCut() const { return testCut_; } ///< that is cut
    bool offersTest() const;
    std::optional<double> force() const { return force_; } ///< that a test cut has set,
    std::optional<double> bladeDepth() const { return bladeDepth_; }
    Cutter cutter() const; ///< the profile's, with what a test cut has set

    const std::set<std::size_t>& pieces() const { return pieces_; }
    std::optional<LineKind> kind() const { return kind_; }
    /// What is cut, of the whole sheet. REQUIRES: isPrepared().
    const std::shared_ptr<const CutLines>& cutLines() const { return lines_; }
    const CutProgram& program() const { return lines_->program(); }
    const CutRecord& record() const { return record_; }
    const CutLengths& recorded() const { return recorded_; } ///< by the last event
    /// Changes whenever lines are taken from the record, or it is another one.
    std::uint64_t takenBack() const { return takenBack_; }
    std::size_t lines() const; ///< that are chosen
    /// Of the present pass: all lines, and the one that comes next.
    std::size_t linesOfPass() const;
    std::size_t firstLine() const;
    std::optional<Point> startOfLine() const; ///< where that begins, mm of the sheet
    bool offersLine() const;                  ///< whether the operator can say with which one to continue
    bool isContinued() const { return isContinued_; } ///< after a stop or a restart
    /// Whether the machine says that it has cut what it was given.
    bool isConfirmed() const { return isConfirmed_; }
    const CutErrors& errors() const { return errors_; }

    double startedAt() const { return startedAt_; } ///< when it was printed or loaded, s

    /// What has to be kept; nothing before something is cut, and once the sheet is done.
    std::optional<KeptRun> kept() const;

private:
    /// The lines of a pass that are chosen.
    struct Pass {
        std::vector<std::size_t> lines; ///< their numbers
        std::size_t first = 0;          ///< of them, that is not cut to its end
    };

    void take(RunAction action);
    void take(const run_event::Begin& begin);
    void take(const run_event::Choose& choice);
    void take(const run_event::PlaceMark& mark);
    void take(const run_event::PutIn& other);
    void take(const run_event::ContinueWith& from);
    void take(const run_event::CutTest& wanted);
    void take(const run_event::TakeForce& taken);
    void take(const run_event::TakeBladeDepth& taken);
    void take(const run_event::Prepared& answer);
    void take(const run_event::MarksRead& answer);
    void take(const run_event::HeadFound& answer);
    void take(const run_event::Received& answer);
    void take(const run_event::CutEnded& answer);
    void take(const run_event::Confirmed& answer);
    void take(const run_event::Checked& answer);

    template <class Effect>
    void ask(RunActivity activity);
    bool isAnswer(std::uint64_t question, RunActivity asked) const;
    void next();
    void nextOfMarks();
    void prepare(RunActivity activity);
    void choosePlan();
    void choosePasses();
    bool goToPass();
    bool needsTool(std::size_t pass) const;
    void countCut();
    void goOnWithKept();
    void printed();
    void loaded();
    void judge(const Registration& read);
    void placeHead(Point bed);
    void acceptMarks();
    void losePlace();
    void locateAgain();
    void withoutMarks();
    void startUnlessAsked();
    void startCut();
    void cutAgain();
    void record(const CutLengths& lines);
    void giveUp();

    RunOrder order_;
    RunPlan plan_;
    RunStep step_;
    RunActivity activity_ = RunActivity::none;
    std::uint64_t question_ = 0;
    bool isIn_ = false;          ///< the sheet was put in
    bool areMarksKnown_ = false; ///< and accepted, or not needed
    bool hasStarted_ = false;    ///< to cut
    bool isConfirmed_ = false, isContinued_ = false, isCounted_ = false, isOnlyPrinted_ = false;
    bool areLinesOther_ = false; ///< than those that the record was of
    std::string trouble_, doubt_;
    Registration registration_;
    std::size_t mark_ = 0;
    std::set<std::size_t> pieces_;
    std::optional<LineKind> kind_;
    std::shared_ptr<const CutLines> lines_;
    std::vector<Pass> passes_;
    CutRecord record_;
    CutLengths recorded_;
    std::uint64_t takenBack_ = 0;
    std::optional<int> holder_;   ///< whose tool is in
    std::optional<KeptRun> kept_; ///< until the program that it is of is there
    std::optional<TestCut> testing_, testCut_;
    std::optional<double> force_, bladeDepth_, advised_;
    CutErrors errors_;
    double now_ = 0, startedAt_ = 0, keptAt_ = 0; ///< s
    std::vector<RunEffect> effects_;
};

} // namespace hasami
