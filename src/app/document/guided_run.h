#pragma once

#include "app/document/run_queue.h"
#include "machine/cut_run.h"
#include "machine/sensor.h"
#include "machine/test_cut.h"

#include <QElapsedTimer>
#include <QImage>
#include <QTimer>

#include <memory>
#include <optional>
#include <set>
#include <stop_token>

namespace hasami {

/// The steps of a run, in order.
enum class RunStep { print, load, findMarks, kissPass, changeTool, diePass, weed };

/// Prints and cuts sheets on simulated machines, step by step, each begun by the operator: a sheet of the
/// job, or an entry of the queue. Once a sheet of the job is printed it is an entry of the queue too, with
/// the job as it then was; that goes when the run is over. What was cut is kept there, and continued after
/// the program has stopped.
class GuidedRun : public QObject {
    Q_OBJECT
public:
    GuidedRun(Document& document, RunQueue& queue, QObject* parent = nullptr);
    ~GuidedRun() override;

    /// Begins again with a sheet of the job as it is now. Refused, with a sentence, while a cutter is at
    /// work; so is everything else that would take the sheet from it.
    void choose(std::size_t sheet);
    /// Continues an entry of the queue: where its cut was interrupted, where its printed sheet is loaded,
    /// or from the printer on.
    void chooseEntry(const std::string& id);
    /// The entry that is run; empty: a sheet of the job that is not printed yet.
    const std::string& entryId() const { return entry_; }
    /// Whether the sheet is one of the job's, and not one that waited in the queue.
    bool isOfJob() const { return isOwn_; }
    /// Which work and copies the run has.
    const QueueEntry& plan() const;
    int copy() const; ///< that is run, from 0 on
    void setWork(RunWork work);
    void setCopies(int copies);

    std::size_t sheetNumber() const { return sheet_.number; }
    /// The sheet that is run; nothing while nothing is laid out.
    const Sheet* sheet() const { return sheet_.sheet(); }
    const RunSheet& runSheet() const { return sheet_; }
    const std::shared_ptr<const Job>& job() const { return sheet_.job; }
    const std::shared_ptr<const Made>& made() const { return sheet_.made; }
    /// What is cut, once the sheet is printed.
    const CutProgram& program() const { return program_; }

    RunStep step() const { return step_; }
    /// Which steps this sheet takes: with lines of some kinds alone, or only printed, fewer.
    std::vector<RunStep> steps() const;
    bool isBusy() const { return isBusy_; }           ///< reading the job, printing or reading marks
    double printShare() const { return printShare_; } ///< that is drawn of the print, 0 to 1
    bool isMoving() const { return timer_.isActive(); }
    /// A cutter is at work on the sheet, simulated or real: until it pauses or ends, the run can't be given
    /// another sheet, print or task.
    bool isCutting() const { return isMoving() || isOnCutter_; }
    /// Whether a real cutter is being sent the sheet that is run.
    void setOnCutter(bool isOnCutter);
    bool isPaused() const { return isPaused_; }
    /// Weeded, or printed and not to be cut now.
    bool isDone() const { return step_ == RunStep::weed || isOnlyPrinted_; }
    /// Whether it was just printed, and stays in the queue to be cut.
    bool waitsToBeCut() const { return isOnlyPrinted_ && cutsAtAll(plan().work); }
    /// Loads it. REQUIRES: it waits to be cut.
    void cutNow();
    /// What is wrong with the sheet, and what to do; empty where nothing is.
    const QString& trouble() const { return trouble_; }

    /// What the step is about; goes on to the next one when it is done. REQUIRES: not isBusy().
    void next();
    /// What `next` goes on to once the sheet is done.
    enum class After { copy, sheet, queue, again };
    After after() const;
    void pause();
    /// Gives up printing or reading marks.
    void cancel();
    bool canCancel() const;
    /// Ends the pass; what was cut is kept, and continued by `next`.
    void stop();
    /// The sheet is taken out and put in again.
    void loadAgain();
    /// From the printer on.
    void printAgain();
    /// All lines, or those of the chosen pieces, once more.
    void cutAgain();

    /// Pieces that are cut alone; empty: all. Takes effect with the next pass.
    void choosePieces(const std::set<std::size_t>& pieces);
    const std::set<std::size_t>& pieces() const { return pieces_; }
    /// The same for one kind of line; none: all.
    void chooseKind(std::optional<LineKind> kind);
    std::optional<LineKind> kind() const { return state_.kind; }

    /// Printed sheets that could be put in by mistake.
    std::vector<QueueEntry> otherPrints() const;
    /// Puts in the printed sheet of another entry. REQUIRES: the step is load.
    void putIn(const std::string& id);
    /// Whose print lies in the machine; empty: that of this run.
    const std::string& inMachine() const { return otherId_; }
    /// The entry that the code of a wrong sheet belongs to; nullptr where there is none.
    const QueueEntry* foundByCode() const;

    /// Cuts a row of drops with rising forces where the sheet is free. REQUIRES: the marks are read.
    void cutTest();
    const std::optional<TestCut>& testCut() const { return testCut_; }
    /// How deep the knife went with a force.
    CutDepth depthOf(double force) const;
    /// The kiss cut's force from now on; of a sheet of the job in its profile too, as one undo step.
    void takeForce(double force);
    /// The blade's depth for kiss cuts, mm; 0: as it is set. As the force.
    void takeBladeDepth(double depth);

