#include "sheet/rows.h"

#include "base/error.h"
#include "base/translation.h"
#include "geometry/length_text.h"
#include "sheet/closeness.h"

#include <cmath>

namespace hasami {

namespace {

constexpr int mostSheets = 1000;
constexpr int mostInRow = 100'000;
constexpr std::size_t rowsLookedBackAt = 4; // shapes that lie in each other's bays
constexpr double slack = 1e-6;              // mm; what just fits, fits
constexpr double closeToEqual = 0.01;       // mm; designs as deep as this keep their order

/// A row of pieces: which way each is turned, and where its middle lies across.
struct Row {
    double x = 0; ///< of all its pieces' middles
    std::vector<double> y;
    std::vector<std::size_t> shape;
};

/// One design's rows: how its pieces lie side by side.
class Band {
public:
    Band(const Copies& copies, const SheetPlan& plan)
        : copies_(&copies), rules_(plan.rows),
          closeness_(shapes(copies, plan.rows), plan.rows.along.value_or(plan.gap),
                     plan.rows.across.value_or(plan.gap), plan.rows.isPlain()) {}

    const Copies& copies() const { return *copies_; }
    Box boxOf(std::size_t shape) const { return closeness_.box(shape); }
    Affine place(std::size_t shape, Point at) const { return placeOf(*copies_, at, shape == 0 ? 0 : 180); }

    /// The largest box of a piece, however it is turned here.
    Box box() const {
        Box box = boxOf(0);
        if (rules_.turnsAlternate)
            box.add(boxOf(1));
        return box;
    }

    /// The pieces of a row from `least` across, at most `most`, none on what is kept free. `x` is where
    /// their middles lie.
    Row rowAt(double x, const Box& room, double least, std::size_t most, std::size_t number,
              const std::vector<Box>& kept, double gap) {
        if (rules_.most > 0)
            most = std::min(most, std::size_t(rules_.most));
        Row row{x, {}, {}};
        double y = least - boxOf(0).least.y;
        if (rules_.isStaggered && number % 2 == 1)
            y += pitch() / 2;
        while (row.y.size() < most) {
            const std::size_t shape = rules_.turnsAlternate ? row.y.size() % 2 : 0;
            for (std::size_t back = 1; back <= std::min(rowsLookedBackAt, row.y.size()); ++back) {
                const std::size_t i = row.y.size() - back;
                y = std::max(y,
                             row.y[i] + closeness_.leastWay(row.shape[i], shape, 0, Closeness::Axis::across));
            }
            if (row.y.empty() && shape == 0)
                y = std::max(y, least - boxOf(shape).least.y);
            y = pastKept(shape, {x, y}, kept, gap);
            if (y + boxOf(shape).most.y > room.most.y + slack)
                break;
            row.y.push_back(y);
            row.shape.push_back(shape);
        }
        return row;
    }

    /// Where across a piece clears what is kept free.
    double pastKept(std::size_t shape, Point at, const std::vector<Box>& kept, double gap) const {
        for (bool isFree = false; !isFree;) {
            isFree = true;
            for (const Box& box : kept) {
                const Box own = boxOf(shape).movedBy(at).grownBy(gap - slack);
                if (own.meets(box)) {
                    at.y = box.most.y + gap - boxOf(shape).least.y;
                    isFree = false;
                }
            }
        }
        return at.y;
    }

    /// Where a row's middles lie at least, behind the rows before it.
    double leastX(const Row& row, std::span<const Row> before) {
        double x = -1e300;
        for (std::size_t i = 0; i < row.y.size(); ++i)
            for (const Row& other : before)
                for (std::size_t k = 0; k < other.y.size(); ++k)
                    x = std::max(x, other.x + closeness_.leastWay(other.shape[k], row.shape[i],
                                                                  row.y[i] - other.y[k],
                                                                  Closeness::Axis::along));
        return x;
    }

