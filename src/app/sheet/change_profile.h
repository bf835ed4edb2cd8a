#pragma once

#include "app/document/document.h"

#include <functional>

namespace hasami {

/// Changes the job's machine profile as one undo step. Where the profile could not be used so, nothing is
/// changed and a sentence says why; false. Changes with the same `run` are one step until the document's run
/// ends.
bool changeProfile(Document& document, const QString& label, const std::function<void(Profile&)>& change,
                   const QString& run = {});

} // namespace hasami
