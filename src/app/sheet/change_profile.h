#pragma once

#include "app/document/document.h"

#include <functional>

namespace hasami {

/// Changes the job's machine profile as one undo step. Where the profile could not be used so, nothing is
/// changed and a sentence says why; false.
bool changeProfile(Document& document, const QString& label, const std::function<void(Profile&)>& change);

} // namespace hasami
