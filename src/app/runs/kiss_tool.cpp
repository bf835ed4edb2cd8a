#include "app/runs/kiss_tool.h"

#include "app/words/words.h"
#include "machine/test_cut.h"

namespace hasami {

QString noRoomForTestCut() {
    const Box room = testCutBox({});
    return tr("There is no room of %1 by %2 mm on the sheet for a test cut")
        .arg(room.width(), 0, 'f', 0)
        .arg(room.height(), 0, 'f', 0);
}

void setKissForce(Document& document, double force) {
    document.change(tr("Set the kiss cut's force to %1 g").arg(force, 0, 'f', 0), [force](Job& job) {
        job.profile.cutter.tools[std::size_t(LineKind::kiss)].force = force;
    });
}

void setKissBladeDepth(Document& document, double depth) {
    document.change(depth > 0
                        ? tr("Set the kiss cut's blade depth to %1 mm").arg(QLocale().toString(depth, 'f', 2))
                        : tr("Leave the kiss cut's blade depth as it is set"),
                    [depth](Job& job) {
                        job.profile.cutter.tools[std::size_t(LineKind::kiss)].bladeDepth =
                            depth > 0 ? std::optional(depth) : std::nullopt;
                    });
}

} // namespace hasami
