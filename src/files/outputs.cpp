#include "files/outputs.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/cut_dxf.h"
#include "files/cut_svg.h"
#include "files/file_name.h"
#include "files/hpgl.h"
#include "files/print_eps.h"
#include "files/print_file.h"
#include "files/print_picture.h"
#include "files/safe_write.h"

#include <algorithm>
#include <map>

namespace hasami {

namespace {

using What = PlannedOutput::What;

/// In small letters.
std::string endingOf(const std::filesystem::path& path) {
    std::string ending = path.extension().string();
    for (char& c : ending)
        c = c >= 'A' && c <= 'Z' ? char(c - 'A' + 'a') : c;
    return ending;
}

bool isPicture(PrintFormat format) {
    return format == PrintFormat::png || format == PrintFormat::tiff;
}

std::string printBytes(const PlannedOutput& output, const OutputPart& part, const std::string& file,
                       const Job& job, const Made& made, const PictureSource& pictures,
                       const std::stop_token& stop) {
    if (output.print == PrintFormat::pdf)
        return printPdf(job, made, pictures, {output.cutLines, part.sheet}, stop);
    if (output.print == PrintFormat::eps)
        return printEps(file, job, made, pictures, part.sheet.value(), output.cutLines, stop);
    const PrintPicture picture{output.print == PrintFormat::png ? PrintPicture::Format::png
                                                                : PrintPicture::Format::tiff,
                               output.dotsPerInch, output.isInInks};
    return picture.drawn(file, job, made, pictures, part.sheet.value(), part.ink, stop);
}

std::string cutBytes(CutLanguage language, const OutputPart& part, const Job& job, const Made& made) {
    const std::size_t sheet = part.sheet.value();
    switch (language) {
    case CutLanguage::svg:
        return cutSvg(job, made, sheet, part.kinds);
    case CutLanguage::dxf:
        return cutDxf(job, made, sheet, part.kinds);
    case CutLanguage::hpgl:
        return cutHpgl(job, made, sheet, part.kinds);
    case CutLanguage::pdf:
        break;
    }
    return printPdf(job, made, {}, {true, sheet, false, part.kinds});
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

void addParts(std::vector<OutputPart>& parts, const PlannedOutput& output, const Job& job, const Made& made,
              std::size_t sheet) {
    if (output.what == What::print) {
        parts.push_back({sheet});
        if (isPicture(output.print))
            for (const InkKind ink : inksOn(job, made, made.layout.sheets[sheet]))
                parts.push_back({sheet, ink});
    } else if (output.isOnePerTool) {
        for (const auto& [holder, kinds] : kindsByHolder(job, made, sheet, output.kinds))
            parts.push_back({sheet, {}, holder, kinds});
    } else {
        parts.push_back({sheet, {}, {}, output.kinds});
    }
}

} // namespace

PlannedOutput printNamed(const std::filesystem::path& path) {
    static const std::map<std::string, PrintFormat> formats{{".pdf", PrintFormat::pdf},
                                                            {".eps", PrintFormat::eps},
                                                            {".png", PrintFormat::png},
                                                            {".tif", PrintFormat::tiff},
                                                            {".tiff", PrintFormat::tiff}};
    const auto format = formats.find(endingOf(path));
    if (format == formats.end())
        throw OutputError(
            sentence("%1 can't be written: a print file ends in .pdf, .eps, .png or .tiff", fileName(path)));
    return {What::print, format->second};
}

PlannedOutput cutNamed(const std::filesystem::path& path) {
    static const std::map<std::string, CutLanguage> languages{{".svg", CutLanguage::svg},
                                                              {".dxf", CutLanguage::dxf},
                                                              {".plt", CutLanguage::hpgl},
                                                              {".pdf", CutLanguage::pdf}};
    const auto language = languages.find(endingOf(path));
    if (language == languages.end())
        throw OutputError(
            sentence("%1 can't be written: a cut file ends in .svg, .dxf, .plt or .pdf", fileName(path)));
    PlannedOutput output{What::cut};
    output.cut = language->second;
    return output;
}

std::vector<OutputPart> partsOf(const PlannedOutput& output, const Job& job, const Made& made,
                                std::optional<std::size_t> sheet) {
    const bool isOfAll =
        output.what == What::print && output.print == PrintFormat::pdf && !output.isOnePerSheet;
    if (isOfAll)
        return {{sheet}};
    std::vector<OutputPart> parts;
    for (std::size_t i = 0; i < made.layout.sheets.size(); ++i)
        if (!sheet || *sheet == i)
            addParts(parts, output, job, made, i);
    return parts;
}

std::vector<Output> outputsOf(const PlannedOutput& output, const NameOutput& nameOf, const Job& job,
                              const Made& made, const PictureSource& pictures,
                              std::optional<std::size_t> sheet, const std::stop_token& stop) {
    std::vector<Output> outputs;
    for (const OutputPart& part : partsOf(output, job, made, sheet)) {
        throwIfStopped(stop);
        const std::filesystem::path path = nameOf(part);
        outputs.push_back(
            {path, output.what == What::print
                       ? printBytes(output, part, fileName(path), job, made, pictures, stop)
                       : cutBytes(output.cut.value_or(job.profile.cutter.language), part, job, made)});
    }
    return outputs;
}

std::vector<std::vector<std::filesystem::path>> plannedPaths(const std::filesystem::path& folder,
                                                             const Job& job, const Made& made) {
    std::vector<std::vector<std::filesystem::path>> paths;
    std::set<std::filesystem::path> taken;
    for (const PlannedOutput& output : job.outputs.outputs) {
        const NameOutput nameOf = namedByPlan(folder, output, job, made.layout.sheets.size());
        auto& own = paths.emplace_back();
        for (const OutputPart& part : partsOf(output, job, made)) {
            own.push_back(nameOf(part));
            if (!taken.insert(own.back()).second)
                throw OutputError(sentence("two outputs would be called %1: put {what} and {sheet} into the "
                                           "pattern for names, or take one of them out",
                                           fileName(own.back())));
        }
    }
    return paths;
}

OutputContents contentsOf(const PlannedOutput& output, const Job& job, const Made& made) {
    OutputContents contents;
    const bool isPrint = output.what == What::print;
    const bool hasLines = !isPrint || (output.cutLines && !isPicture(output.print));
    std::set<LineKind> kinds;
    std::set<InkKind> inks;
    for (const Sheet& sheet : made.layout.sheets) {
        ++contents.sheets;
        contents.pieces += sheet.pieces.size();
        contents.marks += sheet.marks.size();
        for (const LineKind kind : kindsOn(made, sheet))
            if (hasLines && (isPrint || holds(output.kinds, kind)))
                kinds.insert(kind);
        if (isPrint)
            std::ranges::copy(inksOn(job, made, sheet), std::inserter(inks, inks.end()));
    }
    if (!isPrint && output.cut.value_or(job.profile.cutter.language) == CutLanguage::hpgl)
        contents.marks = 0; // it has no layers
    contents.kinds.assign(kinds.begin(), kinds.end());
    contents.inks.assign(inks.begin(), inks.end());
    return contents;
}

void writeAll(const std::vector<Output>& outputs) {
    std::vector<FileBytes> files;
    files.reserve(outputs.size());
    for (const Output& output : outputs)
        files.push_back({output.path, output.bytes});
    writeSafely(files);
}

} // namespace hasami
