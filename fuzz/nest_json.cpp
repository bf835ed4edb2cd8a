// Any text as what nesting is given: refused with a sentence, or laid so that brute force finds no fault.

#include "nesting/nest_json.h"

#include "base/error.h"
#include "nesting/nest.h"
#include "support/nest_checker.h"

#include <cstdio>
#include <cstdlib>

namespace {

/// Small enough to be laid many times a second.
bool isSmall(const hasami::nesting::Problem& problem) {
    int copies = 0;
    std::size_t points = 0;
    for (const hasami::nesting::Part& part : problem.parts) {
        copies += part.copies;
        points += part.outline.size();
        for (const hasami::Loop& opening : part.openings)
            points += opening.size();
    }
    return copies <= 12 && points <= 200 && problem.blocked.size() <= 4;
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    try {
        const hasami::nesting::Problem problem =
            hasami::nesting::problemFromJson({reinterpret_cast<const char*>(data), size});
        if (!isSmall(problem))
            return 0;
        const hasami::nesting::Nest nest = hasami::nesting::nest(problem, {0, 16, 1, 1});
        const std::string fault = hasami::test::faultOf(problem, nest);
        if (!fault.empty()) {
            std::fputs((fault + "\n").c_str(), stderr);
            std::abort();
        }
        hasami::nesting::nestToJson(problem, nest, 0);
    } catch (const hasami::InputError&) {
    }
    return 0;
}