    /// How far a full pair of rows reaches across, from where it begins.
    double extent(const Box& room, std::size_t count) {
        double least = 1e300, most = -1e300;
        for (std::size_t number = 0; number < (rules_.isStaggered ? 2U : 1U); ++number) {
            const Row row = rowAt(room.least.x, room, room.least.y, count, number, {}, 0);
            for (std::size_t i = 0; i < row.y.size(); ++i) {
                least = std::min(least, row.y[i] + boxOf(row.shape[i]).least.y);
                most = std::max(most, row.y[i] + boxOf(row.shape[i]).most.y);
            }
        }
        return most - least;
    }

private:
    static std::vector<Region> shapes(const Copies& copies, const RowRules& rules) {
        std::vector<Region> shapes{outlineOf(copies, placeOf(copies, {}, 0))};
        if (rules.turnsAlternate)
            shapes.push_back(outlineOf(copies, placeOf(copies, {}, 180)));
        return shapes;
    }

    double pitch() { return closeness_.leastWay(0, 0, 0, Closeness::Axis::across); }

    const Copies* copies_;
    RowRules rules_;
    Closeness closeness_;
};

/// A design of which pieces are yet to be laid.
struct Waiting {
    Band band;
    int left = 0;
};

/// Lays band after band, and starts new sheets as needed.
class Rows {
public:
    Rows(std::vector<Sheet> sheets, const SheetPlan& plan, const Profile& profile,
         const std::stop_token& stop)
        : plan_(plan), profile_(profile), stop_(stop),
          area_(workArea(plan, profile).grownBy(plan.box ? -plan.box->margin : 0)) {
        layout_.sheets = std::move(sheets);
        if (!layout_.sheets.empty()) {
            kept_ = keptFree(plan_, profile_, int(layout_.sheets.size()) - 1);
            if (!layout_.sheets.back().work.isEmpty())
                x_ = layout_.sheets.back().work.most.x + along();
        }
    }

    /// Those that reach farthest along the medium first. What a row leaves free beside it and what a sheet
    /// leaves free behind its last row is filled with those that follow, before the next is begun.
    void add(const std::vector<Copies>& copies, int sets) {
        std::vector<Waiting> waiting = deepestFirst(copies, sets);
        for (std::size_t i = 0; i < waiting.size(); ++i) {
            startBand();
            while (waiting[i].left > 0) {
                if (layRow(waiting, i))
                    continue;
                for (std::size_t k = i + 1; k < waiting.size(); ++k) {
                    startBand();
                    while (waiting[k].left > 0 && layRow(waiting, k)) {
                    }
                }
                if (isHopeless() || !startSheet()) {
                    refuse(waiting[i].band.copies(), waiting[i].left, whyNoRow());
                    break;
                }
            }
        }
    }

    /// Rows of each in turn, as long as one of them has room on the sheet; of a roll one row of each.
    void fill(const std::vector<const Copies*>& all) {
        std::vector<Band> bands;
        for (const Copies* copies : all)
            if (!copies->footprint.isEmpty())
                if (Band band(*copies, plan_); !refuses(band, 1))
                    bands.push_back(std::move(band));
        while (!bands.empty()) {
            fillSheet(bands);
            if (!bands.empty() && !startSheet()) {
                for (const Band& band : bands)
                    refuse(band.copies(), 1, translated("there is no room left for it"));
                return;
            }
        }
    }

    std::size_t sheets() const { return layout_.sheets.size(); }

    Layout take() {
        while (!layout_.sheets.empty() && layout_.sheets.back().pieces.empty())
            layout_.sheets.pop_back();
        return std::move(layout_);
    }

private:
    std::vector<Waiting> deepestFirst(const std::vector<Copies>& copies, int sets) {
        std::vector<Waiting> waiting;
        for (const Copies& some : copies) {
            const int count = some.fills ? 0 : some.count * sets;
            if (count <= 0 || some.footprint.isEmpty())
                continue;
            if (Band band(some, plan_); !refuses(band, count))
                waiting.push_back({std::move(band), count});
        }
        const auto depth = [](const Waiting& w) { return std::lround(w.band.box().width() / closeToEqual); };
        std::stable_sort(waiting.begin(), waiting.end(),
                         [&](const Waiting& a, const Waiting& b) { return depth(a) > depth(b); });
        return waiting;
    }

