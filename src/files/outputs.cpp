#include "files/outputs.h"

#include "base/error.h"
#include "files/cut_file.h"
#include "files/file_name.h"
#include "files/safe_write.h"

namespace hasami {

namespace {

void requireEnding(const std::filesystem::path& path, const char* ending, const char* what) {
    if (path.extension() != ending)
        throw OutputError(fileName(path) + " can't be written: a " + what + " file ends in " + ending);
}

} // namespace

Output printOutput(const std::filesystem::path& path, const Job& job, const Made& made,
                   const PictureSource& pictures, const PrintOptions& options, std::stop_token stop) {
    requireEnding(path, ".pdf", "print");
    return {path, printPdf(job, made, pictures, options, std::move(stop))};
}

std::vector<Output> cutOutputs(const std::filesystem::path& path, const Job& job, const Made& made,
                               std::optional<std::size_t> sheet) {
    requireEnding(path, ".svg", "cut");
    std::vector<Output> outputs;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i) {
        if (sheet && *sheet != i)
            continue;
        std::filesystem::path own = path;
        if (!sheet && i > 0)
            own.replace_filename(path.stem().string() + "-" + std::to_string(i + 1) +
                                 path.extension().string());
        outputs.push_back({own, cutSvg(made, i, job.plan.medium)});
    }
    return outputs;
}

void writeAll(const std::vector<Output>& outputs) {
    for (const Output& output : outputs)
        writeSafely(output.path, output.bytes);
}

} // namespace hasami
