#include "files/pdf_resources.h"

#include "base/translation.h"

#include <algorithm>
#include <array>

namespace hasami {

namespace {

/// Type 3 fonts are drawn in the file, Type 0 fonts have theirs in a font of their own.
bool isMissing(QPDFObjectHandle font) {
    QPDFObjectHandle kind = font.getKey("/Subtype");
    if (!kind.isName() || kind.getName() == "/Type3")
        return false;
    if (kind.getName() == "/Type0") {
        QPDFObjectHandle own = font.getKey("/DescendantFonts");
        return !own.isArray() || own.getArrayNItems() < 1 || !own.getArrayItem(0).isDictionary() ||
               isMissing(own.getArrayItem(0));
    }
    QPDFObjectHandle about = font.getKey("/FontDescriptor");
    return !about.isDictionary() ||
           !(about.hasKey("/FontFile") || about.hasKey("/FontFile2") || about.hasKey("/FontFile3"));
}

bool isProcess(const std::string& ink) {
    constexpr std::array inks{"Cyan", "Magenta", "Yellow", "Black", "None"};
    return std::ranges::find(inks, ink) != inks.end();
}

/// Whether a content stream sets a colour in red, green and blue.
class RgbFinder : public QPDFObjectHandle::ParserCallbacks {
public:
    bool isFound = false;

    void handleObject(QPDFObjectHandle object) override {
        if (!object.isOperator())
            return;
        const std::string& name = object.getOperatorValue();
        if (name == "rg" || name == "RG") {
            isFound = true;
            terminateParsing();
        }
    }
    void handleEOF() override {}
};

class Walker {
public:
    explicit Walker(bool readsContents) : readsContents_(readsContents) {}

    PageResources found;

    void walkPage(const QPDFObjectHandle& page) {
        QPDFPageObjectHelper helper(page);
        RgbFinder finder;
        if (readsContents_)
            helper.parseContents(&finder);
        found.hasRgb = finder.isFound;
        walk(helper.getAttribute("/Resources", false));
    }

    void walk(QPDFObjectHandle resources) {
        if (!isNew(resources) || !resources.isDictionary())
            return;
        ++depth_;
        each(resources, "/ColorSpace", [&](const QPDFObjectHandle& space) { note(space, false); });
        each(resources, "/Shading", [&](const QPDFObjectHandle& shading) { noteShading(shading); });
        each(resources, "/ExtGState", [&](const QPDFObjectHandle& state) { noteState(state); });
        each(resources, "/XObject", [&](const QPDFObjectHandle& drawn) { noteDrawn(drawn); });
        each(resources, "/Pattern", [&](const QPDFObjectHandle& pattern) { notePattern(pattern); });
        each(resources, "/Font", [&](const QPDFObjectHandle& font) { noteFont(font); });
        --depth_;
    }

private:
    static constexpr int deepest = 50;

    /// Objects that have a number are looked at once, others as deeply as any file goes.
    bool isNew(const QPDFObjectHandle& object) {
        return depth_ < deepest && (!object.isIndirect() || seen_.insert(object.getObjGen()).second);
    }

    template <class Visit>
    static void each(QPDFObjectHandle resources, const char* kind, const Visit& visit) {
        QPDFObjectHandle all = resources.getKey(kind);
        if (all.isDictionary())
            for (const std::string& key : all.getKeys())
                visit(all.getKey(key));
    }

    static QPDFObjectHandle aboutOf(QPDFObjectHandle object) {
        return object.isStream() ? object.getDict() : object;
    }

    void note(QPDFObjectHandle space, bool isMixed) {
        found.hasRgb |= space.isNameAndEquals("/DeviceRGB");
        if (!space.isArray() || space.getArrayNItems() < 2 || !space.getArrayItem(0).isName() ||
            depth_ >= deepest)
            return;
        const std::string kind = space.getArrayItem(0).getName();
        QPDFObjectHandle second = space.getArrayItem(1);
        ++depth_;
        if (kind == "/Separation" && second.isName()) {
            found.separations.emplace(second.getName().substr(1), space);
            noteSpot(second.getName().substr(1), isMixed);
        } else if (kind == "/ICCBased" && second.isStream()) {
            noteProfile(second);
            QPDFObjectHandle channels = second.getDict().getKey("/N");
            found.hasRgb |= channels.isInteger() && channels.getIntValueAsInt() == 3;
        }
        found.hasRgb |= kind == "/CalRGB";
        if (kind == "/DeviceN" && second.isArray())
            for (int i = 0; i < second.getArrayNItems(); ++i)
                if (QPDFObjectHandle ink = second.getArrayItem(i); ink.isName())
                    noteSpot(ink.getName().substr(1), isMixed || second.getArrayNItems() > 1);
        if (kind == "/Indexed" || kind == "/Pattern")
            note(second, isMixed || kind == "/Indexed");
        --depth_;
    }