    void setFault(TrainingFault fault);
    TrainingFault fault() const { return state_.fault; }
    void setSpeed(double times) { speed_ = times; }

    /// A mark that was not found, or wrongly, is where the operator says, mm of the bed.
    void placeMark(int id, Point bed);
    /// What the sensor sees there.
    SensorView look(Point bed, double side) const;

    const std::shared_ptr<const PrintedSheet>& printed() const { return printed_; }
    /// Whether there is a picture of the printed sheet on the bed: once it was loaded.
    bool hasPicture() const { return !pictures_.empty(); }
    /// The picture, in at least that many pixels a millimetre, if it has them. REQUIRES: there is one.
    const QImage& picture(double pixelsPerMillimetre) const;
    const Registration& registration() const { return registration_; }
    const CutHead* head() const { return head_ ? &*head_ : nullptr; }
    const CutRecord& record() const { return state_.record; }
    /// How far the cut is off the print, once the sheet is cut.
    const CutErrors& errors() const { return errors_; }

    /// Whether stickers, sheet or marks of the job have changed since its sheet was printed.
    bool isOfOlderJob() const;

    /// Where a cut was begun on a real cutter: how far it came.
    const RunState& state() const { return state_; }
    /// The sheet stays as it is from now on, whatever becomes of the job: its marks are being touched.
    void holdSheet();
    /// Keeps how far the real cutter came.
    void keepByMachine(const RunState& state);
    /// The real cutter has cut the sheet: its copy is done, and goes into the history. Lines that were only
    /// repeated finish no copy.
    void noteCutByMachine(double seconds, std::size_t lines, bool isRepeat);

Q_SIGNALS:
    void changed();
    void moved();                       ///< the head alone
    void told(const QString& sentence); ///< an entry can't be run

private:
    /// A print as it was rendered, for all copies of a sheet.
    struct Render {
        RunSheet of;
        bool isOfOtherJob = false;
        std::shared_ptr<const SheetPicture> picture;
    };
    struct Printed {
        std::shared_ptr<const PrintedSheet> sheet;
        std::vector<QImage> pictures;
        CutProgram program;
        Render render;
    };
    struct PrintOrder;
    static Printed printedBy(const PrintOrder& order, const std::stop_token& stop,
                             const std::function<void(double)>& progress);
    PrintOrder printOrder() const;

    RehearsalFaults faults() const;
    bool refusesWhileCutting();
    template <class Then>
    auto ifWantedStill(Then then);
    void giveUpTask();
    void takeJob();
    void takeEntry(bool isPrintedHere = false);
    void leave();
    void reset();
    void begin(const std::optional<RunState>& kept = {});
    void goOnWith(const RunState& kept);
    void finish();
    void goToNext();
    const QueueEntry* nextEntry() const;
    double usualForce() const; ///< of the kiss cut in the profile, as the run began
    double force() const;
    void printFresh();
    void beginPrint();
    void endPrint();
    void layPrint(std::function<void()> then);
    void load();
    void findMarks();
    void takeMarks(const Registration& read);
    void beginPass();
    void advance();
    void endPass();
    void checkCut();
    void compareMarks(const std::vector<MarkReading>& again);
    void measure();
    void become(RunStep step);
    void keep();

    Document& document_;
    RunQueue& queue_;
    std::string entry_;
    bool isOwn_ = true;      ///< see isOfJob
    QueueEntry draft_;       ///< work and copies of a sheet that is no entry yet
    bool isCounted_ = false; ///< the present copy, as done
    RunSheet sheet_;
    CutProgram program_;
    std::string fingerprint_; ///< of it
    RunState state_;
    RunStep step_ = RunStep::print;
    bool isBusy_ = false, isPaused_ = false, isOnlyPrinted_ = false, isOnCutter_ = false;
    std::uint64_t task_ = 0; ///< in the background: what another one brings is dropped
    double speed_ = 1, printShare_ = 0;
    QString trouble_;
    std::set<std::size_t> pieces_;
    Render render_;
    std::string otherId_; ///< whose print was put in by mistake,
    RunSheet other_;      ///< its sheet,
    std::uint32_t otherSeed_ = 0;
    std::shared_ptr<const PrintedSheet> printed_;
    std::vector<QImage> pictures_; ///< each half as large as the one before
    Registration registration_;
    std::optional<CutHead> head_;
    std::map<CutKey, bool> afterSlip_; ///< cuts that were begun after the sheet had moved
    CutErrors errors_;
    std::optional<TestCut> testCut_;
    std::stop_source stop_;
    QTimer timer_;
    QElapsedTimer clock_, kept_, since_;
};

/// For the end of work in the background that is begun now: calls `then` with its outcome, unless other work
/// was begun, or it was given up, meanwhile.
template <class Then>
auto GuidedRun::ifWantedStill(Then then) {
    isBusy_ = true;
    return [this, then = std::move(then), task = ++task_](const auto& outcome) {
        if (task != task_ || outcome.isStopped())
            return;
        isBusy_ = false;
        then(outcome);
    };
}

} // namespace hasami
