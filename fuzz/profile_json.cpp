// Any text as a machine profile: refused with a sentence, or a profile that survives being written and read
// again.

#include "base/error.h"
#include "base/json_reader.h"
#include "profile/profile.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace hasami;
    try {
        const nlohmann::json json = parseJson({reinterpret_cast<const char*>(data), size});
        const Profile profile = profileFromJson(JsonReader(json, "profile"));
        const nlohmann::json again = toJson(profile);
        if (!(profileFromJson(JsonReader(again, "profile")) == profile))
            std::abort();
    } catch (const InputError&) {
    }
    return 0;
}
