#include "rehearsal/training.h"

#include "base/translation.h"

#include <algorithm>

namespace hasami {

const char* englishNameOf(TrainingFault fault) {
    constexpr std::array names{N_("Nothing wrong"),         N_("Wrong way round"),
                               N_("Scaled by the printer"), N_("Two marks smudged"),
                               N_("Corner torn off"),       N_("Sheet of another job"),
                               N_("Sheet slips half-way"),  N_("Too little force"),
                               N_("Too much force"),        N_("Wrong tool"),
                               N_("Medium too short"),      N_("A stop empties the memory"),
                               N_("Power failure half-way")};
    return names[std::size_t(fault)];
}

RehearsalFaults withFault(RehearsalFaults base, TrainingFault fault) {
    switch (fault) {
    case TrainingFault::wrongWayRound:
        base.error.isUpsideDown = true;
        break;
    case TrainingFault::scaledPrint:
        base.error.scale = 0.97;
        break;
    case TrainingFault::smudgedMark:
        base.marksLost = 2;
        break;
    case TrainingFault::tornMark:
        base.marksTorn = 1;
        break;
    default:
        break;
    }
    return base;
}

std::shared_ptr<const SheetPicture> onMedium(std::shared_ptr<const SheetPicture> print, const Sheet& sheet,
                                             TrainingFault fault) {
    if (fault != TrainingFault::shortMedium || sheet.marks.empty())
        return print;
    double last = 0;
    for (const Mark& mark : sheet.marks)
        last = std::max(last, mark.centre.x);
    constexpr double missing = 12; // mm before the last marks
    auto shorter = std::make_shared<SheetPicture>(*print);
    shorter->pixels =
        print->pixels.firstColumns(std::max(1, int((last - missing) * print->pixelsPerMillimetre)));
    return shorter;
}

double neededForce(TrainingFault fault, double usual) {
    return fault == TrainingFault::littleForce ? 1.4 * usual
           : fault == TrainingFault::muchForce ? 0.65 * usual
                                               : usual;
}

CutDepth depthOf(double force, double needed) {
    constexpr double least = 0.9, most = 1.2;
    return force < least * needed  ? CutDepth::tooShallow
           : force > most * needed ? CutDepth::tooDeep
                                   : CutDepth::right;
}

bool mayLoseLines(TrainingFault fault) {
    return fault == TrainingFault::forgetfulStop || fault == TrainingFault::powerFailure;
}

std::string sentenceOnLines(std::size_t missing, std::size_t twice) {
    if (missing > 0)
        return countedSentence(
            "%1 line is not cut, since it was lost with the machine's memory: look at the sheet after a "
            "stop, and continue with the first line that is not cut",
            "%1 lines are not cut, since they were lost with the machine's memory: look at the sheet after "
            "a stop, and continue with the first line that is not cut",
            missing);
    if (twice > 0)
        return countedSentence(
            "%1 line was cut twice, which goes through the backing: look at the sheet after a stop, and "
            "continue with the first line that is not cut",
            "%1 lines were cut twice, which goes through the backing: look at the sheet after a stop, and "
            "continue with the first line that is not cut",
            twice);
    return {};
}

std::string sentenceOnWeeding(TrainingFault fault, CutDepth depth) {
    if (fault == TrainingFault::wrongTool)
        return translated("The stickers come off with their backing: the knife for die cuts is in the kiss "
                          "cut's holder. Put the right tool in, and print the sheet again");
    switch (depth) {
    case CutDepth::tooShallow:
        return translated(
            "The vinyl tears when it is weeded, since it is not cut through: raise the force of "
            "the kiss cut, and cut the same lines again");
    case CutDepth::tooDeep:
        return translated("The backing is cut too, and stickers fall out: lower the force of the kiss "
                          "cut, and print the sheet again");
    case CutDepth::right:
        break;
    }
    return {};
}

} // namespace hasami
