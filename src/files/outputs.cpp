#include "files/outputs.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/cut_svg.h"
#include "files/file_name.h"
#include "files/hpgl.h"
#include "files/safe_write.h"

namespace hasami {

namespace {

/// In small letters.
std::string endingOf(const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    for (char& c : ending)
        c = c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c;
    return ending;
}

std::string cutText(const std::filesystem::path& path, const Job& job, const Made& made, std::size_t sheet) {
    if (endingOf(path) == ".svg")
        return cutSvg(job, made, sheet);
    if (endingOf(path) == ".plt")
        return cutHpgl(job, made, sheet);
    throw OutputError(sentence("%1 can't be written: a cut file ends in .svg or .plt", fileName(path)));
}

} // namespace

Output printOutput(const std::filesystem::path& path, const Job& job, const Made& made,
                   const PictureSource& pictures, const PrintOptions& options, std::stop_token stop) {
    if (endingOf(path) != ".pdf")
        throw OutputError(sentence("%1 can't be written: a print file ends in .pdf", fileName(path)));
    return {path, printPdf(job, made, pictures, options, std::move(stop))};
}

std::filesystem::path cutPath(const std::filesystem::path& path, std::size_t sheet) {
    std::filesystem::path own = path;
    if (sheet > 0)
        own.replace_filename(path.stem().string() + "-" + std::to_string(sheet + 1) +
                             path.extension().string());
    return own;
}

std::vector<Output> cutOutputs(const std::filesystem::path& path, const Job& job, const Made& made,
                               std::optional<std::size_t> sheet) {
    std::vector<Output> outputs;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i) {
        if (sheet && *sheet != i)
            continue;
        const std::filesystem::path own = sheet ? path : cutPath(path, i);
        outputs.push_back({own, cutText(own, job, made, i)});
    }
    return outputs;
}

void writeAll(const std::vector<Output>& outputs) {
    std::vector<FileBytes> files;
    files.reserve(outputs.size());
    for (const Output& output : outputs)
        files.push_back({output.path, output.bytes});
    writeSafely(files);
}

} // namespace hasami
