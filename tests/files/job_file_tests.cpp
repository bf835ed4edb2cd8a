#include "base/error.h"
#include "files/job_file.h"
#include "files/picture_file.h"
#include "files/print_file.h"
#include "files/qpdf.h"
#include "files/read_file.h"
#include "files/safe_write.h"
#include "support/rounds.h"
#include "support/temporary_folder.h"

#include <catch2/catch.hpp>

#include <csignal>
#include <filesystem>
#include <random>
#include <sys/resource.h>
#include <sys/wait.h>
#include <thread>
#include <unistd.h>

using namespace hasami;
using namespace hasami::test;

namespace {

std::string textOf(const std::filesystem::path& path) {
    const auto bytes = readFile(path, 1 << 24);
    return {reinterpret_cast<const char*>(bytes.data()), bytes.size()};
}

Job beeJob(PictureStore& pictures) {
    Job job;
    addDesign(job, openArtwork(HASAMI_SOURCE_DIR "/data/demo/bee.png", pictures), 50).count = 6;
    return job;
}

} // namespace

TEST_CASE("a job is the same after saving and opening, and again after that") {
    const TemporaryFolder folder;
    PictureStore pictures;
    Job job = beeJob(pictures);
    job.designs[0].name = "Bienchen „summ“ 🐝";
    saveJob(folder / "a.hasami", job, "");
    const Job opened = openJob(folder / "a.hasami");
    CHECK(opened.designs == job.designs);
    CHECK(opened.plan == job.plan);
    CHECK(opened.profile == job.profile);
    REQUIRE(opened.assets->size() == 1);
    CHECK(opened.assets->begin()->second->bytes == job.assets->begin()->second->bytes);
    CHECK(opened.assets->begin()->second->name == "bee.png");
    saveJob(folder / "b.hasami", opened, "");
    CHECK(textOf(folder / "a.hasami") == textOf(folder / "b.hasami"));
}

TEST_CASE("an empty job can be saved and opened") {
    const TemporaryFolder folder;
    saveJob(folder / "empty.hasami", Job{}, "");
    CHECK(openJob(folder / "empty.hasami") == Job{});
}

TEST_CASE("a job file damaged anywhere is refused or the same job") {
    const TemporaryFolder folder;
    Job job;
    saveJob(folder / "small.hasami", job, "");
    const std::string whole = textOf(folder / "small.hasami");
    for (std::size_t at = 0; at < whole.size(); at += 2) {
        std::string changed = whole;
        changed[at] = static_cast<char>(changed[at] ^ 0x55);
        writeSafely(folder / "changed.hasami", changed);
        bool isSame = false;
        std::string refusal;
        try {
            isSame = openJob(folder / "changed.hasami") == job;
        } catch (const InputError& error) {
            refusal = error.what();
        }
        CHECK((isSame || refusal.find("changed.hasami can't be opened: ") == 0));
    }
}

TEST_CASE("after 1,000 kills while saving, the file was always the old job or the new one") {
    const TemporaryFolder folder;
    Job jobs[2];
    PictureStore pictures;
    jobs[0] = beeJob(pictures);
    jobs[1] = jobs[0];
    jobs[1].plan.gap = 42;
    saveJob(folder / "job.hasami", jobs[1], "");
    const auto begin = std::chrono::steady_clock::now();
    saveJob(folder / "job.hasami", jobs[0], "");
    const std::chrono::duration<double> saving = std::chrono::steady_clock::now() - begin;
    // Each is killed in the midst of one of its first saves, however long one takes here.
    std::mt19937 random(1);
    std::uniform_real_distribution<double> anySaves(0, 3);
    int wasNew = 0;
    for (int round = 0; round < test::rounds(1000, 100); ++round) {
        const pid_t child = fork();
        REQUIRE(child >= 0);
        if (child == 0) {
            for (int i = 0;; ++i)
                saveJob(folder / "job.hasami", jobs[(i + 1) % 2], "");
        }
        std::this_thread::sleep_for(anySaves(random) * saving);
        kill(child, SIGKILL);
        waitpid(child, nullptr, 0);
        if (round % 10 == 0) {
            const Job found = openJob(folder / "job.hasami");
            wasNew += found.plan.gap == 42;
            REQUIRE((found.plan == jobs[0].plan || found.plan == jobs[1].plan));
            REQUIRE(found.designs == jobs[0].designs);
        } else {
            REQUIRE_NOTHROW(openJob(folder / "job.hasami"));
        }
    }
    CHECK(wasNew > 0); // the kills came in the midst of it
    CHECK(wasNew < 100);
}

