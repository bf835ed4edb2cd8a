#include "app/runs/bed_picture.h"

#include "rehearsal/rehearsal_files.h"

#include <algorithm>
#include <cmath>

namespace hasami {

namespace {

constexpr double seenPerMillimetre = 6; // pixels
constexpr double mostSeen = 12e6;       // pixels
constexpr int smallest = 300;           // pixels

} // namespace

/// Shrinking all pixels for each scale that is looked at takes longer than a frame.
BedPicture::BedPicture(std::shared_ptr<const PrintedSheet> printed) : printed_(std::move(printed)) {
    const double all = double(printed_->width()) * double(printed_->height());
    const double scale = printed_->pixelsPerMillimetre() * std::min(1.0, std::sqrt(mostSeen / all));
    pictures_.push_back(pictureOf(*printed_, std::min(scale, seenPerMillimetre)));
    while (std::min(pictures_.back().width(), pictures_.back().height()) > smallest)
        pictures_.push_back(pictures_.back().scaled(pictures_.back().size() / 2, Qt::IgnoreAspectRatio,
                                                    Qt::SmoothTransformation));
}

const QImage& BedPicture::at(double pixelsPerMillimetre) const {
    const double wanted = pixelsPerMillimetre / printed_->pixelsPerMillimetre() * double(printed_->width());
    std::size_t level = 0;
    while (level + 1 < pictures_.size() && pictures_[level + 1].width() >= wanted)
        ++level;
    return pictures_[level];
}

} // namespace hasami
