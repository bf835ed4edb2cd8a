#include "files/pdf_layers.h"

#include "files/pdf_operators.h"

#include <algorithm>
#include <memory>
#include <utility>
#include <vector>

namespace hasami {

namespace {

bool isOf(QPDFObjectHandle group, const std::set<std::string>& names) {
    return group.isDictionary() && group.getKey("/Name").isString() &&
           names.contains(group.getKey("/Name").getUTF8Value());
}

/// Names in a part of resources ("/Properties", "/XObject") for which `isWanted` holds.
template <class IsWanted>
std::set<std::string> keysOf(QPDFObjectHandle resources, const char* part, const IsWanted& isWanted) {
    std::set<std::string> keys;
    QPDFObjectHandle all = resources.isDictionary() ? resources.getKey(part) : QPDFObjectHandle::newNull();
    if (all.isDictionary())
        for (const std::string& key : all.getKeys())
            if (isWanted(all.getKey(key)))
                keys.insert(key);
    return keys;
}

/// What resources call groups of these names, and forms or pictures that lie on them.
struct NamesInResources {
    std::set<std::string> groups, objects;

    NamesInResources(const QPDFObjectHandle& resources, const std::set<std::string>& names)
        : groups(keysOf(resources, "/Properties",
                        [&](const QPDFObjectHandle& group) { return isOf(group, names); })),
          objects(keysOf(resources, "/XObject", [&](QPDFObjectHandle object) {
              return object.isStream() && isOf(object.getDict().getKey("/OC"), names);
          })) {}
    bool isEmpty() const { return groups.empty() && objects.empty(); }
};

/// Takes out what is painted on some layers, or off them. States, clips and the places of text stay as they
/// are (ISO 32000-1, 8.11.3).
class LayerFilter : public OperatorFilter {
public:
    LayerFilter(NamesInResources names, bool only) : names_(std::move(names)), only_(only) {}

protected:
    void handleOperator(const std::string& name) override {
        if (name == "BDC" || name == "BMC")
            marked_.push_back(name == "BDC" && names_.groups.contains(lastName()));
        const bool isOn = std::ranges::find(marked_, true) != marked_.end() ||
                          (name == "Do" && names_.objects.contains(lastName()));
        if (name == "EMC" && !marked_.empty())
            marked_.pop_back();
        if (isOn != only_ && pathPainting(name).paints())
            replace("n");
        else if (isOn != only_ && (name == "Do" || name == "sh" || name == "EI"))
            leaveOut();
        else if (isOn != only_ && showsText(name))
            keepUnseen();
        else
            keep();
    }

private:
    NamesInResources names_;
    bool only_;
    std::vector<bool> marked_;
};

void addNames(std::set<std::string>& names, QPDFObjectHandle group) {
    if (group.isDictionary() && group.getKey("/Name").isString())
        names.insert(group.getKey("/Name").getUTF8Value());
}

QPDFObjectHandle resourcesOfPage(const QPDFObjectHandle& page) {
    return QPDFPageObjectHelper(page).getAttribute("/Resources", false);
}

} // namespace

std::set<std::string> layersOf(const QPDFObjectHandle& page) {
    std::set<std::string> names;
    const QPDFObjectHandle resources = resourcesOfPage(page);
    const auto take = [&](const QPDFObjectHandle& group) {
        addNames(names, group);
        return false;
    };
    keysOf(resources, "/Properties", take);
    keysOf(resources, "/XObject", [&](QPDFObjectHandle object) {
        return object.isStream() && take(object.getDict().getKey("/OC"));
    });
    return names;
}

void takeOutLayers(QPDF& file, const std::set<std::string>& names, bool only) {
    for (const QPDFObjectHandle& page : file.getAllPages()) {
        NamesInResources found(resourcesOfPage(page), names);
        if (only || !found.isEmpty())
            QPDFPageObjectHelper(page).addContentTokenFilter(
                std::make_shared<LayerFilter>(std::move(found), only));
    }
}

} // namespace hasami