    /// Those that found room are taken out.
    void fillSheet(std::vector<Band>& bands) {
        std::vector<bool> isLaid(bands.size(), false);
        for (bool goesOn = true; goesOn;) {
            goesOn = false;
            for (std::size_t i = 0; i < bands.size(); ++i) {
                if (bands.size() > 1 || before_.empty())
                    startBand();
                if (const Row row = nextRow(bands[i], mostInRow); !row.y.empty()) {
                    keep(bands[i], row);
                    isLaid[i] = goesOn = true;
                }
            }
            goesOn = goesOn && !plan_.medium.isRoll();
        }
        std::vector<Band> waiting;
        for (std::size_t i = 0; i < bands.size(); ++i)
            if (!isLaid[i])
                waiting.push_back(std::move(bands[i]));
        bands = std::move(waiting);
    }

    double along() const { return plan_.rows.along.value_or(plan_.gap); }
    double across() const { return plan_.rows.across.value_or(plan_.gap); }
    bool isPlain() const { return plan_.rows.isPlain(); }

    bool refuses(const Band& band, int count) {
        const Box box = band.box();
        if (!area_.isEmpty() && box.width() <= area_.width() + slack &&
            box.height() <= area_.height() + slack) {
            if (const double section = profile_.marks.interval - 2 * plan_.gap;
                !cutsInSections(profile_.marks) || box.width() < section)
                return false;
            refuse(band.copies(), count,
                   sentence("it is %1 along the medium, longer than a section between two pairs of marks",
                            lengthText(box.width())));
            return true;
        }
        refuse(band.copies(), count, tooLarge(box));
        return true;
    }

    /// Once a row has found no place on the last sheet there may be.
    std::string whyNoRow() const {
        if (!kept_.empty() && layout_.sheets.back().pieces.empty())
            return translated("what is kept free of the medium leaves no room for it");
        if (plan_.medium.isRoll() && plan_.medium.whole())
            return translated("more than 1000 rolls would be needed");
        return translated(plan_.medium.isRoll() ? N_("the roll would be longer than 50 m")
                                                : N_("more than 1000 sheets would be needed"));
    }

    void refuse(const Copies& copies, int count, const std::string& reason) {
        layout_.unplaced.push_back({copies.design, count, reason});
    }

    std::string tooLarge(const Box& box) const {
        if (area_.isEmpty())
            return translated(
                plan_.box && plan_.margin > 0 ? N_("the medium is too small for the shared box, the margin, "
                                                   "the marks and the strips that "
                                                   "the machine can't reach")
                : plan_.box
                    ? N_("the medium is too small for the shared box, the marks and the strips that the "
                         "machine can't reach")
                : plan_.margin > 0
                    ? N_("the medium is too small for the margin, the marks and the strips that the "
                         "machine can't reach")
                    : N_("the medium is too small for the marks and the strips that the machine "
                         "can't reach"));
        const std::string across = lengthText(box.height()), along = lengthText(box.width()),
                          room = lengthText(area_.height());
        return plan_.medium.whole()
                   ? sentence(
                         "it is %1 across and %2 along the medium, where there is room for %3 across and %4 "
                         "along",
                         across, along, room, lengthText(area_.width()))
                   : sentence("it is %1 across and %2 along the medium, where there is room for %3 across",
                              across, along, room);
    }

    void startBand() {
        before_.clear();
        rowsOfBand_ = 0;
        if (!layout_.sheets.empty() && !layout_.sheets.back().work.isEmpty())
            x_ = std::max(x_, layout_.sheets.back().work.most.x + along());
    }

    bool startSheet() {
        if (!layout_.sheets.empty() && (!plan_.medium.whole() || layout_.sheets.size() >= mostSheets))
            return false;
        kept_ = keptFree(plan_, profile_, int(layout_.sheets.size()));
        layout_.sheets.emplace_back();
        before_.clear();
        rowsOfBand_ = 0;
        x_ = area_.least.x;
        return true;
    }

