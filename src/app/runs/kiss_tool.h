#pragma once

#include "app/document/document.h"

namespace hasami {

/// Why there is no test cut on a sheet.
QString noRoomForTestCut();

/// What a test cut sets in the job's profile, each as one undo step. g; mm, 0: as it is set in the holder.
void setKissForce(Document& document, double force);
void setKissBladeDepth(Document& document, double depth);

} // namespace hasami
