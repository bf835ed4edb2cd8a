#include "files/job_file.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/file_name.h"
#include "files/read_file.h"
#include "files/safe_write.h"
#include "job/job_json.h"

#include <QFileInfo>
#include <zip.h>

#include <algorithm>
#include <memory>
#include <string>

namespace hasami {

namespace {

constexpr std::size_t mostFileBytes = std::size_t{1} << 30;
constexpr std::size_t mostUnpackedBytes = std::size_t{1} << 30; // of all entries: a bomb ends here
constexpr std::size_t mostJsonBytes = std::size_t{64} << 20;
constexpr zip_int64_t mostEntries = 20'000;
constexpr std::string_view assetFolder = "assets/";

std::string megabytes(std::size_t bytes) {
    return std::to_string(bytes >> 20) + " MB";
}

/// Refuses what openJob would refuse, before it takes the place of an older file: the limits on sizes and
/// entries, and every check of a job's values.
void requireReadable(const std::filesystem::path& path, const Job& job, const std::string& json,
                     std::size_t previewBytes) {
    const auto fail = [&](const std::string& why) {
        throw OutputError(
            sentence("%1 is not saved, since it could not be opened again: %2", fileName(path), why));
    };
    if (json.size() > mostJsonBytes)
        fail(sentence("its designs and pieces take %1, more than %2", megabytes(json.size()),
                      megabytes(mostJsonBytes)));
    std::size_t all = json.size() + previewBytes;
    for (const auto& [sha256, asset] : *job.assets)
        all += asset->bytes.size();
    constexpr std::size_t headings = std::size_t{1} << 20; // the ZIP's own, at most
    if (all > std::min(mostUnpackedBytes, mostFileBytes) - headings)
        fail(sentence("its artwork takes %1, more than %2", megabytes(all),
                      megabytes(mostFileBytes - headings)));
    if (job.assets->size() + 2 > std::size_t(mostEntries))
        fail(sentence("it holds more than %1 artworks", std::to_string(mostEntries)));
    try {
        jobFromJson(json, job.assets);
    } catch (const InputError& error) {
        fail(error.what());
    }
}

struct CloseArchive {
    void operator()(zip_t* archive) const { zip_discard(archive); }
};
using Archive = std::unique_ptr<zip_t, CloseArchive>;

struct FreeSource {
    void operator()(zip_source_t* source) const { zip_source_free(source); }
};
using Source = std::unique_ptr<zip_source_t, FreeSource>;

std::string textOf(zip_t* archive) {
    return zip_error_strerror(zip_get_error(archive));
}

/// Adds an entry; `bytes` have to live until the archive is closed. The time is fixed: the same job, the same
/// file.
void addEntry(zip_t* archive, const std::string& name, const void* bytes, std::size_t size,
              zip_int32_t method) {
    zip_source_t* source = zip_source_buffer(archive, bytes, size, 0);
    const zip_int64_t index = source ? zip_file_add(archive, name.c_str(), source, ZIP_FL_ENC_UTF_8) : -1;
    if (index < 0) {
        zip_source_free(source);
        throw OutputError(sentence("the job can't be packed: %1", textOf(archive)));
    }
    constexpr zip_uint16_t date = (40 << 9) | (1 << 5) | 1; // 1 January 2020, as MS-DOS writes it
    zip_set_file_compression(archive, zip_uint64_t(index), method, 0);
    zip_file_set_dostime(archive, zip_uint64_t(index), 0, date, 0);
}

/// The packed archive in memory, so that it reaches the disk by the one safe way of writing.
Source pack(const Job& job, const std::string& json, std::string_view previewPng) {
    Source packed(zip_source_buffer_create(nullptr, 0, 0, nullptr));
    zip_source_keep(packed.get());
    zip_error_t error{};
    zip_t* archive = zip_open_from_source(packed.get(), ZIP_TRUNCATE, &error);
    if (!archive)
        throw OutputError(sentence("the job can't be packed: %1", zip_error_strerror(&error)));
    Archive open(archive);
    addEntry(archive, "job.json", json.data(), json.size(), ZIP_CM_DEFLATE);
    if (!previewPng.empty())
        addEntry(archive, "preview.png", previewPng.data(), previewPng.size(), ZIP_CM_STORE);
    for (const auto& [sha256, asset] : *job.assets) // PNG is packed already
        addEntry(archive, std::string(assetFolder) + sha256, asset->bytes.data(), asset->bytes.size(),
                 ZIP_CM_STORE);
    if (zip_close(archive) != 0)
        throw OutputError(sentence("the job can't be packed: %1", textOf(archive)));
    static_cast<void>(open.release());
    return packed;
}

/// The bytes of an archive, part by part.
class PackedParts {
public:
    explicit PackedParts(zip_source_t* packed) : packed_(packed), room_(std::size_t{1} << 20, '\0') {
        if (zip_source_open(packed_) != 0)
            fail();
    }
    ~PackedParts() { zip_source_close(packed_); }
    PackedParts(const PackedParts&) = delete;
    PackedParts& operator=(const PackedParts&) = delete;

