#include "base/error.h"
#include "files/picture_file.h"
#include "files/read_file.h"
#include "files/reader_process.h"
#include "support/temporary_folder.h"

#include <QBuffer>
#include <QColorSpace>
#include <QImage>
#include <QStandardPaths>
#include <catch2/catch.hpp>

#include <array>
#include <span>
#include <stop_token>
#include <thread>

using namespace hasami;
using namespace hasami::test;

namespace {

Asset pngOf(const QImage& image) {
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    REQUIRE(image.save(&buffer, "PNG", image.width() > 1000 ? 100 : -1)); // large ones without compression
    Asset asset{"", "test.png", {}};
    const std::span<const std::byte> written =
        std::as_bytes(std::span(bytes.constData(), std::size_t(bytes.size())));
    asset.bytes.assign(written.begin(), written.end());
    asset.sha256 = sha256Of(asset.bytes);
    return asset;
}

QImage filled(QImage::Format format, QColor colour, int width = 8, int height = 6) {
    QImage image(width, height, format);
    image.fill(colour);
    return image;
}

} // namespace

TEST_CASE("every kind of PNG gives its own colours and coverage") {
    const Picture transparent = readPicture(pngOf(filled(QImage::Format_ARGB32, QColor(10, 20, 30, 40))));
    CHECK(transparent.pixels.at(3, 3) == Rgba{10, 20, 30, 40});
    CHECK(transparent.hasCoverage);
    CHECK_FALSE(transparent.isGrey);

    const Picture opaque = readPicture(pngOf(filled(QImage::Format_RGB32, QColor(10, 20, 30))));
    CHECK(opaque.pixels.at(0, 5) == Rgba{10, 20, 30, 255});
    CHECK_FALSE(opaque.hasCoverage);

    const Picture grey = readPicture(pngOf(filled(QImage::Format_Grayscale8, QColor(77, 77, 77))));
    CHECK(grey.isGrey);
    CHECK(grey.pixels.at(7, 0) == Rgba{77, 77, 77, 255});

    QImage palette(8, 6, QImage::Format_Indexed8);
    palette.setColorTable({qRgba(1, 2, 3, 255), qRgba(200, 100, 50, 128)});
    palette.fill(1);
    CHECK(readPicture(pngOf(palette)).pixels.at(2, 2) == Rgba{200, 100, 50, 128});

    QImage deep(8, 6, QImage::Format_RGBA64);
    deep.fill(QColor::fromRgba64(0x1234, 0x8080, 0xFFFF, 0x4040));
    const Rgba read = readPicture(pngOf(deep)).pixels.at(4, 4);
    CHECK(std::abs(read.red - 0x12) <= 1);
    CHECK(read.green == 0x80);
    CHECK(read.coverage == 0x40);
}

TEST_CASE("the resolution is the file's own, if it says one") {
    QImage image = filled(QImage::Format_ARGB32, Qt::red);
    image.setDotsPerMeterX(11811);
    image.setDotsPerMeterY(11811);
    CHECK(readPicture(pngOf(image)).pixelsPerMillimetre == Approx(11.811));
}

TEST_CASE("a colour profile is kept") {
    QImage image = filled(QImage::Format_ARGB32, Qt::red);
    image.setColorSpace(QColorSpace(QColorSpace::DisplayP3));
    CHECK(readPicture(pngOf(image)).iccProfile.size() > 100);
    CHECK(readPicture(pngOf(filled(QImage::Format_ARGB32, Qt::red))).iccProfile.empty());
}

TEST_CASE("a file cut short anywhere is refused, and never crashes") {
    const Asset whole = pngOf(filled(QImage::Format_ARGB32, Qt::red, 40, 40));
    for (std::size_t length = 0; length < whole.bytes.size(); length += 3) {
        Asset cut{"", "cut.png", {whole.bytes.begin(), whole.bytes.begin() + std::ptrdiff_t(length)}};
        CHECK_THROWS_AS(readPicture(cut), InputError);
    }
}

