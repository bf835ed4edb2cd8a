#pragma once

// The fields of what the queue keeps on disk: its entries, the states of their runs, and the history.

#include "job/recipe_fields.h"
#include "queue/kept_json.h"
#include "queue/run_history.h"
#include "queue/run_state.h"

namespace hasami {

inline constexpr double mostNumber = 1e9;
inline constexpr std::size_t longestText = 20'000;
inline constexpr double mostOrder = 1e15;
inline constexpr double mostSeconds = 1e12;
inline constexpr double farthestOff = 1e6;  // mm
inline constexpr double mostForce = 10'000; // g
inline constexpr std::size_t mostCuts = 1'000'000;

inline constexpr Named<RunWork> worksInFiles[] = {{"printAndCut", RunWork::printAndCut},
                                                  {"printOnly", RunWork::printOnly},
                                                  {"cutLater", RunWork::cutLater},
                                                  {"cutOnly", RunWork::cutOnly}};
inline constexpr Named<TrainingFault> faultsInFiles[] = {{"none", TrainingFault::none},
                                                         {"wrongWayRound", TrainingFault::wrongWayRound},
                                                         {"scaledPrint", TrainingFault::scaledPrint},
                                                         {"smudgedMark", TrainingFault::smudgedMark},
                                                         {"tornMark", TrainingFault::tornMark},
                                                         {"otherSheet", TrainingFault::otherSheet},
                                                         {"slippingSheet", TrainingFault::slippingSheet},
                                                         {"littleForce", TrainingFault::littleForce},
                                                         {"muchForce", TrainingFault::muchForce},
                                                         {"wrongTool", TrainingFault::wrongTool},
                                                         {"shortMedium", TrainingFault::shortMedium},
                                                         {"forgetfulStop", TrainingFault::forgetfulStop},
                                                         {"powerFailure", TrainingFault::powerFailure}};
static_assert(std::size(worksInFiles) == runWorks.size() &&
              std::size(faultsInFiles) == trainingFaults.size());

template <>
struct Fields<QueueEntry> {
    static constexpr auto list = std::make_tuple(
        field("id", &QueueEntry::id, AtMost{100}), field("keptJob", &QueueEntry::keptJob, AtMost{100}),
        field("job", &QueueEntry::job, AtMost{longestText}, Kept::sinceThen),
        field("day", &QueueEntry::day, AtMost{longestText}, Kept::sinceThen),
        field("sheet", &QueueEntry::sheet, Within{0, mostNumber}, Kept::sinceThen),
        field("sheets", &QueueEntry::sheets, Within{0, mostNumber}, Kept::sinceThen),
        field("size", &QueueEntry::size, Within{0, farthestOff}, Kept::sinceThen),
        field("code", &QueueEntry::code, AtMost{longestText}, Kept::sinceThen),
        field("printId", &QueueEntry::printId, AtMost{100}, Kept::sinceThen),
        field("kinds", &QueueEntry::kinds, Each{lineKinds.size(), OneOf(kindsInFiles)}, Kept::sinceThen),
        field("inks", &QueueEntry::inks, Each{inkKinds.size(), OneOf(inksInFiles)}, Kept::sinceThen),
        field("work", &QueueEntry::work, OneOf(worksInFiles), Kept::sinceThen),
        field("copies", &QueueEntry::copies, Within{1, mostQueueCopies}, Kept::sinceThen),
        field("done", &QueueEntry::done, Within{0, mostQueueCopies}, Kept::sinceThen),
        field("held", &QueueEntry::isHeld, Anything{}, Kept::sinceThen),
        field("printed", &QueueEntry::isPrinted, Anything{}, Kept::sinceThen),
        field("begun", &QueueEntry::isBegun, Anything{}, Kept::sinceThen),
        field("order", &QueueEntry::order, Within{-mostOrder, mostOrder}, Kept::sinceThen),
        field("seed", &QueueEntry::seed, Within{0, mostNumber}, Kept::sinceThen),
        field("largest", &QueueEntry::largest, Within{0, farthestOff}, Kept::sinceThen));
};

template <>
struct Fields<PastRun> {
    static constexpr auto list =
        std::make_tuple(field("ended", &PastRun::ended, Within{-mostSeconds, mostSeconds}),
                        field("job", &PastRun::job, AtMost{longestText}, Kept::sinceThen),
                        field("sheet", &PastRun::sheet, Within{0, mostNumber}, Kept::sinceThen),
                        field("copy", &PastRun::copy, Within{0, mostQueueCopies}, Kept::sinceThen),
                        field("copies", &PastRun::copies, Within{1, mostQueueCopies}, Kept::sinceThen),
                        field("work", &PastRun::work, OneOf(worksInFiles), Kept::sinceThen),
                        field("simulated", &PastRun::isSimulated, Anything{}, Kept::sinceThen),
                        field("seconds", &PastRun::seconds, Within{0, mostSeconds}, Kept::sinceThen),
                        field("lines", &PastRun::lines, Within{0, mostNumber}, Kept::sinceThen),
                        field("rms", &PastRun::rms, Within{0, farthestOff}, Kept::sinceThen),
                        field("largest", &PastRun::largest, Within{0, farthestOff}, Kept::sinceThen),
                        field("trouble", &PastRun::trouble, AtMost{longestText}, Kept::sinceThen));
};

template <>
struct Fields<MarkReading> {
    static constexpr auto list =
        std::make_tuple(field("id", &MarkReading::id, Within{0, mostNumber}),
                        field("expected", &MarkReading::expected, Within{-farthestOff, farthestOff}),
                        field("found", &MarkReading::found, Within{-farthestOff, farthestOff}),
                        field("byHand", &MarkReading::isByHand, Anything{}, Kept::sinceThen));
};

/// A list of [kind, piece, line, pass, run, mm].
template <>
struct Codec<CutRecord> {
    static nlohmann::json write(const CutRecord& record) {
        nlohmann::json all = nlohmann::json::array();
        for (const auto& [key, along] : record)
            all.push_back({nameOf(kindsInFiles, key.kind), key.piece, key.line, key.pass, key.run, along});
        return all;
    }
    static CutRecord read(const JsonReader& in) {
        CutRecord record;
        for (const JsonReader& cut : in.elements(mostCuts)) {
            const auto parts = cut.elements(6);
            if (parts.size() != 6)
                cut.refuse("%1 must be a kind of line and five numbers");
            const auto whole = [&](std::size_t i) { return parts[i].wholeNumber(0, int(mostNumber)); };
            record[{valueOf(kindsInFiles, parts[0]), std::size_t(whole(1)), std::size_t(whole(2)), whole(3),
                    std::size_t(whole(4))}] = parts[5].number(0, farthestOff);
        }
        return record;
    }
};

template <>
struct Fields<RunState> {
    static constexpr auto list = std::make_tuple(
        field("sheet", &RunState::sheet, Within{0, mostNumber}),
        field("fault", &RunState::fault, OneOf(faultsInFiles), Kept::sinceThen),
        field("seed", &RunState::seed, Within{0, mostNumber}, Kept::sinceThen),
        field("marks", &RunState::marks, Each<Anything>{mostCuts}, Kept::sinceThen),
        field("cut", &RunState::record, Anything{}, Kept::sinceThen),
        field("lines", &RunState::lines, AtMost{100}, Kept::sinceThen),
        field("holder", &RunState::holder, Within{0, mostNumber}, Kept::sinceThen),
        field("pieces", &RunState::pieces, Each{mostCuts, Within{0, mostNumber}}, Kept::sinceThen),
        field("kind", &RunState::kind, OneOf(kindsInFiles), Kept::sinceThen),
        field("slipped", &RunState::hasSlipped, Anything{}, Kept::sinceThen),
        field("force", &RunState::force, Within{0, mostForce}, Kept::sinceThen),
        field("bladeDepth", &RunState::bladeDepth, Within{0, farthestOff}, Kept::sinceThen),
        field("onCutter", &RunState::isOnCutter, Anything{}, Kept::sinceThen));
};

} // namespace hasami
