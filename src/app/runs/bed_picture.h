#pragma once

#include "machine/printed_sheet.h"

#include <QImage>

#include <memory>
#include <vector>

namespace hasami {

/// A printed sheet as it lies on the bed, in pictures for views of any scale.
class BedPicture {
public:
    explicit BedPicture(std::shared_ptr<const PrintedSheet> printed);

    const std::shared_ptr<const PrintedSheet>& printed() const { return printed_; }
    /// In at least that many pixels a millimetre, if it has them.
    const QImage& at(double pixelsPerMillimetre) const;

private:
    std::shared_ptr<const PrintedSheet> printed_;
    std::vector<QImage> pictures_; ///< each half as large as the one before
};

} // namespace hasami
