#include "files/pdf_document.h"

#include "base/number_text.h"
#include "files/colour_profile.h"
#include "files/pdf_shading.h"

#include <QUuid>

#include <algorithm>
#include <bit>
#include <cmath>
#include <map>

namespace hasami {

namespace {

using Samples = std::shared_ptr<Buffer>;

/// Of some bytes as they are.
Samples samplesOf(std::span<const std::byte> bytes) {
    auto samples = std::make_shared<Buffer>(bytes.size());
    std::ranges::copy(bytes, reinterpret_cast<std::byte*>(samples->getBuffer()));
    return samples;
}

Samples samplesOf(std::span<const Rgba> cells, int channels) {
    auto samples = std::make_shared<Buffer>(cells.size() * std::size_t(channels));
    unsigned char* to = samples->getBuffer();
    for (const Rgba& pixel : cells) {
        *to++ = pixel.red;
        if (channels == 3) {
            *to++ = pixel.green;
            *to++ = pixel.blue;
        }
    }
    return samples;
}

Samples samplesOf(const FineColours& fine) {
    auto samples = samplesOf(std::as_bytes(fine.samples()));
    unsigned char* bytes = samples->getBuffer();
    if (fine.bits() == 16 && std::endian::native == std::endian::little)
        for (std::size_t i = 0; i + 1 < samples->getSize(); i += 2)
            std::swap(bytes[i], bytes[i + 1]);
    return samples;
}

int channelsOf(const Picture& picture) {
    return picture.fine ? picture.fine->channels() : picture.isGrey ? 1 : 3;
}

Samples samplesOf(const Picture& picture) {
    return picture.fine ? samplesOf(*picture.fine) : samplesOf(picture.pixels.cells(), channelsOf(picture));
}

constexpr double pointsPerMillimetre = 72 / 25.4;
constexpr double longestPage = 14'400; // units; PDF 1.6, annex C

QPDFObjectHandle real(double value) {
    return QPDFObjectHandle::newReal(numberText(value, 6));
}

QPDFObjectHandle dictionary() {
    return QPDFObjectHandle::newDictionary();
}

QPDFObjectHandle name(const std::string& text) {
    return QPDFObjectHandle::newName("/" + text);
}

QPDFObjectHandle numbers(std::initializer_list<double> values) {
    auto array = QPDFObjectHandle::newArray();
    for (const double v : values)
        array.appendItem(real(v));
    return array;
}

QPDFObjectHandle box(const Box& b, double scale) {
    return numbers({b.least.x * scale, b.least.y * scale, b.most.x * scale, b.most.y * scale});
}

} // namespace

PdfContent& PdfContent::number(double value) {
    text_ += numberText(value, 6);
    text_ += ' ';
    return *this;
}

PdfContent& PdfContent::point(Point p) {
    return number(p.x).number(p.y);
}

PdfContent& PdfContent::op(std::string_view text) {
    text_ += text;
    text_ += '\n';
    return *this;
}

PdfContent& PdfContent::matrix(const Affine& m) {
    return number(m.a).number(m.b).number(m.c).number(m.d).number(m.e).number(m.f).op("cm");
}

PdfContent& PdfContent::curve(const Curve& curve) {
    return run({curve.start, curve.segments, true});
}

PdfContent& PdfContent::run(const Subpath& run) {
    point(run.start).op("m");
    for (const CurveSegment& s : drawnSegments(run)) {
        if (s.straight)
            point(s.end).op("l");
        else
            point(s.control1).point(s.control2).point(s.end).op("c");
    }
    return run.isClosed ? op("h") : *this;
}

namespace {

std::string escaped(const std::string& text) {
    std::string safe;
    for (const char c : text)
        if (c == '&')
            safe += "&amp;";
        else if (c == '<')
            safe += "&lt;";
        else if (c == '>')
            safe += "&gt;";
        else
            safe += c;
    return safe;
}

// The namespaces that ISO 16684-1 and ISO 15930-7 ask for.
constexpr char namespaces[] = " xmlns:dc=\"http://purl.org/dc/elements/1.1/\""
                              " xmlns:xmp=\"http://ns.ad"
                              "obe.com/xap/1.0/\""
                              " xmlns:pdf=\"http://ns.ad"
                              "obe.com/pdf/1.3/\""
                              " xmlns:xmpMM=\"http://ns.ad"
                              "obe.com/xap/1.0/mm/\""
                              " xmlns:pdfxid=\"http://www.npes.org/pdfx/ns/id/\"";

/// As RFC 4122 writes a number made from a name (version 5).
std::string uuidOf(QByteArray hash) {
    hash[6] = char((hash[6] & 0x0F) | 0x50);
    hash[8] = char((hash[8] & 0x3F) | 0x80);
    return "uuid:" + QUuid::fromRfc4122(hash.left(16)).toString(QUuid::WithoutBraces).toStdString();
}

/// Extensible Metadata Platform, ISO 16684-1. `day`: of a PDF/X-4; else empty.
std::string metadata(const std::string& title, const std::string& about, const std::string& day,
                     const std::string& id) {
    const auto text = [](const char* name, const std::string& value) {
        return std::string("<") + name + "><rdf:Alt><rdf:li xml:lang=\"x-default\">" + escaped(value) +
               "</rdf:li></rdf:Alt></" + name + ">\n";
    };
    const auto plain = [](const char* name, const std::string& value) {
        return std::string("<") + name + ">" + value + "</" + name + ">\n";
    };
    const std::string time = day + "T00:00:00Z";
    return "<?xpacket begin=\"\xEF\xBB\xBF\" id=\"W5M0MpCehiHzreSzNTczkc9d\"?>\n"
           "<rdf:RDF xmlns:rdf=\"http://www.w3.org/1999/02/22-rdf-syntax-ns#\">\n"
           "<rdf:Description rdf:about=\"\"" +
           std::string(namespaces) + ">\n" + text("dc:title", title) +
           (about.empty() ? std::string() : text("dc:description", about)) +
           (day.empty() ? std::string()
                        : plain("pdfxid:GTS_PDFXVersion", "PDF/X-4") + plain("pdf:Trapped", "False") +
                              plain("xmp:CreateDate", time) + plain("xmp:ModifyDate", time) +
                              plain("xmp:MetadataDate", time) + plain("xmpMM:DocumentID", id) +
                              plain("xmpMM:VersionID", "1") + plain("xmpMM:RenditionClass", "default")) +
           "</rdf:Description></rdf:RDF>\n<?xpacket end=\"r\"?>\n";
}

} // namespace

PdfDocument::PdfDocument(const std::string& title, const std::string& about) : title_(title), about_(about) {
    pdf_.emptyPDF();
    info_ = pdf_.makeIndirectObject(dictionary());
    info_.replaceKey("/Title", QPDFObjectHandle::newUnicodeString(title));
    info_.replaceKey("/Producer", QPDFObjectHandle::newUnicodeString("Hasami"));
    pdf_.getTrailer().replaceKey("/Info", info_);
}

void PdfDocument::addMetadata() {
    auto stream =
        QPDFObjectHandle::newStream(&pdf_, metadata(title_, about_, dayOfX4_, uuidOf(content_.result())));
    stream.getDict().replaceKey("/Type", name("Metadata"));
    stream.getDict().replaceKey("/Subtype", name("XML"));
    pdf_.getRoot().replaceKey("/Metadata", pdf_.makeIndirectObject(stream));
}

QPDFObjectHandle PdfDocument::iccBased(const std::string& profile, int channels) {
    auto stream = QPDFObjectHandle::newStream(&pdf_, profile);
    stream.getDict().replaceKey("/N", QPDFObjectHandle::newInteger(channels));
    stream.getDict().replaceKey("/Alternate", name(channels == 1   ? "DeviceGray"
                                                   : channels == 4 ? "DeviceCMYK"
                                                                   : "DeviceRGB"));
    auto based = QPDFObjectHandle::newArray();
    based.appendItem(name("ICCBased"));
    based.appendItem(pdf_.makeIndirectObject(stream));
    return pdf_.makeIndirectObject(based);
}

void PdfDocument::setOutputColours(const OutputColours& colours) {
    QPDFObjectHandle printers = iccBased(colours.profile, colours.channels);
    auto intent = dictionary();
    intent.replaceKey("/Type", name("OutputIntent"));
    intent.replaceKey("/S", name("GTS_PDFX"));
    for (const char* key : {"/OutputConditionIdentifier", "/Info"})
        intent.replaceKey(key, QPDFObjectHandle::newUnicodeString(colours.name));
    intent.replaceKey("/DestOutputProfile", printers.getArrayItem(1));
    auto intents = QPDFObjectHandle::newArray();
    intents.appendItem(pdf_.makeIndirectObject(intent));
    pdf_.getRoot().replaceKey("/OutputIntents", intents);
    defaultSpaces_.emplace_back("/DefaultRGB", iccBased(standardRgbProfile(), 3));
    if (colours.channels == 4 && colours.ownsInks)
        defaultSpaces_.emplace_back("/DefaultCMYK", printers);
    if (!colours.dayOfX4.empty()) {
        dayOfX4_ = colours.dayOfX4;
        intent_ = colours.profile;
        std::string time = "D:" + colours.dayOfX4 + "000000Z";
        std::erase(time, '-');
        for (const char* key : {"/CreationDate", "/ModDate"})
            info_.replaceKey(key, QPDFObjectHandle::newString(time));
        info_.replaceKey("/Trapped", name("False"));
    }
}

namespace {

bool holdsResources(QPDFObjectHandle about) {
    return about.isDictionary() && about.getKey("/Resources").isDictionary();
}

} // namespace

/// Colours of no profile get one wherever something is drawn: in pages, forms, patterns, glyphs.
void PdfDocument::addDefaultSpaces() {
    for (QPDFObjectHandle object : pdf_.getAllObjects()) {
        QPDFObjectHandle about = object.isStream() ? object.getDict() : object;
        if (!holdsResources(about))
            continue;
        QPDFObjectHandle resources = about.getKey("/Resources");
        if (!resources.getKey("/ColorSpace").isDictionary())
            resources.replaceKey("/ColorSpace", dictionary());
        for (const auto& [key, space] : defaultSpaces_)
            if (!resources.getKey("/ColorSpace").hasKey(key))
                resources.getKey("/ColorSpace").replaceKey(key, space);
    }
}

namespace {

/// Profiles that are the same as one of inks. Each is read once, however many pictures have it.
class SameProfiles {
public:
    explicit SameProfiles(const std::string& profile) : profile_(profile) {}

