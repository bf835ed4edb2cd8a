#pragma once

#include "artwork/artwork.h"

#include <QImage>

#include <memory>

namespace hasami {

/// How a printer's or a press's inks show colours, by its ICC profile: relative colorimetric, with black
/// point compensation. For any thread.
class SoftProof {
public:
    /// Throws InputError where the profile can't be used.
    explicit SoftProof(const Asset& profile);
    ~SoftProof();
    SoftProof(const SoftProof&) = delete;
    SoftProof& operator=(const SoftProof&) = delete;

    /// The picture as it comes out of the printer, for a screen; its coverage stays.
    QImage shown(const QImage& picture) const;

    /// Whether the inks can't show a pixel's colour, for each: 255, else 0. What is not covered has none.
    QImage beyond(const QImage& picture) const;

private:
    struct Transforms;
    std::unique_ptr<Transforms> transforms_;
};

} // namespace hasami
