#pragma once

#include "machine/cut_errors.h"
#include "machine/cut_lines.h"
#include "machine/registration.h"
#include "machine/test_cut.h"
#include "run/run_plan.h"

#include <cstdint>
#include <memory>
#include <optional>
#include <set>
#include <string>
#include <utility>
#include <variant>
#include <vector>

namespace hasami {

/// What the operator asks for without saying more.
enum class RunAction {
    next,         ///< what the present step is about
    pause,        ///< the cut, knife up
    resume,       ///< it
    stop,         ///< it; the knife is lifted, and what is left can be cut later
    cancel,       ///< printing, preparing or reading marks
    locateAgain,  ///< the sheet is put in once more, or its marks are touched again
    acceptMarks,  ///< that are in doubt
    withoutMarks, ///< from the machine's origin
    printAgain,
    cutAgain, ///< the chosen lines of a sheet that is cut
    cutNow,   ///< a sheet that was printed to be cut later
};
inline constexpr std::array runActions{
    RunAction::next,       RunAction::pause,       RunAction::resume,      RunAction::stop,
    RunAction::cancel,     RunAction::locateAgain, RunAction::acceptMarks, RunAction::withoutMarks,
    RunAction::printAgain, RunAction::cutAgain,    RunAction::cutNow};

/// How far a cut came, as it is kept on disk.
struct KeptRun {
    std::vector<MarkReading> marks; ///< as they were read; empty: it is cut without
    CutRecord record;               ///< what was cut; on a real cutter: what that received
    std::string lines;         ///< fingerprint of those that the record is of (CutLines); empty: not known
    std::optional<int> holder; ///< whose tool is in
    std::vector<std::size_t> pieces;  ///< that are cut alone; empty: all
    std::optional<LineKind> kind;     ///< of line that is cut alone; none: all
    std::optional<double> force;      ///< of the kiss cut, g, that a test cut has set
    std::optional<double> bladeDepth; ///< mm, the same; 0: as it is set
    /// What an older version kept of a real cutter in place of record, in its own order of the lines: the
    /// pass and the line in it that come next.
    std::optional<std::pair<std::size_t, std::size_t>> place;

    friend bool operator==(const KeptRun&, const KeptRun&) = default;
};

/// What a run is of. It stays so until another one begins.
struct RunOrder {
    RunScope scope;
    MachineAbilities machine;
    Cutter cutter;
    std::vector<LineKind> kinds;    ///< on the sheet, in the order of the work
    std::vector<MarkReading> marks; ///< that are looked for
    std::size_t pieces = 0;         ///< on the sheet; 0: there is none to be run
    bool isReachable = true;        ///< the machine
    bool isInHand = false;          ///< it is printed
    bool waits = false;             ///< once it is printed it is cut another time
    bool isFixed = false;           ///< it can't change any more: it is prepared before it is put in
};

namespace run_event {

struct Begin {
    RunOrder order;
    std::optional<KeptRun> kept = {};                  ///< the cut that is continued
    std::optional<double> force = {}, bladeDepth = {}; ///< from a test cut before
};
/// Pieces that are cut alone (none: all), and the kind of line. Takes effect with the next cut.
struct Choose {
    std::set<std::size_t> pieces;
    std::optional<LineKind> kind;
};
/// Where the operator says that a mark is, mm of the bed; the head stands there, or a lens.
struct PlaceMark {
    int id = 0;
    Point bed;
};
/// Another print lies in the machine, which still waits for the sheet.
struct PutIn {};
/// The line of the pass that is cut next, from 0 on: those before it are cut.
struct ContinueWith {
    std::size_t line = 0;
};
/// A row of drops is cut first. Without one there is no room for it: `failure` says so.
struct CutTest {
    std::optional<TestCut> test;
    std::string failure = {};
};
/// The kiss cut's, from now on.
struct TakeForce {
    double force = 0; ///< g
};
struct TakeBladeDepth {
    double depth = 0; ///< mm; 0: as it is set
};

// What a machine answers, to the question of that number. A late answer to another one changes nothing.

/// The sheet is printed, or all is ready for its cut.
struct Prepared {
    std::uint64_t question = 0;
    std::shared_ptr<const CutLines> lines; ///< of the whole sheet
    std::string failure = {};
};
struct MarksRead {
    std::uint64_t question = 0;
    Registration read;
    std::string failure = {};
};
struct HeadFound {
    std::uint64_t question = 0;
    Point bed;
    std::string failure = {};
};
/// What the machine has taken since the last time.
struct Received {
    std::uint64_t question = 0;
    CutLengths lines;
};
struct CutEnded {
    std::uint64_t question = 0;
    CutLengths lines;
    bool isWhole = false;
    std::string failure = {};
    bool isPlaceLost = false; ///< the machine does not know any more where the sheet lies
};
/// After the end of a cut: the machine has done all that it was given for it.
struct Confirmed {
    std::uint64_t question = 0; ///< of what was last
};
/// What was seen on the sheet that is cut.
struct Checked {
    std::uint64_t question = 0;
    CutErrors errors;
    std::string trouble = {};
    std::optional<double> force = {}; ///< with which it should be cut again
};

} // namespace run_event

using RunEvent =
    std::variant<RunAction, run_event::Begin, run_event::Choose, run_event::PlaceMark, run_event::PutIn,
                 run_event::ContinueWith, run_event::CutTest, run_event::TakeForce, run_event::TakeBladeDepth,
                 run_event::Prepared, run_event::MarksRead, run_event::HeadFound, run_event::Received,
                 run_event::CutEnded, run_event::Confirmed, run_event::Checked>;

/// What is to be done, in this order, by the machine and for the queue.
namespace run_effect {

/// The sheet stays as it is from now on, whatever becomes of the job.
struct TakeSheet {
    bool isPrintedHere = false;
};
struct Prepare {
    std::uint64_t question = 0;
};
struct ReadMarks {
    std::uint64_t question = 0;
};
struct AskHead {
    std::uint64_t question = 0;
};
struct StartCut {
    std::uint64_t question = 0;
    std::shared_ptr<const CutLines> lines;
    std::vector<std::size_t> pass; ///< their numbers,
    CutRecord done;                ///< and what of them is cut
    SheetMap map;
    Cutter cutter;
};
struct StartTest {
    std::uint64_t question = 0;
    TestCut test;
    SheetMap map;
    Cutter cutter;
};
struct SetPaused {
    bool isPaused = false;
};
struct StopCut {};
/// What was asked, beside a cut, is not waited for.
struct GiveUp {};
/// The sheet is taken out and put in as it should lie.
struct Reload {};
struct CheckCut {
    std::uint64_t question = 0;
};
/// How far the cut came (RunModel::kept) goes onto the disk.
struct Keep {};
struct NotePrinted {};
/// The sheet is done, or lines of it were cut once more.
struct NoteDone {
    bool isRepeat = false;
    double seconds = 0;
};
struct PrintAgain {};
struct CutNow {};
/// To the next copy or sheet.
struct GoOn {};

} // namespace run_effect

using RunEffect =
    std::variant<run_effect::TakeSheet, run_effect::Prepare, run_effect::ReadMarks, run_effect::AskHead,
                 run_effect::StartCut, run_effect::StartTest, run_effect::SetPaused, run_effect::StopCut,
                 run_effect::GiveUp, run_effect::Reload, run_effect::CheckCut, run_effect::Keep,
                 run_effect::NotePrinted, run_effect::NoteDone, run_effect::PrintAgain, run_effect::CutNow,
                 run_effect::GoOn>;

} // namespace hasami