    std::string_view next() {
        const zip_int64_t read = zip_source_read(packed_, room_.data(), room_.size());
        if (read < 0)
            fail();
        return {room_.data(), std::size_t(read)};
    }

private:
    [[noreturn]] static void fail() { throw OutputError(translated("the job can't be packed")); }

    zip_source_t* packed_;
    std::string room_;
};

/// Reads entries and keeps count of what they unpack to.
class Unpacker {
public:
    explicit Unpacker(std::span<const std::byte> bytes) {
        zip_error_t error{};
        zip_source_t* source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, &error);
        zip_t* archive = source ? zip_open_from_source(source, ZIP_RDONLY | ZIP_CHECKCONS, &error) : nullptr;
        if (!archive) {
            zip_source_free(source);
            throw InputError(
                translated(bytes.size() >= 2 && bytes[0] == std::byte{'P'} && bytes[1] == std::byte{'K'}
                               ? N_("it is damaged")
                               : N_("it is not a Hasami job")));
        }
        archive_.reset(archive);
        if (zip_get_num_entries(archive, 0) > mostEntries)
            throw InputError(sentence("it holds more than %1 files", std::to_string(mostEntries)));
    }

    std::vector<std::string> names() const {
        std::vector<std::string> all;
        const zip_int64_t count = zip_get_num_entries(archive_.get(), 0);
        for (zip_int64_t i = 0; i < count; ++i)
            if (const char* name = zip_get_name(archive_.get(), zip_uint64_t(i), 0))
                all.emplace_back(name);
        return all;
    }

    std::vector<std::byte> read(const std::string& name, std::size_t mostBytes) {
        zip_stat_t about;
        if (zip_stat(archive_.get(), name.c_str(), 0, &about) != 0 || !(about.valid & ZIP_STAT_SIZE))
            throw InputError(sentence("it is not a Hasami job: %1 is not in it", name));
        if (about.size > mostBytes || about.size > mostUnpackedBytes - unpacked_)
            throw InputError(translated("it unpacks to more than Hasami opens"));
        unpacked_ += about.size;
        std::vector<std::byte> bytes(about.size);
        zip_file_t* file = zip_fopen(archive_.get(), name.c_str(), 0);
        const zip_int64_t got = file ? zip_fread(file, bytes.data(), bytes.size()) : -1;
        std::byte beyond{};
        // One more read takes the entry to its end, where its checksum is compared.
        const bool whole = got == zip_int64_t(bytes.size()) && zip_fread(file, &beyond, 1) == 0;
        if (file)
            zip_fclose(file);
        if (!whole)
            throw InputError(sentence("it is damaged: %1 can't be read", name));
        return bytes;
    }

private:
    Archive archive_;
    std::size_t unpacked_ = 0;
};

Job unpack(std::span<const std::byte> bytes, const FontSource& fonts) {
    Unpacker in(bytes);
    const auto jsonBytes = in.read("job.json", mostJsonBytes);
    const std::string_view text(reinterpret_cast<const char*>(jsonBytes.data()), jsonBytes.size());
    const auto names = assetNamesFromJson(text);
    Assets assets;
    for (const std::string& entry : in.names()) {
        if (!entry.starts_with(assetFolder) || entry == assetFolder)
            continue;
        const std::string sha256 = entry.substr(assetFolder.size());
        auto assetBytes = in.read(entry, mostUnpackedBytes);
        if (sha256Of(assetBytes) != sha256)
            throw InputError(translated("it is damaged: a picture in it has changed"));
        const auto name = names.find(sha256);
        assets[sha256] = std::make_shared<const Asset>(
            Asset{sha256, name == names.end() ? sha256 : name->second, std::move(assetBytes)});
    }
    return jobFromJson(text, std::move(assets), fonts);
}

} // namespace

void saveJob(const std::filesystem::path& path, const Job& job, std::string_view previewPng) {
    const Job kept = withoutUnusedAssets(job);
    const std::string json = jobToJson(kept);
    requireReadable(path, kept, json, previewPng.size());
    const Source packed = pack(kept, json, previewPng);
    PackedParts parts(packed.get());
    const FileBytes file[] = {{path, {}, Readers::asUsual, [&parts] { return parts.next(); }}};
    writeSafely(file);
}

Job openJob(const std::filesystem::path& path, const FontSource& fonts) {
    const auto bytes = readFile(path, mostFileBytes);
    try {
        return unpack(bytes, fonts);
    } catch (const InputError& error) {
        throw InputError(sentence("%1 can't be opened: %2", fileName(path), error.what()));
    }
}

} // namespace hasami
