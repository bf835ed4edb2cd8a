// When nesting reaches which length, with two threads: nest-progress IN.json SECONDS SEED. A line for each
// better layout: seconds, material used in mm.

#include "nesting/nest.h"
#include "nesting/nest_json.h"

#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <iterator>

int main(int argc, char** argv) {
    using namespace hasami::nesting;
    using Clock = std::chrono::steady_clock;
    if (argc != 4)
        return 2;
    std::ifstream file(argv[1]);
    const Problem problem = problemFromJson(std::string{std::istreambuf_iterator<char>(file), {}});
    const Clock::time_point begin = Clock::now();
    Effort effort;
    effort.seconds = std::atof(argv[2]);
    effort.seed = std::strtoull(argv[3], nullptr, 10);
    effort.threads = 2;
    nest(problem, effort, {}, [&](const Nest& better) {
        std::printf("%.3f %.3f\n", std::chrono::duration<double>(Clock::now() - begin).count(),
                    (better.sheets - 1) * problem.media.length.value_or(0) + better.usedLength);
    });
}
