#pragma once

#include "artwork/picture.h"
#include "artwork/refusal_text.h"
#include "base/error.h"
#include "base/translation.h"

namespace hasami {

/// Throws InputError for a file that can't be read: an English sentence with "%1" for its name, which the
/// reader does not know, and `values` for "%2" and "%3". Hasami says it in the user's language.
[[noreturn]] inline void refuse(const char* english, const std::string& first = {},
                                const std::string& second = {}) {
    throw InputError(english + (refusalSeparator + first) + refusalSeparator + second);
}

/// Refuses a picture of a size that Hasami does not open.
inline void checkSize(std::int64_t width, std::int64_t height) {
    if (const char* fault = faultOfSize(width, height))
        refuse(fault, std::to_string(width), std::to_string(height));
}

} // namespace hasami
