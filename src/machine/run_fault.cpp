#include "machine/run_fault.h"

#include "base/number_text.h"
#include "base/translation.h"

#include <cmath>

namespace hasami {

std::string sentenceOf(const Registration& registration) {
    const auto count = [](std::size_t number) { return std::to_string(number); };
    switch (registration.fault) {
    case RunFault::none:
        return {};
    case RunFault::tooFewMarks:
        return sentence("%1 of %2 marks were found, too few to know how the print lies: clean or replace the "
                        "sheet, or place the missing marks by hand",
                        count(registration.found()), count(registration.marks.size()));
    case RunFault::disagreement:
        return translated("The marks do not lie to each other as on the sheet, and it is not clear which of "
                          "them is wrong: look at each, or print the sheet again");
    case RunFault::scaled: {
        const double scale = std::sqrt(registration.scaleAlong * registration.scaleAcross);
        return sentence("The print is %1 percent of its size: print it again without fitting it to the page",
                        numberText(scale * 100, 1));
    }
    case RunFault::wrongWayRound:
        return translated("The sheet lies the wrong way round: put it in with its leading edge first");
    case RunFault::mediumShort:
        return translated("The medium ends before the last marks: put in a longer piece, and print again");
    case RunFault::wrongSheet:
        return translated("This is another sheet: its code is not that of the job");
    }
    return {};
}

std::string doubtOn(const Registration& registration, const LoadLimits& limits) {
    if (registration.model == MapModel::none)
        return {};
    if (std::abs(registration.turn) > limits.turn)
        return sentence(
            "By these marks the sheet lies turned by %1°: check that each mark was touched in the "
            "order shown",
            numberText(std::abs(registration.turn), 1));
    if (const double shift = length(registration.shift); shift > limits.shift)
        return sentence("By these marks the sheet lies %1 mm from its place: check the machine's origin and "
                        "that each mark was touched in the order shown",
                        numberText(shift, 0));
    return {};
}

} // namespace hasami