    /// A row of one of those that wait, and beside it what follows. False where this sheet has no room for
    /// it.
    bool layRow(std::vector<Waiting>& waiting, std::size_t first) {
        Waiting& own = waiting[first];
        const Row row = nextRow(own.band, own.left);
        if (row.y.empty())
            return false;
        Sheet& sheet = layout_.sheets.back();
        const std::size_t begin = sheet.pieces.size();
        const Box before = sheet.work;
        Box box = keep(own.band, row);
        own.left -= int(row.y.size());
        if (isPlain() || own.left == 0) { // rows that lie in each other's bays have nothing between them
            if (!before.isEmpty())
                box.least.x = std::max(box.least.x, before.most.x + along());
            fillBeside(waiting, first + 1, box, row.y.size());
        }
        if (plan_.rows.isCentred && isPlain())
            centre(begin, before, box);
        return true;
    }

    /// Columns of pieces beside a row, which reach no farther along than it does. `row` is the box around it,
    /// which grows by them.
    void fillBeside(std::vector<Waiting>& waiting, std::size_t from, Box& row, std::size_t inRow) {
        for (std::size_t i = from; i < waiting.size(); ++i)
            while (waiting[i].left > 0 && (plan_.rows.most == 0 || inRow < std::size_t(plan_.rows.most))) {
                const Box own = waiting[i].band.boxOf(0);
                const double least = row.most.y + across();
                const double y = waiting[i].band.pastKept(0, {row.least.x - own.least.x, least - own.least.y},
                                                          kept_, plan_.gap) +
                                 own.least.y;
                if (own.width() > row.width() + slack || y + own.height() > area_.most.y + slack)
                    break;
                fillColumn(waiting, i, {{row.least.x, y}, {row.most.x, y + own.height()}});
                row.most.y = y + own.height();
                ++inRow;
            }
    }

    /// Pieces behind each other in a box beside a row, as far as what is kept free lets them.
    void fillColumn(std::vector<Waiting>& waiting, std::size_t from, Box column) {
        for (std::size_t i = from; i < waiting.size(); ++i) {
            const Box own = waiting[i].band.boxOf(0);
            while (waiting[i].left > 0 && own.width() <= column.width() + slack &&
                   own.height() <= column.height() + slack) {
                const Point at = column.least - own.least;
                if (waiting[i].band.pastKept(0, at, kept_, plan_.gap) > at.y)
                    return;
                keepPiece(waiting[i].band, 0, at);
                --waiting[i].left;
                column.least.x += own.width() + along();
            }
        }
    }

    /// Moves a whole row, whose pieces are those from `begin` on, into the middle of the medium, where
    /// nothing that is kept free is in its way. `before`: around what else lies on the sheet.
    void centre(std::size_t begin, const Box& before, const Box& row) {
        const double way = (area_.most.y - row.most.y + area_.least.y - row.least.y) / 2;
        Sheet& sheet = layout_.sheets.back();
        const Box moved = row.movedBy({0, way}).grownBy(plan_.gap - slack);
        if (std::any_of(kept_.begin(), kept_.end(), [&](const Box& kept) { return kept.meets(moved); }))
            return;
        for (std::size_t i = begin; i < sheet.pieces.size(); ++i)
            sheet.pieces[i].place.f += way;
        sheet.work = before;
        sheet.work.add(row.movedBy({0, way}));
    }

    /// Where there is no room left on this sheet: empty.
    Row nextRow(Band& band, int count) {
        throwIfStopped(stop_);
        if (layout_.sheets.empty() && !startSheet())
            return {};
        double start = area_.least.y;
        if (plan_.rows.isCentred && !isPlain())
            start += std::max(0.0, area_.height() - band.extent(area_, std::size_t(count))) / 2;
        return findRow(band, count, start);
    }

    /// A sheet that was never used, and holds nothing, is no use: nor are those behind it.
    bool isHopeless() const {
        return layout_.sheets.empty() ||
               (layout_.sheets.back().pieces.empty() && !isUsedFrom(layout_.sheets.size() - 1));
    }

