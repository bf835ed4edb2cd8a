// Any text as a recipe, as `hasami-cli new --recipe` reads it: refused with a sentence, or a recipe that
// survives being written and read again.

#include "base/error.h"
#include "job/recipe_fields.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace hasami;
    try {
        const nlohmann::json json = parseJson({reinterpret_cast<const char*>(data), size});
        const Recipe recipe = fromJson<Recipe>(JsonReader(json, "recipe"));
        const nlohmann::json again = toJson(recipe);
        if (!(fromJson<Recipe>(JsonReader(again, "recipe")) == recipe))
            std::abort();
    } catch (const InputError&) {
    }
    return 0;
}
