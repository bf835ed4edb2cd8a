#include "files/outputs.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/cut_dxf.h"
#include "files/cut_svg.h"
#include "files/file_name.h"
#include "files/hpgl.h"
#include "files/print_eps.h"
#include "files/print_picture.h"
#include "files/safe_write.h"

#include <map>

namespace hasami {

namespace {

/// In small letters.
std::string endingOf(const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    for (char& c : ending)
        c = c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c;
    return ending;
}

std::string cutBytes(const std::filesystem::path& path, const Job& job, const Made& made, std::size_t sheet,
                     const LineKinds& kinds) {
    const std::string ending = endingOf(path);
    if (ending == ".svg")
        return cutSvg(job, made, sheet, kinds);
    if (ending == ".dxf")
        return cutDxf(job, made, sheet, kinds);
    if (ending == ".plt")
        return cutHpgl(job, made, sheet, kinds);
    if (ending == ".pdf")
        return printPdf(job, made, {}, {true, sheet, false, kinds});
    throw OutputError(
        sentence("%1 can't be written: a cut file ends in .svg, .dxf, .plt or .pdf", fileName(path)));
}

std::filesystem::path withWord(std::filesystem::path path, const std::string& word) {
    return path.replace_filename(path.stem().string() + "-" + word + path.extension().string());
}

/// Of the kinds that a sheet has, those meant, by the holder that cuts them.
std::map<int, LineKinds> kindsByHolder(const Job& job, const Made& made, std::size_t sheet,
                                       const LineKinds& kinds) {
    std::map<int, LineKinds> byHolder;
    for (const LineKind kind : kindsOn(made, made.layout.sheets[sheet]))
        if (holds(kinds, kind))
            byHolder[job.profile.cutter.tool(kind).holder].push_back(kind);
    return byHolder;
}

} // namespace

std::vector<Output> printOutputs(const std::filesystem::path& path, const Job& job, const Made& made,
                                 const PictureSource& pictures, const PrintOptions& options,
                                 double dotsPerInch, const std::stop_token& stop) {
    const std::string ending = endingOf(path);
    if (ending == ".pdf")
        return {{path, printPdf(job, made, pictures, options, stop)}};
    if (ending != ".eps" && ending != ".png" && ending != ".tif" && ending != ".tiff")
        throw OutputError(
            sentence("%1 can't be written: a print file ends in .pdf, .eps, .png or .tiff", fileName(path)));
    const PrintPicture picture{ending == ".png" ? PrintPicture::Format::png : PrintPicture::Format::tiff,
                               dotsPerInch};
    std::vector<Output> outputs;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i) {
        if (options.sheet && *options.sheet != i)
            continue;
        const std::filesystem::path own = options.sheet ? path : sheetPath(path, i);
        const auto add = [&](const std::filesystem::path& file, std::optional<InkKind> ink) {
            outputs.push_back({file, picture.drawn(fileName(file), job, made, pictures, i, ink, stop)});
        };
        if (ending == ".eps") {
            outputs.push_back({own, printEps(fileName(own), job, made, pictures, i, options.cutLines, stop)});
            continue;
        }
        add(own, {});
        for (const InkKind ink : inksOn(job, made, made.layout.sheets[i]))
            add(withWord(own, std::string(inkName(ink))), ink);
    }
    return outputs;
}

std::filesystem::path sheetPath(const std::filesystem::path& path, std::size_t sheet) {
    std::filesystem::path own = path;
    if (sheet > 0)
        own.replace_filename(path.stem().string() + "-" + std::to_string(sheet + 1) +
                             path.extension().string());
    return own;
}

std::vector<Output> cutOutputs(const std::filesystem::path& path, const Job& job, const Made& made,
                               const CutOptions& options) {
    std::vector<Output> outputs;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i) {
        if (options.sheet && *options.sheet != i)
            continue;
        const std::filesystem::path own = options.sheet ? path : sheetPath(path, i);
        if (!options.isOnePerTool)
            outputs.push_back({own, cutBytes(own, job, made, i, options.kinds)});
        else
            for (const auto& [holder, kinds] : kindsByHolder(job, made, i, options.kinds))
                outputs.push_back(
                    {withWord(own, "tool" + std::to_string(holder)), cutBytes(own, job, made, i, kinds)});
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
