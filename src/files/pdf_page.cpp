#include "files/pdf_page.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/pdf_layers.h"
#include "files/pdf_operators.h"
#include "files/pdf_resources.h"

#include <algorithm>
#include <map>
#include <utility>

namespace hasami {

namespace {

/// Names in spot colour spaces that nothing may be printed in become "None", which leaves no mark on any
/// plate (ISO 32000-1, 8.6.6.4). Direct objects within `object` are looked through too.
void leaveOut(QPDFObjectHandle object, const std::set<std::string>& spots, int depth = 0) {
    constexpr int deepest = 50;
    if (depth > deepest)
        return;
    const auto isLeftOut = [&](QPDFObjectHandle name) {
        return name.isName() && spots.contains(name.getName().substr(1));
    };
    const auto goInto = [&](const QPDFObjectHandle& part) {
        if (!part.isIndirect()) // those are gone through by themselves
            leaveOut(part, spots, depth + 1);
    };
    if (object.isArray()) {
        const int count = object.getArrayNItems();
        const bool isSpace = count >= 4 && object.getArrayItem(0).isName();
        if (isSpace && object.getArrayItem(0).getName() == "/Separation" && isLeftOut(object.getArrayItem(1)))
            object.setArrayItem(1, QPDFObjectHandle::newName("/None"));
        if (isSpace && object.getArrayItem(0).getName() == "/DeviceN" && object.getArrayItem(1).isArray()) {
            auto names = object.getArrayItem(1);
            for (int i = 0; i < names.getArrayNItems(); ++i)
                if (isLeftOut(names.getArrayItem(i)))
                    names.setArrayItem(i, QPDFObjectHandle::newName("/None"));
        }
        for (int i = 0; i < count; ++i)
            goInto(object.getArrayItem(i));
    } else if (object.isDictionary()) {
        for (const std::string& key : object.getKeys())
            goInto(object.getKey(key));
    } else if (object.isStream()) {
        leaveOut(object.getDict(), spots, depth + 1);
    }
}

/// Takes out what is painted in some colour spaces of a content stream.
class PaintRemover : public OperatorFilter {
public:
    PaintRemover(std::set<std::string> spaces, std::set<std::string> masks)
        : spaces_(std::move(spaces)), masks_(std::move(masks)) {}

protected:
    void handleOperator(const std::string& name) override {
        follow(name);
        PathPainting painting = pathPainting(name);
        const bool isMask = (name == "Do" && masks_.contains(lastName())) || (name == "EI" && paintsMask());
        if (painting.paints() && ((painting.strokes && state_.strokes) || (painting.fills && state_.fills))) {
            painting.strokes = painting.strokes && !state_.strokes;
            painting.fills = painting.fills && !state_.fills;
            replace(nameOf(painting));
        } else if (isMask && state_.fills) {
            leaveOut();
        } else if (showsText(name) && state_.fills) {
            keepUnseen();
        } else {
            keep();
        }
    }

private:
    /// Which paint is taken out.
    struct State {
        bool strokes = false, fills = false;
    };

    void follow(const std::string& name) {
        if (name == "q") {
            saved_.push_back(state_);
        } else if (name == "Q" && !saved_.empty()) {
            state_ = saved_.back();
            saved_.pop_back();
        } else if (name == "CS") {
            state_.strokes = spaces_.contains(lastName());
        } else if (name == "cs") {
            state_.fills = spaces_.contains(lastName());
        } else if (name == "G" || name == "RG" || name == "K") {
            state_.strokes = false;
        } else if (name == "g" || name == "rg" || name == "k") {
            state_.fills = false;
        }
    }

