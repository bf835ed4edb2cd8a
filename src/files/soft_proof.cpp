#include "files/soft_proof.h"

#include "files/read_file.h"

#include <algorithm>
#include <array>
#include <lcms2.h>

namespace hasami {

namespace {

struct CloseLcmsProfile {
    void operator()(void* profile) const { cmsCloseProfile(profile); }
};
using LcmsProfile = std::unique_ptr<void, CloseLcmsProfile>;

constexpr std::array<cmsUInt16Number, 3> alarm{0x0101, 0xFEFE, 0x0303}; // a colour that no proof has

QImage through(cmsHTRANSFORM transform, const QImage& picture) {
    QImage straight = picture.convertToFormat(QImage::Format_ARGB32);
    for (int y = 0; y < straight.height(); ++y)
        cmsDoTransform(transform, straight.constScanLine(y), straight.scanLine(y),
                       cmsUInt32Number(straight.width()));
    return straight;
}

} // namespace

struct SoftProof::Transforms {
    Transforms() = default;
    ~Transforms() {
        for (const cmsHTRANSFORM transform : {shown, beyond})
            if (transform)
                cmsDeleteTransform(transform);
        cmsDeleteContext(context);
    }
    Transforms(const Transforms&) = delete;
    Transforms& operator=(const Transforms&) = delete;

    cmsContext context = cmsCreateContext(nullptr, nullptr);
    cmsHTRANSFORM shown = nullptr, beyond = nullptr;
};

SoftProof::SoftProof(const Asset& asset) : transforms_(std::make_unique<Transforms>()) {
    const cmsContext context = transforms_->context;
    const LcmsProfile printer(
        cmsOpenProfileFromMemTHR(context, asset.bytes.data(), cmsUInt32Number(asset.bytes.size())));
    const LcmsProfile screen(cmsCreate_sRGBProfileTHR(context));
    if (!printer)
        refuse(asset, "%1 is no ICC colour profile, or a damaged one");
    std::array<cmsUInt16Number, cmsMAXCHANNELS> alarms{};
    std::ranges::copy(alarm, alarms.begin());
    cmsSetAlarmCodesTHR(context, alarms.data());
    const auto make = [&](cmsUInt32Number more) {
        return cmsCreateProofingTransformTHR(
            context, screen.get(), TYPE_BGRA_8, screen.get(), TYPE_BGRA_8, printer.get(),
            INTENT_RELATIVE_COLORIMETRIC, INTENT_RELATIVE_COLORIMETRIC,
            cmsFLAGS_SOFTPROOFING | cmsFLAGS_COPY_ALPHA | cmsFLAGS_BLACKPOINTCOMPENSATION | more);
    };
    transforms_->shown = make(0);
    transforms_->beyond = make(cmsFLAGS_GAMUTCHECK);
    if (!transforms_->shown || !transforms_->beyond)
        refuse(asset, "%1 is an ICC profile that colours can't be shown by");
}

SoftProof::~SoftProof() = default;

QImage SoftProof::shown(const QImage& picture) const {
    return through(transforms_->shown, picture).convertToFormat(picture.format());
}

QImage SoftProof::beyond(const QImage& picture) const {
    const QImage checked = through(transforms_->beyond, picture);
    const QRgb marked = qRgb(alarm[0] >> 8, alarm[1] >> 8, alarm[2] >> 8);
    QImage mask(picture.size(), QImage::Format_Alpha8);
    for (int y = 0; y < checked.height(); ++y) {
        const auto* from = reinterpret_cast<const QRgb*>(checked.constScanLine(y));
        uchar* to = mask.scanLine(y);
        for (int x = 0; x < checked.width(); ++x)
            to[x] = qAlpha(from[x]) > 127 && (from[x] & RGB_MASK) == (marked & RGB_MASK) ? 255 : 0;
    }
    return mask;
}

} // namespace hasami