    void noteSpot(const std::string& spot, bool isMixed) {
        if (!isProcess(spot))
            (isMixed ? found.mixedSpots : found.spots).insert(spot);
    }

    void noteProfile(QPDFObjectHandle stream) {
        if (!stream.isIndirect() || !profiles_.insert(stream.getObjGen()).second)
            return;
        const auto data = stream.getStreamData(qpdf_dl_generalized);
        found.profiles.emplace(reinterpret_cast<const char*>(data->getBuffer()), data->getSize());
    }

    void noteShading(const QPDFObjectHandle& shading) {
        QPDFObjectHandle about = aboutOf(shading);
        if (about.isDictionary())
            note(about.getKey("/ColorSpace"), true);
    }

    void notePattern(QPDFObjectHandle pattern) {
        QPDFObjectHandle about = aboutOf(pattern);
        if (!about.isDictionary())
            return;
        if (about.hasKey("/Shading"))
            noteShading(about.getKey("/Shading"));
        noteState(about.getKey("/ExtGState"));
        if (pattern.isStream())
            noteContents(pattern);
        walk(about.getKey("/Resources"));
    }

    void noteDrawn(QPDFObjectHandle drawn) {
        if (!drawn.isStream() || !isNew(drawn))
            return;
        QPDFObjectHandle about = drawn.getDict();
        if (about.hasKey("/OPI"))
            found.notX4 = N_("a picture that stands for another file");
        if (about.getKey("/Subtype").isNameAndEquals("/PS") ||
            about.getKey("/Subtype2").isNameAndEquals("/PS"))
            found.notX4 = N_("PostScript");
        if (about.getKey("/Subtype").isNameAndEquals("/Image")) {
            note(about.getKey("/ColorSpace"), true);
            found.isTransparent |= about.getKey("/SMask").isStream();
        } else {
            noteContents(drawn);
            walk(about.getKey("/Resources"));
        }
    }

    void noteContents(QPDFObjectHandle drawn) {
        if (!readsContents_ || found.hasRgb)
            return;
        RgbFinder finder;
        drawn.parseAsContents(&finder);
        found.hasRgb = finder.isFound;
    }

    void noteFont(QPDFObjectHandle font) {
        if (!font.isDictionary())
            return;
        if (QPDFObjectHandle called = font.getKey("/BaseFont"); isMissing(font) && called.isName())
            found.missingFonts.insert(called.getName().substr(1));
        walk(font.getKey("/Resources"));
    }

    void noteState(QPDFObjectHandle state) {
        if (!state.isDictionary())
            return;
        for (const char* key : {"/TR", "/TR2"})
            if (QPDFObjectHandle transfer = state.getKey(key); !transfer.isNull() &&
                                                               !transfer.isNameAndEquals("/Default") &&
                                                               !transfer.isNameAndEquals("/Identity"))
                found.notX4 = N_("a transfer function");
        for (const char* key : {"/ca", "/CA"})
            if (QPDFObjectHandle opacity = state.getKey(key); opacity.isNumber())
                found.isTransparent |= opacity.getNumericValue() < 1;
        if (QPDFObjectHandle mode = state.getKey("/BM"); !mode.isNull())
            found.isTransparent |= !mode.isNameAndEquals("/Normal") && !mode.isNameAndEquals("/Compatible");
        if (QPDFObjectHandle mask = state.getKey("/SMask"); mask.isDictionary()) {
            found.isTransparent = true;
            noteDrawn(mask.getKey("/G"));
        }
        if (QPDFObjectHandle font = state.getKey("/Font"); font.isArray() && font.getArrayNItems() > 0)
            noteFont(font.getArrayItem(0));
    }

    std::set<QPDFObjGen> seen_, profiles_;
    bool readsContents_;
    int depth_ = 0;
};

} // namespace

PageResources resourcesOf(const QPDFObjectHandle& page, bool readsContents) {
    Walker walker(readsContents);
    walker.walkPage(page);
    return std::move(walker.found);
}

PageResources resourcesOfForm(QPDFObjectHandle form) {
    Walker walker(false);
    walker.walk(form.getDict().getKey("/Resources"));
    return std::move(walker.found);
}

} // namespace hasami
