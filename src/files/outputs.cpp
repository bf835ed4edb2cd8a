#include "files/outputs.h"

#include "base/error.h"
#include "files/cut_svg.h"
#include "files/file_name.h"
#include "files/hpgl.h"
#include "files/safe_write.h"

namespace hasami {

namespace {

std::string cutText(const std::filesystem::path& path, const Job& job, const Made& made, std::size_t sheet) {
    if (path.extension() == ".svg")
        return cutSvg(job, made, sheet);
    if (path.extension() == ".plt")
        return cutHpgl(job, made, sheet);
    throw OutputError(fileName(path) + " can't be written: a cut file ends in .svg or .plt");
}

} // namespace

Output printOutput(const std::filesystem::path& path, const Job& job, const Made& made,
                   const PictureSource& pictures, const PrintOptions& options, std::stop_token stop) {
    if (path.extension() != ".pdf")
        throw OutputError(fileName(path) + " can't be written: a print file ends in .pdf");
    return {path, printPdf(job, made, pictures, options, std::move(stop))};
}

std::vector<Output> cutOutputs(const std::filesystem::path& path, const Job& job, const Made& made,
                               std::optional<std::size_t> sheet) {
    std::vector<Output> outputs;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i) {
        if (sheet && *sheet != i)
            continue;
        std::filesystem::path own = path;
        if (!sheet && i > 0)
            own.replace_filename(path.stem().string() + "-" + std::to_string(i + 1) +
                                 path.extension().string());
        outputs.push_back({own, cutText(own, job, made, i)});
    }
    return outputs;
}

void writeAll(const std::vector<Output>& outputs) {
    std::vector<FileBytes> files;
    for (const Output& output : outputs)
        files.push_back({output.path, output.bytes});
    writeSafely(files);
}

} // namespace hasami
