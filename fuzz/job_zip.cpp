// Any bytes as a job file: refused with a sentence, or a job that survives being saved and opened again.

#include "base/error.h"
#include "files/job_file.h"

#include <cstdlib>
#include <filesystem>
#include <fstream>
#include <string>
#include <unistd.h>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    using namespace hasami;
    const std::filesystem::path path =
        std::filesystem::temp_directory_path() / ("hasami-fuzz-" + std::to_string(getpid()) + ".hasami");
    std::ofstream(path, std::ios::binary).write(reinterpret_cast<const char*>(data), std::streamsize(size));
    try {
        const Job job = openJob(path);
        saveJob(path, job, "");
        const Job again = openJob(path); // its assets are others with the same bytes
        if (!(again.designs == job.designs && again.plan == job.plan && again.profile == job.profile))
            std::abort();
    } catch (const InputError&) {
    }
    std::filesystem::remove(path);
    return 0;
}
