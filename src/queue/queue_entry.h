#pragma once

#include "geometry/point.h"
#include "profile/profile.h"
#include "workshop/make_all.h"

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace hasami {

/// What a run does with a sheet.
enum class RunWork {
    printAndCut,
    printOnly,
    cutLater, ///< the printed sheet waits, and is found again by its code
    cutOnly,  ///< it was printed elsewhere
};

inline constexpr std::array runWorks{RunWork::printAndCut, RunWork::printOnly, RunWork::cutLater,
                                     RunWork::cutOnly};

/// "Print and cut": in English and marked for translation.
const char* englishNameOf(RunWork work);

bool printsHere(RunWork work);
bool cutsAtAll(RunWork work);

/// A sheet that waits to be printed and cut, or that was. Its job is kept as it was when it was added.
struct QueueEntry {
    /// Unique on this machine; later ones are larger. Letters, digits and hyphens.
    std::string id;
    /// Under which its job is kept; sheets that were added together share it. Empty: not kept yet.
    std::string keptJob;
    std::string job;             ///< the job's name
    std::string day;             ///< that its sheets say: "2026-11-29"
    std::size_t sheet = 0;       ///< from 0 on,
    std::size_t sheets = 1;      ///< of how many
    Point size;                  ///< along the feed and across it, mm
    std::string code;            ///< that is printed on the sheet; empty: none
    std::string printId;         ///< of the job (Job::printId)
    std::vector<LineKind> kinds; ///< of lines, in the order of the work
    std::vector<InkKind> inks;   ///< beside the colours, in the order of printing
    RunWork work = RunWork::printAndCut;
    int copies = 1;                ///< to be made
    int done = 0;                  ///< copies that are finished
    bool isHeld = false;           ///< passed over until it is released
    bool isPrinted = false;        ///< all copies
    bool isBegun = false;          ///< the cut of the present copy
    double order = 0;              ///< its place in the queue: smaller ones come first
    std::uint32_t seed = 1;        ///< of the first copy's print; that of each further one is one more
    std::optional<double> largest; ///< how far the last cut lay off the print at most, mm
    bool isNewer = false; ///< kept by a newer version of the program: shown, but neither run nor changed
    std::string unknown;  ///< what other versions keep with it: a JSON object, or empty

    bool isDone() const { return done >= copies; }
    /// Whether it is taken when the next one is asked for.
    bool isWaiting() const { return !isDone() && !isHeld && !isNewer; }

    friend bool operator==(const QueueEntry&, const QueueEntry&) = default;
};

constexpr int mostQueueCopies = 1000;

/// An entry for a sheet of a job; without an id, and first in order. REQUIRES: `made` was made from the job.
QueueEntry entryOf(const Job& job, const Made& made, std::size_t sheet);

std::string toJson(const QueueEntry& entry);
/// Throws InputError; NewerFormat (kept_json.h), whose entry is `newerEntry`.
QueueEntry queueEntryFromJson(std::string_view json);

/// What can be shown of an entry that a newer version has kept as `id`.
QueueEntry newerEntry(std::string_view json, const std::string& id);

/// In the order of the queue; where that is the same, the older one first.
void sortQueue(std::vector<QueueEntry>& entries);

/// Moves an entry before the one at `place`, or to the end, by giving it another order.
void moveInQueue(std::vector<QueueEntry>& entries, std::string_view id, std::size_t place);

/// The first entry behind `id` that waits, else the first of all others; nothing where none does.
const QueueEntry* nextInQueue(const std::vector<QueueEntry>& entries, std::string_view id);

/// The entry whose printed sheet has that code: one that waits to be cut before any other. Blanks around the
/// code do not count. A code without a printId, as files have it that were not printed from the queue,
/// belongs to any print of that name and number; where these are of different jobs `isDoubtful` becomes true,
/// and nothing is returned.
const QueueEntry* findByCode(const std::vector<QueueEntry>& entries, std::string_view code,
                             bool* isDoubtful = nullptr);

} // namespace hasami
