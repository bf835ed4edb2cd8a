#pragma once

#include "checks/costs.h"

#include <span>
#include <stop_token>
#include <string>
#include <vector>

namespace hasami {

/// Money by what it is spent on, in the currency of the medium's price.
struct CostParts {
    double medium = 0, ink = 0, machine = 0, weeding = 0;

    double total() const { return medium + ink + machine + weeding; }
    CostParts& operator+=(const CostParts& other);
    friend CostParts operator*(const CostParts& parts, double by) {
        return {parts.medium * by, parts.ink * by, parts.machine * by, parts.weeding * by};
    }
};

/// What a number of stickers costs, and the work in it.
struct CostRow {
    std::string design;    ///< its id; empty: of all
    std::size_t count = 0; ///< stickers
    CostParts costs;       ///< of all of them
    double price = 0;      ///< of all of them, with the margin
    double cutLength = 0;  ///< mm
    double minutes = 0;    ///< to cut
    double weedMinutes = 0;
    double printed = 0; ///< mm²

    double each() const { return count > 0 ? costs.total() / double(count) : 0; }
    double priceOfEach() const { return count > 0 ? price / double(count) : 0; }
};

/// One row for each design that is laid out, in the job's order, and one for all; or of one sheet alone. The
/// medium, and the machine's time between stickers, are shared by the areas that stickers take, each with
/// half of the gap around it left out of account. `programs`: of each sheet. O(pieces + steps). REQUIRES: as
/// costsOf; there is a program for each sheet.
std::vector<CostRow> stickerCosts(const Job& job, const Made& made, std::span<const CutProgram> programs,
                                  std::optional<std::size_t> sheet = {});

/// As CSV (RFC 4180) with a head, amounts with a point.
std::string costsCsv(const Job& job, std::span<const CostRow> rows);

/// The cost of the medium for each sticker when `count` of a design are laid out alone in plain rows.
struct CountCost {
    int count = 0;
    double medium = 0;   ///< for each of them; mm of its length where no price is known
    bool isGood = false; ///< no smaller count is cheaper, and one more sticker makes each dearer
};

/// For counts from 1 to `most`, at most some hundred of them; of sheets, those that fill them are among them.
/// O(counts · pieces). Throws Stopped.
std::vector<CountCost> costsByCount(const Job& job, const Made& made, std::string_view design, int most,
                                    const std::stop_token& stop = {});

} // namespace hasami
