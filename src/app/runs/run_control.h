#pragma once

#include "app/runs/connected_machine.h"
#include "app/runs/run_queue.h"
#include "app/runs/simulated_machine.h"

#include <QElapsedTimer>

#include <deque>
#include <set>

namespace hasami {

/// Runs sheets, one after the other: a sheet of the job, or an entry of the queue. It does what the model of
/// the run (RunModel) says, with the machine that is chosen, and alone writes the run's state, the entry and
/// the history, whatever is shown.
///
/// Once a sheet of the job is printed, or touched, it is an entry of the queue too, with the job as it then
/// was; that goes when the run is over. While a cut is under way no other sheet, machine or task can be
/// chosen: that is refused, with a sentence.
class RunControl : public QObject {
    Q_OBJECT
public:
    RunControl(Document& document, RunQueue& queue, QObject* parent = nullptr);
    ~RunControl() override;

    const RunModel& model() const { return model_; }
    const CuttingMachine& machine() const { return *machine_; }
    /// What the operator does. What the model does not offer now changes nothing.
    void act(const RunEvent& event);
    void next() { act(RunAction::next); }

    /// On which machine sheets are run.
    enum class Machine { simulated, ofProfile };
    void useMachine(Machine machine);
    Machine machineInUse() const { return machine_ == &simulated_ ? Machine::simulated : Machine::ofProfile; }
    /// Of the simulated one: something that goes wrong, and how fast its head moves.
    void setFault(TrainingFault fault);
    TrainingFault fault() const { return simulated_.copy().fault; }
    void setSpeed(double times) { simulated_.setSpeed(times); }

    /// Begins again with a sheet of the job as it is now.
    void choose(std::size_t sheet);
    /// Continues an entry of the queue: where its cut was interrupted, where its printed sheet is loaded, or
    /// from the printer on.
    void chooseEntry(const std::string& id);
    bool isOpening() const { return isOpening_; } ///< an entry
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
    /// Whether stickers, sheet or marks of the job have changed since its sheet was printed.
    bool isOfOlderJob() const;

    bool isBusy() const { return isOpening_ || model_.isBusy(); }
    /// What is wrong with the sheet or its run, a sentence; empty: nothing.
    QString trouble() const;
    /// What `next` goes on to once the sheet is done.
    enum class After { copy, sheet, queue, again };
    After after() const;
    /// Gives up opening an entry, printing, or reading marks.
    void cancel();
    bool canCancel() const { return isOpening_ || model_.offers(RunAction::cancel); }

    void choosePieces(const std::set<std::size_t>& pieces);
    void chooseKind(std::optional<LineKind> kind);
    /// Cuts a row of drops with rising forces where the sheet is free.
    void cutTest();
    /// The kiss cut's force and its blade's depth (mm; 0: as it is set) from now on; of a sheet of the job in
    /// its profile too, each as one undo step.
    void takeForce(double force);
    void takeBladeDepth(double depth);

    /// Printed sheets that could be put in by mistake.
    std::vector<QueueEntry> otherPrints() const;
    /// Puts in the printed sheet of another entry. REQUIRES: the step is load.
    void putIn(const std::string& id);
    /// Whose print lies in the machine; empty: that of this run.
    const std::string& inMachine() const { return otherId_; }
    /// The entry that the code of a wrong sheet belongs to; nullptr where there is none.
    const QueueEntry* foundByCode() const;

Q_SIGNALS:
    void changed();
    /// The head or a share; `news`: lines that were cut since the last time. Whatever else has changed emits
    /// `changed` too.
    void moved(const CutLengths& news);
    void messageRaised(const QString& sentence); ///< why something is not done

private:
    bool refusesWhileCutting();
    void execute(const RunEffect& effect);
    RunOrder order() const;
    /// What a test cut has set.
    struct Tested {
        std::optional<double> force, bladeDepth;
    };
    void begin() { begin({}, {}); }
    void begin(const std::optional<RunState>& kept, const Tested& tested);
    void beginAgain();
    bool takeJob();
    void followJob();
    void setFaultOfCopy(TrainingFault fault);
    void takeEntry(bool isPrintedHere);
    void leave();
    void openEntry(const QueueEntry& entry);
    void takeOpened(const RunQueue::Opened& opened);
    void printFresh();
    void goOn();
    void keep();
    void notePrinted();
    void noteDone(const run_effect::NoteDone& done);
    const QueueEntry* nextEntry() const;
    double now() const { return double(clock_.elapsed()) / 1000; }

    Document& document_;
    RunQueue& queue_;
    SimulatedMachine simulated_;
    ConnectedMachine connected_;
    CuttingMachine* machine_ = &simulated_;
    RunModel model_;
    std::deque<RunEvent> events_; ///< that wait for the one under way
    bool isActing_ = false;
    std::string entry_;
    bool isOwn_ = true; ///< see isOfJob
    bool isOpening_ = false;
    std::uint64_t opened_ = 0; ///< number of the last opening
    QueueEntry draft_;         ///< work and copies of a sheet that is no entry yet
    RunSheet sheet_;
    QString doubtOfState_; ///< it is not known how far the cut came, a sentence
    std::string otherId_;  ///< whose print was put in by mistake
    std::string unknown_;  ///< what other versions keep with the run's state
    std::stop_source stop_;
    QElapsedTimer clock_;
};

} // namespace hasami
