#pragma once

#include "app/document/document.h"
#include "machine/cut_run.h"
#include "machine/sensor.h"
#include "machine/test_cut.h"
#include "rehearsal/run_state.h"

#include <QElapsedTimer>
#include <QImage>
#include <QLockFile>
#include <QTimer>

#include <memory>
#include <optional>
#include <set>
#include <stop_token>

namespace hasami {

/// The steps of a run, in order.
enum class RunStep { print, load, findMarks, kissPass, changeTool, diePass, weed };

/// Prints and cuts a sheet of the job on simulated machines, step by step, each begun by the operator. What
/// was cut is kept on disk, and gone on with after the program has stopped. The run is of the job as it was
/// when it began.
class GuidedRun : public QObject {
    Q_OBJECT
public:
    explicit GuidedRun(Document& document, QObject* parent = nullptr);
    ~GuidedRun() override;

    /// Begins again with a sheet of the job as it is now; the machine stops.
    void choose(std::size_t sheet);
    std::size_t sheetNumber() const { return state_.sheet; }
    /// The sheet that is run; nothing while nothing is laid out.
    const Sheet* sheet() const;
    const std::shared_ptr<const Job>& job() const { return job_; }
    const std::shared_ptr<const Made>& made() const { return made_; }
    /// What is cut, once the sheet is printed.
    const CutProgram& program() const { return program_; }

    RunStep step() const { return step_; }
    /// Which steps this sheet takes: with lines of some kinds alone, fewer.
    std::vector<RunStep> steps() const;
    bool isBusy() const { return isBusy_; } ///< printing or reading marks
    bool isMoving() const { return timer_.isActive(); }
    bool isPaused() const { return isPaused_; }
    bool isDone() const { return step_ == RunStep::weed; }
    /// What is wrong with the sheet, and what to do; empty where nothing is.
    const QString& trouble() const { return trouble_; }

    /// What the step is about; goes on to the next one when it is done. REQUIRES: not isBusy().
    void next();
    void pause();
    /// Ends the pass; what was cut is kept, and gone on with by `next`.
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

    /// Cuts a row of drops with rising forces where the sheet is free. REQUIRES: the marks are read.
    void cutTest();
    const std::optional<TestCut>& testCut() const { return testCut_; }
    /// How deep the knife went with a force.
    CutDepth depthOf(double force) const;
    /// The kiss cut's force from now on, in the job's profile too, as one undo step.
    void takeForce(double force);

    void setFault(TrainingFault fault);
    TrainingFault fault() const { return state_.fault; }
    void setSpeed(double times) { speed_ = times; }

    /// A mark that was not found, or wrongly, is where the operator says, mm of the bed.
    void placeMark(int id, Point bed);
    /// What the sensor sees there.
    SensorView look(Point bed, double side) const;

    const std::shared_ptr<const PrintedSheet>& printed() const { return printed_; }
    /// The printed sheet on the bed; empty until it was loaded.
    const QImage& picture() const { return picture_; }
    const Registration& registration() const { return registration_; }
    const CutHead* head() const { return head_ ? &*head_ : nullptr; }
    const CutRecord& record() const { return state_.record; }
    /// How far the cut is off the print, once the sheet is cut.
    const CutErrors& errors() const { return errors_; }

    /// Whether stickers, sheet or marks of the job have changed since the sheet was printed.
    bool isOfOlderJob() const;

    /// Whether a run was interrupted that this program could go on with.
    bool hasInterrupted() const { return interrupted_.has_value(); }
    QString interruptedText() const;
    /// Goes on with it. Where it can't be read, `then` gets a sentence.
    void goOnWithInterrupted(const std::function<void(const QString& why)>& then);

Q_SIGNALS:
    void changed();
    void moved(); ///< the head alone

private:
    struct Printed {
        std::shared_ptr<const PrintedSheet> sheet;
        QImage picture;
        CutProgram program;
    };
    RehearsalFaults faults() const;
    void takeJob();
    double usualForce() const; ///< of the kiss cut in the profile, as the run began
    double force() const;
    void print(std::function<void()> then);
    void findMarks();
    void takeMarks(std::vector<MarkReading> marks, RunFault fault);
    void beginPass();
    void advance();
    void endPass();
    void checkSlip();
    void compareMarks(const std::vector<MarkReading>& again);
    void measure();
    void become(RunStep step);
    void keep(bool withJob = false);

    Document& document_;
    std::shared_ptr<const Job> job_;
    std::shared_ptr<const Made> made_;
    CutProgram program_;
    RunState state_;
    RunStep step_ = RunStep::print;
    bool isBusy_ = false, isPaused_ = false;
    double speed_ = 1;
    QString trouble_;
    std::set<std::size_t> pieces_;
    std::shared_ptr<const PrintedSheet> printed_;
    QImage picture_;
    Registration registration_;
    std::optional<CutHead> head_;
    std::map<CutKey, bool> afterSlip_; ///< cuts that were begun after the sheet had moved
    CutErrors errors_;
    std::optional<TestCut> testCut_;
    std::stop_source stop_;
    QTimer timer_;
    QElapsedTimer clock_, kept_;
    std::filesystem::path folder_;
    std::unique_ptr<QLockFile> lock_;
    std::optional<RunState> interrupted_;
};

} // namespace hasami
