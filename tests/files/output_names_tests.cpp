#include "base/error.h"
#include "files/output_names.h"

#include <catch2/catch.hpp>

using namespace hasami;

TEST_CASE("a pattern for names with a character that no file has is refused") {
    Job job;
    job.name = "honey";
    for (const std::string& wrong : {std::string("a\0b", 3), std::string("a\nb"), std::string("a/b")}) {
        job.outputs.names = wrong;
        CHECK_THROWS_AS(namedByPlan("/tmp", PlannedOutput{}, job, 1), OutputError);
    }
    job.outputs.names = "{job}-{what}";
    CHECK(namedByPlan("/tmp", PlannedOutput{}, job, 1)(OutputPart{}).filename() == "honey-print.pdf");
}