    bool isSpaceOfIt(QPDFObjectHandle space) {
        return space.isArray() && space.getArrayNItems() == 2 &&
               space.getArrayItem(0).isNameAndEquals("/ICCBased") && space.getArrayItem(1).isStream() &&
               isTheSame(space.getArrayItem(1));
    }

private:
    bool isTheSame(QPDFObjectHandle stream) {
        const auto [found, isNew] = known_.try_emplace(stream.getObjGen(), false);
        if (QPDFObjectHandle inks = stream.getDict().getKey("/N");
            isNew && inks.isInteger() && inks.getIntValue() == 4) {
            const auto data = stream.getStreamData(qpdf_dl_generalized);
            found->second = std::string_view(reinterpret_cast<const char*>(data->getBuffer()),
                                             data->getSize()) == profile_;
        }
        return found->second;
    }

    const std::string& profile_;
    std::map<QPDFObjGen, bool> known_;
};

/// In all direct objects within `object`; those that have a number are gone through by themselves.
void replaceSpaces(QPDFObjectHandle object, SameProfiles& same, int depth = 0) {
    constexpr int deepest = 50;
    const auto inks = [] { return QPDFObjectHandle::newName("/DeviceCMYK"); };
    if (depth > deepest)
        return;
    if (object.isStream())
        return replaceSpaces(object.getDict(), same, depth + 1);
    if (object.isArray())
        for (int i = 0; i < object.getArrayNItems(); ++i) {
            QPDFObjectHandle part = object.getArrayItem(i);
            if (same.isSpaceOfIt(part))
                object.setArrayItem(i, inks());
            else if (!part.isIndirect())
                replaceSpaces(part, same, depth + 1);
        }
    else if (object.isDictionary())
        for (const std::string& key : object.getKeys()) {
            QPDFObjectHandle part = object.getKey(key);
            if (same.isSpaceOfIt(part))
                object.replaceKey(key, inks());
            else if (!part.isIndirect())
                replaceSpaces(part, same, depth + 1);
        }
}

} // namespace

/// Inks that are the printer's own are so without saying: PDF/X-4 does not allow the intent's profile for
/// what is drawn.
void PdfDocument::dropSpacesOfIntent() {
    SameProfiles same(intent_);
    for (const QPDFObjectHandle& object : pdf_.getAllObjects())
        replaceSpaces(object, same);
}

QPDFObjectHandle PdfDocument::addLayer(const std::string& layerName) {
    auto layer = dictionary();
    layer.replaceKey("/Type", name("OCG"));
    layer.replaceKey("/Name", QPDFObjectHandle::newUnicodeString(layerName));
    layers_.push_back(pdf_.makeIndirectObject(layer));
    return layers_.back();
}

QPDFObjectHandle PdfDocument::addSeparation(const std::string& spot, const char* shownIn,
                                            const QPDFObjectHandle& none, const QPDFObjectHandle& all) {
    auto tint = dictionary();
    tint.replaceKey("/FunctionType", QPDFObjectHandle::newInteger(2));
    tint.replaceKey("/Domain", numbers({0, 1}));
    tint.replaceKey("/C0", none);
    tint.replaceKey("/C1", all);
    tint.replaceKey("/N", QPDFObjectHandle::newInteger(1));
    auto space = QPDFObjectHandle::newArray();
    space.appendItem(name("Separation"));
    space.appendItem(name(spot)); // qpdf escapes what PDF names can't hold as it is
    space.appendItem(name(shownIn));
    space.appendItem(tint);
    return pdf_.makeIndirectObject(space);
}

QPDFObjectHandle PdfDocument::addSpotColour(const SpotColour& spot) {
    const auto& t = spot.tint;
    return addSeparation(spot.name, "DeviceCMYK", numbers({0, 0, 0, 0}), numbers({t[0], t[1], t[2], t[3]}));
}

QPDFObjectHandle PdfDocument::addSpotInGrey(const std::string& spot) {
    return addSeparation(spot, "DeviceGray", numbers({1}), numbers({0}));
}

QPDFObjectHandle PdfDocument::addOverprint() {
    auto state = dictionary();
    state.replaceKey("/Type", name("ExtGState"));
    state.replaceKey("/OP", QPDFObjectHandle::newBool(true));
    state.replaceKey("/op", QPDFObjectHandle::newBool(true));
    state.replaceKey("/OPM", QPDFObjectHandle::newInteger(1));
    state.replaceKey("/SA", QPDFObjectHandle::newBool(false)); // no stroke adjustment: true position
    return pdf_.makeIndirectObject(state);
}

QPDFObjectHandle PdfDocument::addMultiply() {
    auto state = dictionary();
    state.replaceKey("/Type", name("ExtGState"));
    state.replaceKey("/BM", name("Multiply"));
    return state;
}

QPDFObjectHandle PdfDocument::addImage(int width, int height, const QPDFObjectHandle& colourSpace,
                                       const std::shared_ptr<Buffer>& data) {
    content_.addData(QByteArrayView(data->getBuffer(), qsizetype(data->getSize())));
    auto image = QPDFObjectHandle::newStream(&pdf_, data);
    auto about = image.getDict();
    about.replaceKey("/Type", name("XObject"));
    about.replaceKey("/Subtype", name("Image"));
    about.replaceKey("/Width", QPDFObjectHandle::newInteger(width));
    about.replaceKey("/Height", QPDFObjectHandle::newInteger(height));
    about.replaceKey("/BitsPerComponent", QPDFObjectHandle::newInteger(8));
    about.replaceKey("/ColorSpace", colourSpace);
    return pdf_.makeIndirectObject(image);
}

QPDFObjectHandle PdfDocument::colourSpaceOf(const Picture& picture, int channels) {
    QPDFObjectHandle space = name(channels == 1 ? "DeviceGray" : channels == 4 ? "DeviceCMYK" : "DeviceRGB");
    if (picture.iccProfile.empty())
        return space;
    return iccBased(
        std::string(reinterpret_cast<const char*>(picture.iccProfile.data()), picture.iccProfile.size()),
        channels);
}

QPDFObjectHandle PdfDocument::addJpeg(const Picture& picture, std::span<const std::byte> bytes) {
    const JpegCoding& jpeg = *picture.jpeg;
    auto image = addImage(jpeg.width, jpeg.height, colourSpaceOf(picture, jpeg.components), samplesOf(bytes));
    image.getDict().replaceKey("/Filter", name("DCTDecode"));
    if (jpeg.isInverted) {
        auto decode = QPDFObjectHandle::newArray();
        for (int i = 0; i < 2 * jpeg.components; ++i)
            decode.appendItem(QPDFObjectHandle::newInteger(i % 2 == 0 ? 1 : 0));
        image.getDict().replaceKey("/Decode", decode);
    }
    return image;
}

QPDFObjectHandle PdfDocument::addShading(const Gradient& gradient, Point from, Point to, double radius) {
    return newShading(pdf_, gradient, from, to, radius);
}

QPDFObjectHandle PdfDocument::addSpotImage(const Grid<std::uint8_t>& amounts, const QPDFObjectHandle& spot) {
    return addImage(amounts.width(), amounts.height(), spot, samplesOf(std::as_bytes(amounts.cells())));
}

QPDFObjectHandle PdfDocument::addPicture(const Picture& picture, const Grid<std::uint8_t>* shown) {
    auto image = addPicture(picture, samplesOf(picture));
    if (shown)
        image.getDict().replaceKey("/Mask", addStencil(*shown));
    return image;
}

QPDFObjectHandle PdfDocument::addPicture(const std::shared_ptr<const Picture>& picture) {
    if (!picture->fine || picture->fine->bits() != 8)
        return addPicture(*picture);
    const auto samples = picture->fine->samples();
    auto* view = new Buffer(const_cast<unsigned char*>(samples.data()), samples.size());
    return addPicture(*picture, Samples(view, [picture](Buffer* ended) { delete ended; }));
}

QPDFObjectHandle PdfDocument::addPicture(const Picture& picture, const std::shared_ptr<Buffer>& samples) {
    auto image = addImage(picture.pixels.width(), picture.pixels.height(),
                          colourSpaceOf(picture, channelsOf(picture)), samples);
    if (picture.fine)
        image.getDict().replaceKey("/BitsPerComponent", QPDFObjectHandle::newInteger(picture.fine->bits()));
    if (picture.hasCoverage) {
        const Grid<std::uint8_t> coverage = coverageOf(picture);
        image.getDict().replaceKey("/SMask", addImage(coverage.width(), coverage.height(), name("DeviceGray"),
                                                      samplesOf(std::as_bytes(coverage.cells()))));
    }
    return image;
}

/// One bit for each pixel, 1 where nothing is drawn (ISO 32000-1, 8.9.6.3).
QPDFObjectHandle PdfDocument::addStencil(const Grid<std::uint8_t>& shown) {
    const auto bytesOfRow = std::size_t(shown.width() + 7) / 8;
    std::string bits(bytesOfRow * std::size_t(shown.height()), '\0');
    for (int y = 0; y < shown.height(); ++y)
        for (int x = 0; x < shown.width(); ++x)
            if (shown.at(x, y) == 0)
                bits[std::size_t(y) * bytesOfRow + std::size_t(x) / 8] |= char(0x80 >> (x % 8));
    QPDFObjectHandle stencil = addImage(shown.width(), shown.height(), name("DeviceGray"),
                                        samplesOf(std::as_bytes(std::span(bits))));
    QPDFObjectHandle about = stencil.getDict();
    about.removeKey("/ColorSpace");
    about.replaceKey("/ImageMask", QPDFObjectHandle::newBool(true));
    about.replaceKey("/BitsPerComponent", QPDFObjectHandle::newInteger(1));
    return stencil;
}

QPDFObjectHandle PdfDocument::resourceDictionary(const std::vector<Resource>& resources) {
    auto all = dictionary();
    for (const Resource& r : resources) {
        if (!all.hasKey(r.kind))
            all.replaceKey(r.kind, dictionary());
        all.getKey(r.kind).replaceKey(r.name, r.object);
    }
    return all;
}

PdfDocument::PageForm PdfDocument::addPageOf(std::unique_ptr<PdfPage> page) {
    PageForm made{page->formIn(pdf_), page->toUnitSquare()};
    for (PdfPage::Layer& layer : page->layersIn(pdf_))
        layersOfPages_.push_back(std::move(layer));
    pages_.push_back(std::move(page));
    return made;
}

QPDFObjectHandle PdfDocument::addForm(const Box& formBox, const PdfContent& content,
                                      const std::vector<Resource>& resources) {
    content_.addData(QByteArrayView(content.text().data(), qsizetype(content.text().size())));
    auto form = QPDFObjectHandle::newStream(&pdf_, content.text());
    auto about = form.getDict();
    about.replaceKey("/Type", name("XObject"));
    about.replaceKey("/Subtype", name("Form"));
    about.replaceKey("/BBox", box(formBox, 1));
    about.replaceKey("/Resources", resourceDictionary(resources));
    return pdf_.makeIndirectObject(form);
}

double userUnitFor(double longestSide) {
    return std::max(1.0, std::ceil(longestSide * pointsPerMillimetre / longestPage));
}

void PdfDocument::addPage(const Box& media, const Box& trim, const PdfContent& content,
                          const std::vector<Resource>& resources) {
    const double userUnit = userUnitFor(std::max(media.width(), media.height()));
    const double scale = pointsPerMillimetre / userUnit;
    PdfContent scaled;
    scaled.op("q").number(scale).op("0 0").number(scale).op("0 0 cm").op(content.text()).op("Q");
    content_.addData(QByteArrayView(scaled.text().data(), qsizetype(scaled.text().size())));

    auto page = dictionary();
    page.replaceKey("/Type", name("Page"));
    page.replaceKey("/MediaBox", box(media, scale));
    page.replaceKey("/TrimBox", box(trim, scale));
    if (userUnit > 1)
        page.replaceKey("/UserUnit", real(userUnit));
    page.replaceKey("/Resources", resourceDictionary(resources));
    page.replaceKey("/Contents", QPDFObjectHandle::newStream(&pdf_, scaled.text()));
    QPDFPageDocumentHelper(pdf_).addPage(QPDFPageObjectHelper(pdf_.makeIndirectObject(page)), false);
}

std::string PdfDocument::bytes() {
    if (!layers_.empty()) {
        auto standard = dictionary();
        std::vector<QPDFObjectHandle> all = layers_, shown = layers_, hidden;
        for (const PdfPage::Layer& layer : layersOfPages_) {
            all.push_back(layer.group);
            (layer.isShown ? shown : hidden).push_back(layer.group);
        }
        standard.replaceKey("/Name", QPDFObjectHandle::newUnicodeString("Layers"));
        standard.replaceKey("/Order", QPDFObjectHandle::newArray(all));
        standard.replaceKey("/ON", QPDFObjectHandle::newArray(shown));
        if (!hidden.empty())
            standard.replaceKey("/OFF", QPDFObjectHandle::newArray(hidden));
        auto properties = dictionary();
        properties.replaceKey("/OCGs", QPDFObjectHandle::newArray(all));
        properties.replaceKey("/D", standard);
        pdf_.getRoot().replaceKey("/OCProperties", properties);
    }
    if (!defaultSpaces_.empty())
        addDefaultSpaces();
    if (!intent_.empty())
        dropSpacesOfIntent();
    addMetadata();
    QPDFWriter writer(pdf_);
    writer.setOutputMemory();
    writer.setMinimumPDFVersion("1.6");
    writer.setDeterministicID(true);
    writer.write();
    const auto buffer = writer.getBufferSharedPointer();
    return {reinterpret_cast<const char*>(buffer->getBuffer()), buffer->getSize()};
}

} // namespace hasami