TEST_CASE("a full disk is told by name and leaves the old file") {
    // A file size limit fails a write as a full disk does, with nothing to mount.
    const TemporaryFolder folder;
    writeSafely(folder / "old.hasami", "old");
    const pid_t child = fork();
    REQUIRE(child >= 0);
    if (child == 0) {
        signal(SIGXFSZ, SIG_IGN);
        const rlimit limit{1000, 1000};
        setrlimit(RLIMIT_FSIZE, &limit);
        try {
            writeSafely(folder / "old.hasami", std::string(100'000, 'x'));
        } catch (const OutputError& error) {
            _exit(std::string(error.what()).find("old.hasami can't be written: ") == 0 ? 7 : 8);
        }
        _exit(9);
    }
    int status = 0;
    waitpid(child, &status, 0);
    CHECK(WEXITSTATUS(status) == 7);
    CHECK(textOf(folder / "old.hasami") == "old");
    std::size_t entries = 0;
    for ([[maybe_unused]] const auto& entry : std::filesystem::directory_iterator(folder / "."))
        ++entries;
    CHECK(entries == 1);
}

TEST_CASE("a failed write leaves the old file and nothing beside it") {
    const TemporaryFolder folder;
    writeSafely(folder / "old.txt", "old");
    CHECK_THROWS_AS(writeSafely(folder / "missing" / "new.txt", "new"), OutputError);
    std::filesystem::create_directory(folder / "taken");
    CHECK_THROWS_AS(writeSafely(folder / "taken", "new"), OutputError);
    CHECK(textOf(folder / "old.txt") == "old");
    writeSafely(folder / "old.txt", "newer");
    CHECK(textOf(folder / "old.txt") == "newer");
    std::size_t entries = 0;
    for ([[maybe_unused]] const auto& entry : std::filesystem::directory_iterator(folder / "."))
        ++entries;
    CHECK(entries == 2);
}

TEST_CASE("a picture that many designs show is embedded once") {
    PictureStore pictures;
    const PictureSource source = [&](const Asset& asset, const PictureWish& wish,
                                     const std::stop_token& stop) { return pictures.get(asset, wish, stop); };
    Job job = beeJob(pictures);
    Design second = job.designs[0];
    second.id = "second";
    second.recipe.lines[0].offset = 1;
    second.artwork.items.push_back(second.artwork.items[0]);
    second.artwork.items[1].place.at = {30, 10};
    job.designs.push_back(second);
    Cache cache;
    const Made made = makeAll(job, 1, source, cache);
    REQUIRE(made.designs[1].sticker->lines.size() == 1); // two bees that overlap: one sticker
    const std::string pdf = printPdf(job, made, source, {});
    QPDF file;
    file.processMemoryFile("print", pdf.data(), pdf.size());
    int images = 0;
    for (QPDFObjectHandle object : file.getAllObjects())
        images += object.isStream() && object.getDict().getKey("/Subtype").isNameAndEquals("/Image");
    CHECK(images == 2); // the picture and its soft mask
}

TEST_CASE("print pages show the sheet turned a quarter clockwise") {
    Sheet sheet;
    sheet.usedLength = 300;
    sheet.length = 400;
    const Affine toPage = sheetToPage(sheet, Medium{200, 400.0});
    // The leading edge's y = 0 corner comes to the page's top right; PDF's y runs up.
    CHECK(toPage({0, 0}) == Point{200, 400});
    CHECK(toPage({0, 200}) == Point{0, 400});
    CHECK(toPage({400, 0}) == Point{200, 0});
}

TEST_CASE("a job that could not be opened again is refused in a sentence, and the old file is intact",
          "[long]") {
    const TemporaryFolder folder;
    PictureStore pictures;
    Job job = beeJob(pictures);
    saveJob(folder / "a.hasami", job, "");
    const std::string before = textOf(folder / "a.hasami");
    const auto refusal = [&](const Job& bad) -> std::string {
        try {
            saveJob(folder / "a.hasami", bad, "");
        } catch (const OutputError& error) {
            CHECK(textOf(folder / "a.hasami") == before);
            return error.what();
        }
        return "saved";
    };
    const std::string opening = "a.hasami is not saved, since it could not be opened again: ";
    // More pieces than the reader takes.
    Job pieces = job;
    pieces.plan.packing = Packing::nest;
    pieces.plan.laid.edit().assign(2'000'000, {job.designs[0].id, 0, {10, 10}, 0, false});
    CHECK(refusal(pieces).starts_with(opening));
    // A number that the reader refuses.
    Job number = job;
    number.designs[0].count = -3;
    CHECK(refusal(number).starts_with(opening + "designs[0].count"));
    // More bytes of artwork than it unpacks.
    Job large = job;
    for (int i = 0; i < 3; ++i) {
        const std::string sha256 = std::string(63, 'b') + std::to_string(i);
        large.assets.edit()[sha256] = std::make_shared<const Asset>(
            Asset{sha256, "large.tif", std::vector<std::byte>(std::size_t{400} << 20)});
        large.designs.push_back(job.designs[0]);
        large.designs.back().id = "large-" + std::to_string(i);
        large.designs.back().artwork.items[0].file()->asset = sha256;
    }
    CHECK(refusal(large).starts_with(opening + "its artwork takes 1200 MB"));
}
