// Any text as a recipe, as `hasami-cli new --recipe` reads it: refused with a sentence, or a recipe that
// survives being written and read again.

#include "job/recipe_json.h"

#include "base/error.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace hasami;
    try {
        const nlohmann::json json = parseJson({reinterpret_cast<const char*>(data), size});
        const Recipe recipe = recipeFromJson(JsonReader(json, "recipe"));
        const nlohmann::json again = toJson(recipe);
        if (!(recipeFromJson(JsonReader(again, "recipe")) == recipe))
            std::abort();
    } catch (const InputError&) {
    }
    return 0;
}
