#include "profile/ink_order.h"

#include <algorithm>
#include <cassert>
#include <utility>

namespace hasami {

namespace {

constexpr InkOrder::Pass colours;

} // namespace

InkOrder::InkOrder(std::vector<Pass> passes) : passes_(std::move(passes)) {
    assert(isValid(passes_));
}

bool InkOrder::isValid(const std::vector<Pass>& passes) {
    const auto times = [&](Pass pass) { return std::ranges::count(passes, pass); };
    const auto ofColours = times(colours);
    return std::ranges::all_of(inkKinds, [&](InkKind ink) { return times(ink) == 1; }) &&
           (ofColours == 1 || ofColours == 2) && std::ranges::adjacent_find(passes) == passes.end();
}

std::vector<InkKind> InkOrder::inks() const {
    std::vector<InkKind> inks;
    for (const Pass& pass : passes_)
        if (pass)
            inks.push_back(*pass);
    return inks;
}

std::vector<InkOrder::Pass> InkOrder::seen(bool throughMedium) const {
    std::vector<Pass> passes = passes_;
    if (throughMedium)
        std::ranges::reverse(passes);
    return passes;
}

WhitePlace InkOrder::white() const {
    const auto white = std::ranges::find(passes_, Pass(InkKind::white));
    const bool isOverSome = std::find(passes_.begin(), white, colours) != white;
    const bool isUnderSome = std::find(white, passes_.end(), colours) != passes_.end();
    return !isOverSome ? WhitePlace::under : isUnderSome ? WhitePlace::between : WhitePlace::over;
}

InkOrder InkOrder::with(WhitePlace place) const {
    std::vector<Pass> passes = passes_;
    std::erase(passes, Pass(InkKind::white));
    const auto first = std::ranges::find(passes, colours);
    passes.erase(std::remove(first + 1, passes.end(), colours), passes.end());
    auto at = passes.insert(first + (place == WhitePlace::under ? 0 : 1), InkKind::white);
    if (place == WhitePlace::between)
        passes.insert(at + 1, colours);
    return InkOrder(std::move(passes));
}

bool InkOrder::printsColoursTwice() const {
    return std::ranges::count(passes_, colours) > 1;
}

} // namespace hasami