    std::set<std::string> spaces_, masks_; // their names in the stream's resources
    State state_;
    std::vector<State> saved_;
};

/// What resources call the pictures that are stencils for the fill colour.
std::set<std::string> namesOfMasks(QPDFObjectHandle resources) {
    std::set<std::string> names;
    auto objects = resources.isDictionary() ? resources.getKey("/XObject") : QPDFObjectHandle::newNull();
    if (objects.isDictionary())
        for (const std::string& key : objects.getKeys())
            if (auto object = objects.getKey(key); object.isStream())
                if (auto mask = object.getDict().getKey("/ImageMask"); mask.isBool() && mask.getBoolValue())
                    names.insert(key);
    return names;
}

/// What a stream's resources call the spots' colour spaces.
std::set<std::string> namesOfSpaces(QPDFObjectHandle resources, const std::set<std::string>& spots) {
    std::set<std::string> names;
    auto spaces = resources.isDictionary() ? resources.getKey("/ColorSpace") : QPDFObjectHandle::newNull();
    if (!spaces.isDictionary())
        return names;
    for (const std::string& key : spaces.getKeys()) {
        auto space = spaces.getKey(key);
        if (!space.isArray() || space.getArrayNItems() < 4)
            continue;
        auto spot = space.getArrayItem(1);
        if (spot.isArray() && spot.getArrayNItems() == 1) // a DeviceN of one
            spot = spot.getArrayItem(0);
        if (spot.isName() && spots.contains(spot.getName().substr(1)))
            names.insert(key);
    }
    return names;
}

/// What a page may have from those above it.
QPDFObjectHandle inherited(QPDFObjectHandle page, const std::string& key) {
    constexpr int deepest = 50;
    for (int depth = 0; depth < deepest && page.isDictionary(); ++depth) {
        if (page.hasKey(key))
            return page.getKey(key);
        page = page.getKey("/Parent");
    }
    return QPDFObjectHandle::newNull();
}

/// The part of the page that is seen: its crop box as far as the paper goes (ISO 32000-1, 14.11.2).
QPDFObjectHandle::Rectangle seenBox(const QPDFObjectHandle& page) {
    auto media = inherited(page, "/MediaBox"), crop = inherited(page, "/CropBox");
    const auto m =
        media.isRectangle() ? media.getArrayAsRectangle() : QPDFObjectHandle::Rectangle(0, 0, 612, 792);
    if (!crop.isRectangle())
        return m;
    const auto c = crop.getArrayAsRectangle();
    const QPDFObjectHandle::Rectangle both(std::max(m.llx, c.llx), std::max(m.lly, c.lly),
                                           std::min(m.urx, c.urx), std::min(m.ury, c.ury));
    return both.llx < both.urx && both.lly < both.ury ? both : m;
}

/// What marks no paper: a program's private data, attached files, descriptions (ISO
/// 32000-2, 14.3, 14.5, 14.13). They can be a customer's secrets, and larger than the artwork.
void dropPrivate(QPDF& file) {
    for (QPDFObjectHandle object : file.getAllObjects()) {
        QPDFObjectHandle dictionary = object.isStream() ? object.getDict() : object;
        if (dictionary.isDictionary())
            for (const char* key : {"/PieceInfo", "/AF", "/EF", "/Metadata", "/LastModified"})
                dictionary.removeKey(key);
    }
}

/// Follows how deeply states are saved, and takes out what restores more than was saved: programs that draw
/// pages stop there or go on, as they like.
class RestoreRemover : public QPDFObjectHandle::TokenFilter {
public:
    void handleToken(const QPDFTokenizer::Token& token) override {
        const bool isWord = token.getType() == QPDFTokenizer::tt_word;
        if (isWord && token.getValue() == "q")
            ++depth_;
        if (isWord && token.getValue() == "Q" && --depth_ < 0) {
            depth_ = 0;
            hasMore_ = true;
            return;
        }
        writeToken(token);
    }
    bool hasMore() const { return hasMore_; }

private:
    int depth_ = 0;
    bool hasMore_ = false;
};

/// A page is composed by itself, in its own colours, before it comes on the paper: so is the form of one
/// that uses transparency (ISO 32000-1, 11.4.7).
void isolate(QPDFObjectHandle form, bool isTransparent) {
    QPDFObjectHandle about = form.getDict(), group = about.getKey("/Group");
    if (!group.isDictionary() && !isTransparent)
        return;
    QPDFObjectHandle own = group.isDictionary() ? group.shallowCopy() : QPDFObjectHandle::newDictionary();
    own.replaceKey("/S", QPDFObjectHandle::newName("/Transparency"));
    own.replaceKey("/I", QPDFObjectHandle::newBool(true));
    about.replaceKey("/Group", own);
}

} // namespace

PdfPage::PdfPage(std::shared_ptr<const std::string> pdf, int page)
    : bytes_(std::move(pdf)), file_(std::make_unique<QPDF>()) {
    file_->setSuppressWarnings(true);
    file_->processMemoryFile("artwork", bytes_->data(), bytes_->size());
    const auto& pages = file_->getAllPages();
    if (page < 1 || std::size_t(page) > pages.size())
        throw InputError(sentence("the artwork has no page %1", std::to_string(page)));
    page_ = pages[std::size_t(page) - 1];
    const auto seen = seenBox(page_);
    left_ = seen.llx;
    bottom_ = seen.lly;
    right_ = seen.urx;
    top_ = seen.ury;
    if (auto turn = inherited(page_, "/Rotate"); turn.isInteger())
        turned_ = int(((turn.getIntValue() % 360) + 360) % 360) / 90 * 90;
}

QPDFObjectHandle PdfPage::formIn(QPDF& into) {
    dropPrivate(*file_);
    QPDFObjectHandle form = QPDFPageObjectHelper(page_).getFormXObjectForPage(false);
    isolate(form, resourcesOf(page_).isTransparent);
    form.getDict().replaceKey("/BBox", QPDFObjectHandle::newFromRectangle({left_, bottom_, right_, top_}));
    return into.copyForeignObject(file_->makeIndirectObject(form));
}

Affine PdfPage::toUnitSquare() const {
    const double w = right_ - left_, h = top_ - bottom_;
    switch (turned_) {
    case 90:
        return {0, 1 / w, 1 / h, 0, -bottom_ / h, -left_ / w};
    case 180:
        return {-1 / w, 0, 0, 1 / h, right_ / w, -bottom_ / h};
    case 270:
        return {0, -1 / w, -1 / h, 0, top_ / h, right_ / w};
    default:
        return {1 / w, 0, 0, -1 / h, -left_ / w, top_ / h};
    }
}

namespace {

/// Whether a layer says of itself that it is not for paper (ISO 32000-1, 8.11.4.4).
bool isNotPrinted(QPDFObjectHandle group) {
    QPDFObjectHandle usage = group.getKey("/Usage");
    QPDFObjectHandle print = usage.isDictionary() ? usage.getKey("/Print") : QPDFObjectHandle::newNull();
    return print.isDictionary() && print.getKey("/PrintState").isNameAndEquals("/OFF");
}

} // namespace

std::vector<PdfPage::Layer> PdfPage::layersIn(QPDF& into) {
    std::vector<Layer> layers;
    auto properties = file_->getRoot().getKey("/OCProperties");
    if (!properties.isDictionary() || !properties.getKey("/OCGs").isArray())
        return layers;
    auto standard = properties.getKey("/D");
    const bool isOffAtFirst =
        standard.isDictionary() && standard.getKey("/BaseState").isNameAndEquals("/OFF");
    const auto isIn = [&](const char* list, const QPDFObjectHandle& group) {
        auto all = standard.isDictionary() ? standard.getKey(list) : QPDFObjectHandle::newNull();
        if (!all.isArray())
            return false;
        for (int i = 0; i < all.getArrayNItems(); ++i)
            if (all.getArrayItem(i).getObjGen() == group.getObjGen())
                return true;
        return false;
    };
    auto groups = properties.getKey("/OCGs");
    for (int i = 0; i < groups.getArrayNItems(); ++i) {
        auto group = groups.getArrayItem(i);
        if (group.isIndirect() && group.isDictionary())
            layers.push_back(
                {into.copyForeignObject(group),
                 (isOffAtFirst ? isIn("/ON", group) : !isIn("/OFF", group)) && !isNotPrinted(group)});
    }
    return layers;
}

namespace {

bool isOutside(QPDFObjectHandle crop, const QPDFObjectHandle::Rectangle& paper) {
    if (!crop.isRectangle())
        return false;
    const auto c = crop.getArrayAsRectangle();
    return c.llx < paper.llx || c.lly < paper.lly || c.urx > paper.urx || c.ury > paper.ury;
}

std::string written(QPDF& file) {
    QPDFWriter writer(file);
    writer.setOutputMemory();
    writer.setPreserveEncryption(false);
    writer.setDeterministicID(true);
    writer.write();
    const auto buffer = writer.getBufferSharedPointer();
    return {reinterpret_cast<const char*>(buffer->getBuffer()), buffer->getSize()};
}

/// Whether the page has notes, stamps or filled fields that belong on paper (ISO 32000-1, 12.5.3).
bool hasPrintedAnnotations(QPDFObjectHandle page) {
    QPDFObjectHandle all = page.getKey("/Annots");
    for (int i = 0; all.isArray() && i < all.getArrayNItems(); ++i) {
        QPDFObjectHandle one = all.getArrayItem(i);
        if (!one.isDictionary())
            continue;
        const auto flags = one.getKey("/F").isInteger() ? one.getKey("/F").getIntValue() : 0;
        if ((flags & an_print) != 0 && (flags & an_hidden) == 0)
            return true;
    }
    return false;
}

} // namespace

std::optional<std::string> pdfAsPrinted(std::string_view pdf, int number) {
    QPDF file;
    file.setSuppressWarnings(true);
    file.processMemoryFile("artwork", pdf.data(), pdf.size());
    const auto& pages = file.getAllPages();
    if (number < 1 || std::size_t(number) > pages.size())
        return {};
    QPDFPageObjectHelper page(pages[std::size_t(number) - 1]);
    RestoreRemover looking;
    page.filterContents(&looking);
    const auto seen = seenBox(page.getObjectHandle());
    const bool isCropOutside = isOutside(inherited(page.getObjectHandle(), "/CropBox"), seen);
    const bool hasAnnotations = hasPrintedAnnotations(page.getObjectHandle());
    if (!looking.hasMore() && !hasAnnotations && !isCropOutside)
        return {};
    if (isCropOutside) // programs differ in what they make of that
        page.getObjectHandle().replaceKey("/CropBox", QPDFObjectHandle::newFromRectangle(seen));
    if (looking.hasMore())
        page.addContentTokenFilter(std::make_shared<RestoreRemover>());
    if (hasAnnotations) {
        QPDFAcroFormDocumentHelper(file).generateAppearancesIfNeeded();
        QPDFPageDocumentHelper(file).flattenAnnotations(an_print, an_hidden);
    }
    return written(file);
}

std::string pdfWithoutSpots(const std::string& pdf, const std::set<std::string>& spots) {
    QPDF file;
    file.setSuppressWarnings(true);
    file.processMemoryFile("artwork", pdf.data(), pdf.size());
    // Paint is taken out of what is drawn; what is left in the spot colour (pictures, shadings) leaves no
    // mark.
    const auto removerFor = [&](const QPDFObjectHandle& resources) {
        const auto names = namesOfSpaces(resources, spots);
        return names.empty() ? nullptr : std::make_shared<PaintRemover>(names, namesOfMasks(resources));
    };
    for (const QPDFObjectHandle& page : file.getAllPages())
        if (const auto remover = removerFor(inherited(page, "/Resources")))
            QPDFPageObjectHelper(page).addContentTokenFilter(remover);
    for (QPDFObjectHandle object : file.getAllObjects())
        if (object.isStream() && object.getDict().getKey("/Subtype").isNameAndEquals("/Form"))
            if (const auto remover = removerFor(object.getDict().getKey("/Resources")))
                object.addTokenFilter(remover);
    for (const QPDFObjectHandle& object : file.getAllObjects())
        leaveOut(object, spots);
    return written(file);
}

std::string pdfWithoutLayers(const std::string& pdf, const std::set<std::string>& layers) {
    QPDF file;
    file.setSuppressWarnings(true);
    file.processMemoryFile("artwork", pdf.data(), pdf.size());
    takeOutLayers(file, layers, false);
    return written(file);
}

std::string pdfOfLayer(const std::string& pdf, const std::string& layer) {
    QPDF file;
    file.setSuppressWarnings(true);
    file.processMemoryFile("artwork", pdf.data(), pdf.size());
    takeOutLayers(file, {layer}, true);
    return written(file);
}

} // namespace hasami
