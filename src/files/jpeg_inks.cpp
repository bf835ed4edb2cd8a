#include "files/jpeg_inks.h"

#include <csetjmp>
#include <cstdio>
#include <cstdlib>
#include <jpeglib.h>
#include <memory>
#include <vector>

namespace hasami {

namespace {

/// libjpeg leaves by a jump: nothing that needs to be destroyed may be made between it and where it lands.
struct Errors {
    jpeg_error_mgr base;
    std::jmp_buf away;
};

[[noreturn]] void leave(j_common_ptr decoder) {
    std::longjmp(reinterpret_cast<Errors*>(decoder->err)->away, 1);
}

void keepQuiet(j_common_ptr) {}

/// Rows of four bytes a pixel, into room that is there already. False if the file is damaged.
bool decode(std::span<const std::byte> bytes, int width, int height, unsigned char* room) {
    jpeg_decompress_struct decoder{};
    Errors errors{};
    decoder.err = jpeg_std_error(&errors.base);
    errors.base.error_exit = leave;
    errors.base.output_message = keepQuiet;
    if (setjmp(errors.away) != 0) {
        jpeg_destroy_decompress(&decoder);
        return false;
    }
    jpeg_create_decompress(&decoder);
    jpeg_mem_src(&decoder, reinterpret_cast<const unsigned char*>(bytes.data()),
                 static_cast<unsigned long>(bytes.size()));
    jpeg_read_header(&decoder, TRUE);
    decoder.out_color_space = JCS_CMYK;
    jpeg_start_decompress(&decoder);
    const bool isAsTold = int(decoder.output_width) == width && int(decoder.output_height) == height &&
                          decoder.output_components == 4;
    while (isAsTold && decoder.output_scanline < decoder.output_height) {
        JSAMPROW row = room + std::size_t(decoder.output_scanline) * std::size_t(width) * 4;
        jpeg_read_scanlines(&decoder, &row, 1);
    }
    if (isAsTold)
        jpeg_finish_decompress(&decoder);
    jpeg_destroy_decompress(&decoder);
    return isAsTold;
}

/// To be freed; nullptr where there is none.
JOCTET* readProfile(std::span<const std::byte> bytes, unsigned& size) {
    jpeg_decompress_struct decoder{};
    Errors errors{};
    decoder.err = jpeg_std_error(&errors.base);
    errors.base.error_exit = leave;
    errors.base.output_message = keepQuiet;
    if (setjmp(errors.away) != 0) {
        jpeg_destroy_decompress(&decoder);
        return nullptr;
    }
    jpeg_create_decompress(&decoder);
    jpeg_mem_src(&decoder, reinterpret_cast<const unsigned char*>(bytes.data()),
                 static_cast<unsigned long>(bytes.size()));
    constexpr int markerOfProfiles = JPEG_APP0 + 2;
    jpeg_save_markers(&decoder, markerOfProfiles, 0xFFFF);
    jpeg_read_header(&decoder, TRUE);
    JOCTET* profile = nullptr;
    if (!jpeg_read_icc_profile(&decoder, &profile, &size))
        profile = nullptr;
    jpeg_destroy_decompress(&decoder);
    return profile;
}

} // namespace

std::vector<std::byte> profileOfJpeg(std::span<const std::byte> bytes) {
    unsigned size = 0;
    const std::unique_ptr<JOCTET, decltype(&std::free)> profile(readProfile(bytes, size), &std::free);
    if (!profile)
        return {};
    const auto* first = reinterpret_cast<const std::byte*>(profile.get());
    return {first, first + size};
}

std::optional<FineColours> readJpegInks(std::span<const std::byte> bytes, const JpegCoding& coding) {
    std::vector<unsigned char> samples(std::size_t(coding.width) * std::size_t(coding.height) * 4);
    if (!decode(bytes, coding.width, coding.height, samples.data()))
        return {};
    if (coding.isInverted)
        for (unsigned char& value : samples)
            value = static_cast<unsigned char>(255 - value);
    Picture stored; // to be turned as a whole
    stored.pixels = Grid<Rgba>(coding.width, coding.height);
    stored.fine = FineColours(4, 8, coding.width, coding.height, std::move(samples));
    turnUpright(stored, coding.orientation);
    return std::move(stored.fine);
}

} // namespace hasami
