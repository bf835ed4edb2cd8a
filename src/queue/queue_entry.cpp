#include "queue/queue_entry.h"

#include "base/json_reader.h"
#include "base/translation.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace hasami {

namespace {

constexpr int largestNumber = 1'000'000'000;
constexpr std::size_t longestText = 10'000;
constexpr double mostOrder = 1e15;
constexpr double longestSide = 100'000; // mm
constexpr double farthestOff = 1e6;     // mm

/// Inks of the designs on the sheet, in the order in which they are printed.
std::vector<InkKind> inksOn(const Job& job, const Made& made, const Sheet& sheet) {
    std::vector<InkKind> inks;
    for (const InkKind ink : job.profile.printer.inkOrder) {
        const bool isUsed = std::ranges::any_of(sheet.pieces, [&](const Piece& piece) {
            const MadeDesign* design = made.find(piece.design);
            return design &&
                   std::ranges::any_of(design->inks, [&](const auto& one) { return one->ink == ink; });
        });
        if (isUsed)
            inks.push_back(ink);
    }
    return inks;
}

template <class Kind>
std::vector<int> numbersOf(const std::vector<Kind>& kinds) {
    std::vector<int> numbers;
    numbers.reserve(kinds.size());
    for (const Kind kind : kinds)
        numbers.push_back(int(kind));
    return numbers;
}

template <class Kind>
std::vector<Kind> kindsFrom(const JsonReader& in, std::size_t count) {
    std::vector<Kind> kinds;
    for (const JsonReader& one : in.elements(count))
        kinds.push_back(Kind(one.wholeNumber(0, int(count) - 1)));
    return kinds;
}

/// A name of a file in the queue's folders.
std::string nameFrom(const JsonReader& in) {
    constexpr std::size_t longestName = 100;
    std::string name = in.text(longestName);
    const auto isPlain = [](char c) {
        return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '-';
    };
    if (name.empty() || !std::ranges::all_of(name, isPlain))
        in.refuse("%1 must be letters, digits and hyphens");
    return name;
}

std::string_view trimmed(std::string_view text) {
    constexpr std::string_view blanks = " \t\r\n";
    const auto first = text.find_first_not_of(blanks);
    return first == std::string_view::npos ? std::string_view()
                                           : text.substr(first, text.find_last_not_of(blanks) - first + 1);
}

} // namespace

const char* englishNameOf(RunWork work) {
    switch (work) {
    case RunWork::printAndCut:
        return N_("Print and cut");
    case RunWork::printOnly:
        return N_("Print only");
    case RunWork::cutLater:
        return N_("Print now, cut later");
    case RunWork::cutOnly:
        return N_("Cut only");
    }
    return "";
}

bool printsHere(RunWork work) {
    return work != RunWork::cutOnly;
}

bool cutsAtAll(RunWork work) {
    return work != RunWork::printOnly;
}

QueueEntry entryOf(const Job& job, const Made& made, std::size_t number) {
    const Sheet& sheet = made.layout.sheets.at(number);
    QueueEntry entry;
    entry.job = job.name;
    entry.day = job.day;
    entry.sheet = number;
    entry.sheets = made.layout.sheets.size();
    entry.size = {sheet.length, job.plan.medium.width};
    if (job.profile.lead.code != CodeKind::none)
        entry.code = codeTextOf(job, number);
    entry.kinds = kindsOn(made, sheet);
    entry.inks = inksOn(job, made, sheet);
    return entry;
}

std::string toJson(const QueueEntry& entry) {
    const nlohmann::json json{{"id", entry.id},
                              {"keptJob", entry.keptJob},
                              {"job", entry.job},
                              {"day", entry.day},
                              {"sheet", entry.sheet},
                              {"sheets", entry.sheets},
                              {"size", {entry.size.x, entry.size.y}},
                              {"code", entry.code},
                              {"kinds", numbersOf(entry.kinds)},
                              {"inks", numbersOf(entry.inks)},
                              {"work", int(entry.work)},
                              {"copies", entry.copies},
                              {"done", entry.done},
                              {"held", entry.isHeld},
                              {"printed", entry.isPrinted},
                              {"begun", entry.isBegun},
                              {"order", entry.order},
                              {"seed", entry.seed},
                              {"largest", entry.largest ? nlohmann::json(*entry.largest) : nlohmann::json()}};
    return json.dump(1, ' ', false, nlohmann::json::error_handler_t::replace);
}

