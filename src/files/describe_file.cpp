#include "files/describe_file.h"

#include "artwork/vector_page.h"
#include "files/file_kind.h"
#include "files/job_file.h"
#include "files/pdf_resources.h"
#include "files/picture_file.h"
#include "files/plate_use.h"
#include "files/profile_file.h"
#include "files/read_file.h"
#include "files/vector_file.h"
#include "job/job_json.h"
#include "sticker/brought_lines.h"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <cmath>
#include <iterator>
#include <set>
#include <vector>

namespace hasami {

namespace {

using nlohmann::json;

double hundredths(double value) {
    return std::round(value * 100) / 100;
}

json linesJson(const Recipe& recipe) {
    json lines = json::array();
    for (const LineRecipe& line : recipe.lines)
        lines.push_back({{"kind", kindName(line.kind)}, {"offset", line.offset}});
    return lines;
}

json describeJob(const Job& job) {
    json designs = json::array();
    for (const Design& design : job.designs) {
        const Box box = bounds(design.artwork);
        designs.push_back({{"name", design.name},
                           {"count", design.count},
                           {"width", hundredths(box.width())},
                           {"height", hundredths(box.height())},
                           {"lines", linesJson(design.recipe)}});
    }
    json names;
    for (const LineKind kind : lineKinds)
        names[std::string(kindName(kind))] = job.profile.names.of(kind).name;
    const Medium& medium = job.plan.medium;
    return {{"kind", "Hasami job"},
            {"format", jobFormat},
            {"profile", job.profile.name},
            {"spot_names", std::move(names)},
            {"medium",
             {{"width", medium.width}, {"length", medium.length ? json(*medium.length) : json(nullptr)}}},
            {"designs", std::move(designs)}};
}

/// The whole of it, and what may be wrong with it.
json describeProfile(const std::filesystem::path& path) {
    std::vector<std::string> remarks;
    const Profile profile = hasami::readProfile(path, &remarks);
    std::ranges::copy(doubtsAboutNames(profile), std::back_inserter(remarks));
    json about = toJson(profile);
    about["kind"] = "Hasami machine profile";
    about["remarks"] = remarks;
    return about;
}

/// How much of the page each plate prints on, mm², and the most ink that comes on one place, percent.
void describePlates(json& about, const Asset& asset, const Picture& picture) {
    const auto plates = platesOf(asset, picture);
    about["plates_mm2"] = nullptr;
    about["most_ink_percent"] = nullptr;
    if (!plates)
        return;
    const double page = picture.page->paint.width * picture.page->paint.height;
    const PlateUse use = plateUseOf(*plates, page / double(plates->process.pixels()));
    json all = json::object();
    for (const PlateUse::Plate& plate : use.plates)
        all[plate.name] = hundredths(plate.area);
    about["plates_mm2"] = all;
    about["most_ink_percent"] = std::lround(use.mostInk * 100);
}

bool hasRgb(const VectorPage& page) {
    QPDF document;
    document.setSuppressWarnings(true);
    document.processMemoryFile("page", page.pdf->data(), page.pdf->size());
    return resourcesOf(document.getAllPages().at(std::size_t(page.number) - 1), true).hasRgb;
}

json describePage(const Asset& asset, const Picture& picture) {
    const VectorPage& page = *picture.page;
    constexpr double pageTolerance = 1e-9;
    std::set<std::string> spots;
    bool hasPictures = false, isMasked = false;
    for (const PaintItem& item : page.paint.items) {
        if (!item.spot.empty())
            spots.insert(item.spot);
        hasPictures = hasPictures || item.kind == PaintItem::Kind::picture;
        isMasked = isMasked || item.isMasked || item.opacity < 1 - pageTolerance;
    }
    const Profile profile = startProfile();
    const Item item{asset.name, 1,
                    1,          {{0, 0}, page.paint.width, page.paint.height},
                    {},         FilePage{{asset.sha256, page.number}}};
    json lines = json::object();
    for (const CutLine& line : broughtLines(item, page.paint, profile, true).lines) {
        json& count = lines[std::string(kindName(line.kind))];
        count = count.is_null() ? 1 : count.get<int>() + 1;
    }
    const FileKind kind = kindOf(asset.bytes);
    json about = {{"kind", kind == FileKind::svg   ? "SVG drawing"
                           : kind == FileKind::pdf ? "PDF"
                                                   : "PostScript"},
                  {"pages", picture.pages},
                  {"size_mm", {hundredths(page.paint.width), hundredths(page.paint.height)}},
                  {"painted_areas", page.paint.items.size()},
                  {"pictures", hasPictures},
                  {"transparency", isMasked},
                  {"rgb", hasRgb(page)},
                  {"spot_names", spots},
                  {"fonts", page.fonts},
                  {"missing_fonts", page.missingFonts},
                  {"cut_lines", lines}};
    describePlates(about, asset, picture);
    return about;
}

const char* pictureKind(FileKind kind) {
    switch (kind) {
    case FileKind::jpeg:
        return "JPEG picture";
    case FileKind::tiff:
        return "TIFF picture";
    case FileKind::webp:
        return "WebP picture";
    case FileKind::gif:
        return "GIF picture";
    default:
        return "PNG picture";
    }
}

json describePicture(const Asset& asset) {
    const Picture picture = readPicture(asset);
    if (picture.page)
        return describePage(asset, picture);
    const double density =
        picture.pixelsPerMillimetre > 0 ? picture.pixelsPerMillimetre : usualPixelsPerMillimetre;
    const int width = picture.pixels.width(), height = picture.pixels.height();
    const bool isCmyk =
        (picture.fine && picture.fine->channels() == 4) || (picture.jpeg && picture.jpeg->components == 4);
    return {{"kind", pictureKind(kindOf(asset.bytes))},
            {"pages", picture.pages},
            {"pixels", {width, height}},
            {"resolution_dpi", picture.pixelsPerMillimetre > 0
                                   ? json(hundredths(picture.pixelsPerMillimetre * 25.4))
                                   : json(nullptr)},
            {"size_mm", {hundredths(width / density), hundredths(height / density)}},
            {"colours", picture.isGrey ? "grey"
                        : isCmyk       ? "CMYK"
                                       : "RGB"},
            {"bits", picture.fine ? picture.fine->bits() : 8},
            {"colour_profile", !picture.iccProfile.empty()},
            {"transparency", picture.hasCoverage}};
}

} // namespace

json describeFile(const std::filesystem::path& path) {
    const auto asset = readAsset(path);
    const bool isZip =
        asset->bytes.size() >= 2 && asset->bytes[0] == std::byte{'P'} && asset->bytes[1] == std::byte{'K'};
    const bool isJson =
        path.extension() == ".json" || (!asset->bytes.empty() && asset->bytes[0] == std::byte{'{'});
    if (isJson)
        return describeProfile(path);
    return isZip || path.extension() == ".hasami" ? describeJob(openJob(path)) : describePicture(*asset);
}

} // namespace hasami
