#pragma once

#include <array>
#include <optional>
#include <vector>

namespace hasami {

/// Ink beside the colours, on a layer of its own.
enum class InkKind {
    white,  ///< opaque: under the colours on what is clear or coloured, over them where they are seen
            ///< through the medium
    gloss,  ///< over the colours
    primer, ///< what makes ink hold
};

inline constexpr std::array inkKinds{InkKind::white, InkKind::gloss, InkKind::primer};

/// Where white lies, from the medium up.
enum class WhitePlace {
    under,   ///< the colours
    over,    ///< them: they are seen through the medium
    between, ///< two passes of the colours: they are seen from both sides
};

inline constexpr std::array whitePlaces{WhitePlace::under, WhitePlace::over, WhitePlace::between};

/// The passes of a print, from the medium up: each special ink once, the colours once or twice.
class InkOrder {
public:
    using Pass = std::optional<InkKind>; ///< none: the colours

    InkOrder() : passes_{InkKind::primer, InkKind::white, Pass(), InkKind::gloss} {}
    /// REQUIRES: isValid(passes).
    explicit InkOrder(std::vector<Pass> passes);

    /// Whether each special ink is there once and the colours once, or twice with an ink between.
    static bool isValid(const std::vector<Pass>& passes);

    const std::vector<Pass>& passes() const { return passes_; }
    std::vector<InkKind> inks() const; ///< without the colours
    /// From the farthest to the nearest, as they are seen from the printed side or through the medium.
    std::vector<Pass> seen(bool throughMedium) const;

    WhitePlace white() const;
    /// The same with white there, right beside the colours; the other inks keep their order.
    InkOrder with(WhitePlace place) const;
    bool printsColoursTwice() const;

    friend bool operator==(const InkOrder&, const InkOrder&) = default;

private:
    std::vector<Pass> passes_;
};

} // namespace hasami