    bool isUsedFrom(std::size_t sheet) const {
        return std::any_of(plan_.medium.used.begin(), plan_.medium.used.end(),
                           [&](const UsedArea& used) { return used.sheet >= int(sheet); });
    }

    /// The next row on this sheet; empty where there is no room.
    Row findRow(Band& band, int count, double start) {
        double least = x_;
        while (true) {
            double x = least - band.box().least.x;
            Row row;
            constexpr int rounds = 8;
            for (int round = 0; round < rounds; ++round) {
                row = band.rowAt(x, area_, start, std::size_t(count), rowsOfBand_, kept_, plan_.gap);
                const double behind = band.leastX(row, before_);
                if (behind <= x + slack)
                    break;
                x = round + 2 < rounds ? behind : before_.back().x + band.box().width() + along();
            }
            if (x + band.box().most.x > area_.most.x + slack)
                return {};
            if (!row.y.empty())
                return row;
            least = behindKept(x + band.box().least.x);
        }
    }

    /// The next place along where something that is kept free ends. Each is behind the last.
    double behindKept(double x) const {
        double next = area_.most.x + 1;
        for (const Box& box : kept_)
            if (box.most.x + plan_.gap > x + slack)
                next = std::min(next, box.most.x + plan_.gap);
        return next;
    }

    /// The box around the row.
    Box keep(const Band& band, const Row& row) {
        Box box;
        for (std::size_t i = 0; i < row.y.size(); ++i)
            box.add(keepPiece(band, row.shape[i], {row.x, row.y[i]}));
        before_.push_back(row);
        if (before_.size() > rowsLookedBackAt)
            before_.erase(before_.begin());
        ++rowsOfBand_;
        if (isPlain())
            x_ = layout_.sheets.back().work.most.x + along();
        return box;
    }

    Box keepPiece(const Band& band, std::size_t shape, Point at) {
        Sheet& sheet = layout_.sheets.back();
        sheet.pieces.push_back({band.copies().design, band.place(shape, at)});
        const Box box = band.boxOf(shape).movedBy(at);
        sheet.work.add(box);
        return box;
    }

    const SheetPlan& plan_;
    const Profile& profile_;
    std::stop_token stop_;
    Box area_;
    Layout layout_;
    std::vector<Box> kept_;   // on the present sheet
    std::vector<Row> before_; // of the present band
    std::size_t rowsOfBand_ = 0;
    double x_ = 0;
};

} // namespace

int setsOnSheet(const std::vector<Copies>& copies, const SheetPlan& plan, const Profile& profile, int most,
                const std::stop_token& stop) {
    const auto fits = [&](int sets) {
        Rows rows({}, plan, profile, stop);
        rows.add(copies, sets);
        return rows.sheets() == 1 && rows.take().unplaced.empty();
    };
    int good = 0, bad = 1; // bad: too many, unless it is beyond `most`
    while (bad <= most && fits(bad)) {
        good = bad;
        bad *= 2;
    }
    bad = std::min(bad, most + 1);
    while (bad - good > 1)
        if (const int middle = (good + bad) / 2; fits(middle))
            good = middle;
        else
            bad = middle;
    return good;
}

Layout rowsBehind(std::vector<Sheet> sheets, const std::vector<Copies>& copies, const SheetPlan& plan,
                  const Profile& profile, const std::stop_token& stop) {
    const bool isBegun = !sheets.empty();
    std::vector<const Copies*> filling;
    for (const Copies& c : copies)
        if (c.fills)
            filling.push_back(&c);
    const int together = plan.sets > 1 && !plan.medium.isRoll() && !isBegun
                             ? setsOnSheet(copies, plan, profile, plan.sets, stop)
                             : 0;
    if (together > 0)
        for (int sets = plan.sets; sets > 0; sets -= together) {
            Rows rows({}, plan, profile, stop);
            rows.add(copies, std::min(sets, together));
            for (Sheet& sheet : rows.take().sheets)
                sheets.push_back(std::move(sheet));
        }
    Rows rows(std::move(sheets), plan, profile, stop);
    if (together == 0)
        rows.add(copies, plan.sets);
    rows.fill(filling);
    return rows.take();
}

} // namespace hasami
