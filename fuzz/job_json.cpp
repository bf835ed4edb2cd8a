// Any text as job.json: refused with a sentence, or a job that survives being written and read again.

#include "job/job_json.h"

#include "base/error.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    const std::string sha256(64, 'a');
    const std::map<std::string, std::shared_ptr<const hasami::Asset>> assets{
        {sha256, std::make_shared<const hasami::Asset>(hasami::Asset{sha256, "bee.png", {}})}};
    try {
        const hasami::Job job = hasami::jobFromJson({reinterpret_cast<const char*>(data), size}, assets);
        if (!(hasami::jobFromJson(hasami::jobToJson(job), assets) == job))
            std::abort();
    } catch (const hasami::InputError&) {
    }
    return 0;
}
