#include "queue/queue_entry.h"

#include "base/translation.h"
#include "queue/queue_fields.h"

#include <algorithm>

namespace hasami {

namespace {

/// Format 1 had numbers in place of names.
void nameNumbers(nlohmann::json& json) {
    for (auto& kind : json["kinds"])
        nameNumber(kind, kindsInFiles);
    for (auto& ink : json["inks"])
        nameNumber(ink, inksInFiles);
    nameNumber(json["work"], worksInFiles);
}

/// Inks of the designs on the sheet, in the order in which they are printed.
std::vector<InkKind> inksOn(const Job& job, const Made& made, const Sheet& sheet) {
    std::vector<InkKind> inks;
    for (const InkKind ink : job.profile.printer.inkOrder.inks()) {
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

/// What names a file in the queue's folders.
bool isFileName(std::string_view name) {
    constexpr std::size_t longest = 100;
    return !name.empty() && name.size() <= longest && std::ranges::all_of(name, [](char c) {
        return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '-';
    });
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
    entry.printId = job.printId;
    entry.kinds = kindsOn(made, sheet);
    entry.inks = inksOn(job, made, sheet);
    return entry;
}

std::string toJson(const QueueEntry& entry) {
    return keptText(keptJson(entry, entry.unknown), 1);
}

QueueEntry queueEntryFromJson(std::string_view text) {
    nlohmann::json json = parseJson(text);
    if (formatOf(json) == 1)
        nameNumbers(json);
    std::string unknown;
    QueueEntry entry = fromKept<QueueEntry>(json, unknown);
    entry.unknown = std::move(unknown);
    for (const std::string& name : {entry.id, entry.keptJob})
        if (!isFileName(name))
            throw InputError(sentence("\"%1\" must be letters, digits and hyphens", name));
    return entry;
}

QueueEntry newerEntry(std::string_view text, const std::string& id) {
    const nlohmann::json json = parseJson(text);
    const JsonReader in(json, "");
    QueueEntry entry;
    entry.id = id;
    entry.isNewer = true;
    try {
        entry.order = in.at("order").number(-mostOrder, mostOrder);
        entry.job = in.at("job").text(longestText);
        entry.keptJob = in.at("keptJob").text(longestText);
    } catch (const InputError&) {
        return entry; // that version may have it otherwise
    }
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

const QueueEntry* findByCode(const std::vector<QueueEntry>& entries, std::string_view code,
                             bool* isDoubtful) {
    const std::string_view wanted = trimmed(code);
    const auto rank = [](const QueueEntry& entry) {
        return (entry.isDone() ? 0 : 2) + (entry.isPrinted || !printsHere(entry.work) ? 1 : 0);
    };
    const QueueEntry *same = nullptr, *alike = nullptr;
    bool areDifferent = false;
    for (const QueueEntry& entry : entries) {
        if (entry.code.empty() || entry.isNewer)
            continue;
        if (entry.code == wanted && (!same || rank(entry) > rank(*same)))
            same = &entry;
        if (entry.code != std::string(wanted) + "." + entry.printId)
            continue;
        areDifferent |= alike && alike->printId != entry.printId;
        if (!alike || rank(entry) > rank(*alike))
            alike = &entry;
    }
    if (isDoubtful)
        *isDoubtful = !same && areDifferent;
    return same ? same : areDifferent ? nullptr : alike;
}

} // namespace hasami