TEST_CASE("a byte changed anywhere is refused or harmless") {
    const Asset whole = pngOf(filled(QImage::Format_ARGB32, Qt::red, 40, 40));
    for (std::size_t at = 0; at < whole.bytes.size(); ++at) {
        Asset changed = whole;
        changed.bytes[at] ^= std::byte{0x55};
        int width = 0;
        std::string refusal;
        try {
            width = readPicture(changed).pixels.width();
        } catch (const InputError& error) {
            refusal = error.what();
        }
        CHECK((width == 40 || refusal.find("test.png") == 0));
    }
}

TEST_CASE("a store decodes once and gives the same picture to all") {
    PictureStore store;
    const Asset asset = pngOf(filled(QImage::Format_ARGB32, Qt::red));
    CHECK(store.get(asset) == store.get(asset));
}

TEST_CASE("files that can't be read are told by name") {
    const TemporaryFolder folder;
    PictureStore store;
    CHECK_THROWS_WITH(openArtwork(folder / "none.png", store), Catch::StartsWith("none.png can't be read"));
}

TEST_CASE("a store keeps no more bytes than its limit, the least recently used let go first") {
    const auto image = [](int red) { return pngOf(filled(QImage::Format_RGB32, QColor(red, 20, 30))); };
    const Asset one = image(1), two = image(2), three = image(3);
    PictureStore measure;
    measure.get(one);
    const std::size_t each = measure.bytes();
    CHECK(each >= readPicture(one).pixels.cells().size_bytes());
    PictureStore store(2 * each + each / 2);
    const auto first = store.get(one), second = store.get(two);
    store.get(one);
    store.get(three);
    CHECK(store.bytes() <= 2 * each + each / 2);
    CHECK(store.get(one) == first);
    CHECK(store.get(two) != second);
}

TEST_CASE("threads that want the same picture decode it once") {
    const Asset asset =
        pngOf(QImage(2000, 1500, QImage::Format_RGB32).convertToFormat(QImage::Format_ARGB32));
    PictureStore store;
    std::array<std::shared_ptr<const Picture>, 4> got;
    {
        std::vector<std::jthread> threads;
        for (auto& picture : got)
            threads.emplace_back([&] { picture = store.get(asset); });
    }
    for (const auto& picture : got)
        CHECK(picture == got[0]);
}

TEST_CASE("decoding stops when asked, before and while it goes on") {
    std::stop_source stop;
    stop.request_stop();
    const Asset asset = pngOf(filled(QImage::Format_ARGB32, Qt::red));
    CHECK_THROWS_AS(readPicture(asset, {}, stop.get_token()), Stopped);
    const Asset large = pngOf(filled(QImage::Format_RGB32, Qt::red, 4000, 4000));
    std::stop_source later;
    const std::jthread stopper([&] {
        std::this_thread::sleep_for(std::chrono::milliseconds(20));
        later.request_stop();
    });
    CHECK_THROWS_AS(readPicture(large, {}, later.get_token()), Stopped);
}

TEST_CASE("a process that reads a drawing is ended at once when nobody wants it any more") {
    // It never ends by itself; running into the time limit would throw InputError instead.
    const std::string text = "%!PS\n{} loop\n";
    const auto* bytes = reinterpret_cast<const std::byte*>(text.data());
    Asset asset{"", "endless.eps", {bytes, bytes + text.size()}};
    std::stop_source stop;
    const std::jthread stopper([&] {
        std::this_thread::sleep_for(std::chrono::milliseconds(300));
        stop.request_stop();
    });
    CHECK_THROWS_AS(readPicture(asset, {}, stop.get_token()), Stopped);
}

TEST_CASE("a file that takes too long to read is refused in a sentence") {
    const std::string text = "%!PS\n{} loop\n";
    const auto* bytes = reinterpret_cast<const std::byte*>(text.data());
    const Asset asset{"", "endless.eps", {bytes, bytes + text.size()}};
    CHECK_THROWS_WITH(askReader(asset,
                                {"confined", QStandardPaths::findExecutable("gs"), "-q", "-dNODISPLAY", "-"},
                                QByteArray::fromStdString(text), {}, 2),
                      "endless.eps takes longer than 2 seconds to read: make it simpler, or export it again");
}