QueueEntry queueEntryFromJson(std::string_view text) {
    const nlohmann::json json = parseJson(text);
    const JsonReader in(json, "");
    QueueEntry entry;
    entry.id = nameFrom(in.at("id"));
    entry.keptJob = nameFrom(in.at("keptJob"));
    entry.job = in.at("job").text(longestText);
    entry.day = in.at("day").text(longestText);
    entry.sheet = std::size_t(in.at("sheet").wholeNumber(0, largestNumber));
    entry.sheets = std::size_t(in.at("sheets").wholeNumber(0, largestNumber));
    const auto size = in.at("size").elements(2);
    if (size.size() != 2)
        in.at("size").refuse("%1 must be two numbers");
    entry.size = {size[0].number(0, longestSide), size[1].number(0, longestSide)};
    entry.code = in.at("code").text(longestText);
    entry.kinds = kindsFrom<LineKind>(in.at("kinds"), lineKinds.size());
    entry.inks = kindsFrom<InkKind>(in.at("inks"), inkKinds.size());
    entry.work = RunWork(in.at("work").wholeNumber(0, int(runWorks.size()) - 1));
    entry.copies = in.at("copies").wholeNumber(1, mostQueueCopies);
    entry.done = in.at("done").wholeNumber(0, mostQueueCopies);
    entry.isHeld = in.at("held").flag();
    entry.isPrinted = in.at("printed").flag();
    entry.isBegun = in.at("begun").flag();
    entry.order = in.at("order").number(-mostOrder, mostOrder);
    entry.seed = std::uint32_t(in.at("seed").wholeNumber(0, largestNumber));
    if (!in.at("largest").isNull())
        entry.largest = in.at("largest").number(0, farthestOff);
    return entry;
}

void sortQueue(std::vector<QueueEntry>& entries) {
    std::ranges::sort(entries, [](const QueueEntry& a, const QueueEntry& b) {
        return a.order != b.order ? a.order < b.order : a.id < b.id;
    });
}

void moveInQueue(std::vector<QueueEntry>& entries, std::string_view id, std::size_t place) {
    const auto found = std::ranges::find(entries, id, &QueueEntry::id);
    if (found == entries.end())
        return;
    const std::size_t from = std::size_t(found - entries.begin());
    QueueEntry moved = *found;
    entries.erase(found);
    const std::size_t to = std::min(place > from ? place - 1 : place, entries.size());
    const double gap = 1;
    if (entries.empty())
        moved.order = 0;
    else if (to == 0)
        moved.order = entries.front().order - gap;
    else if (to == entries.size())
        moved.order = entries.back().order + gap;
    else
        moved.order = (entries[to - 1].order + entries[to].order) / 2;
    entries.insert(entries.begin() + std::ptrdiff_t(to), std::move(moved));
    // Halves run out after some fifty moves to the same gap, and entries of one order were added at once.
    const bool isSorted = std::ranges::adjacent_find(entries, [](const QueueEntry& a, const QueueEntry& b) {
                              return a.order >= b.order;
                          }) == entries.end();
    for (std::size_t i = 0; !isSorted && i < entries.size(); ++i)
        entries[i].order = entries.front().order + double(i) * gap;
}

const QueueEntry* nextInQueue(const std::vector<QueueEntry>& entries, std::string_view id) {
    const auto here = std::ranges::find(entries, id, &QueueEntry::id);
    const auto waits = [&](const QueueEntry& entry) { return entry.id != id && entry.isWaiting(); };
    auto found = std::find_if(here, entries.end(), waits);
    if (found == entries.end())
        found = std::find_if(entries.begin(), here, waits);
    return found != entries.end() && waits(*found) ? &*found : nullptr;
}

const QueueEntry* findByCode(const std::vector<QueueEntry>& entries, std::string_view code) {
    const std::string_view wanted = trimmed(code);
    const QueueEntry* best = nullptr;
    const auto rank = [](const QueueEntry& entry) {
        return (entry.isDone() ? 0 : 2) + (entry.isPrinted || !printsHere(entry.work) ? 1 : 0);
    };
    for (const QueueEntry& entry : entries)
        if (!entry.code.empty() && entry.code == wanted && (!best || rank(entry) > rank(*best)))
            best = &entry;
    return best;
}

} // namespace hasami
