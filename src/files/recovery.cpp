#include "files/recovery.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/read_file.h"
#include "files/safe_write.h"
#include "job/job_json.h"

#include <QDir>

#include <cstdlib>

namespace hasami {

namespace {

constexpr std::size_t mostKeptBytes = std::size_t{64} << 20;
constexpr std::size_t mostAssetBytes = std::size_t{512} << 20;

std::string_view textOf(const std::vector<std::byte>& bytes) {
    return {reinterpret_cast<const char*>(bytes.data()), bytes.size()};
}

} // namespace

std::filesystem::path recoveryPlace() {
    const char* state = std::getenv("XDG_STATE_HOME");
    const std::filesystem::path base =
        state && *state ? std::filesystem::path(state)
                        : std::filesystem::path(QDir::homePath().toStdString()) / ".local" / "state";
    return base / "hasami" / "recovery";
}

void makePrivateFolder(const std::filesystem::path& folder) {
    std::error_code failure;
    std::filesystem::create_directories(folder, failure);
    if (!failure) // also of one that an older version made
        std::filesystem::permissions(folder, std::filesystem::perms::owner_all, failure);
    if (failure)
        throw OutputError(sentence("%1 can't be made: %2", folder.string(), failure.message()));
}

namespace {

/// In the folder, from the pool where there is one and the file system can link.
void keepAsset(const std::filesystem::path& file, const Asset& asset, const std::filesystem::path& pool) {
    std::error_code failure;
    if (std::filesystem::exists(file, failure))
        return;
    const std::string_view bytes = textOf(asset.bytes);
    if (pool.empty())
        return writeSafely(file, bytes, Readers::owner);
    const std::filesystem::path shared = pool / file.filename();
    if (!std::filesystem::exists(shared, failure))
        writeSafely(shared, bytes, Readers::owner);
    std::filesystem::create_hard_link(shared, file, failure);
    if (failure)
        writeSafely(file, bytes, Readers::owner);
}

void dropUnusedAssets(const std::filesystem::path& folder, const Job& job) {
    std::vector<std::filesystem::path> unused;
    std::error_code failure;
    for (std::filesystem::directory_iterator at(folder, failure), end; !failure && at != end;
         at.increment(failure))
        if (!job.assets->contains(at->path().filename().string()))
            unused.push_back(at->path());
    for (const std::filesystem::path& file : unused)
        std::filesystem::remove(file, failure);
}

} // namespace

void keepForRecovery(const std::filesystem::path& folder, const Job& given, const std::string& jobPath,
                     const std::filesystem::path& pool) {
    const Job job = withoutUnusedAssets(given);
    makePrivateFolder(folder);
    makePrivateFolder(folder / "assets");
    if (!pool.empty())
        makePrivateFolder(pool);
    for (const auto& [sha256, asset] : *job.assets)
        keepAsset(folder / "assets" / sha256, *asset, pool);
    const std::string json = jobToJson(job);
    if (json.size() > mostKeptBytes)
        throw OutputError(translated("the job is larger than what can be read again"));
    writeSafely(folder / "path", jobPath, Readers::owner);
    writeSafely(folder / "job.json", json, Readers::owner); // it stands for a whole copy
    dropUnusedAssets(folder / "assets", job);               // last: the copy before needed them
}

void tidyPool(const std::filesystem::path& pool) {
    std::error_code failure;
    std::vector<std::filesystem::path> unused;
    for (std::filesystem::directory_iterator at(pool, failure), end; !failure && at != end;
         at.increment(failure))
        if (at->hard_link_count(failure) == 1)
            unused.push_back(at->path());
    for (const std::filesystem::path& file : unused)
        std::filesystem::remove(file, failure);
}

Recovered readRecovery(const std::filesystem::path& folder, const FontSource& fonts) {
    const auto json = readFile(folder / "job.json", mostKeptBytes);
    Assets assets;
    for (const auto& [sha256, name] : assetNamesFromJson(textOf(json))) {
        auto bytes = readFile(folder / "assets" / sha256, mostAssetBytes);
        if (sha256Of(bytes) != sha256)
            throw InputError(translated("the recovery copy is damaged: a picture in it has changed"));
        assets[sha256] = std::make_shared<const Asset>(Asset{sha256, name, std::move(bytes)});
    }
    const auto path = readFile(folder / "path", std::size_t{1} << 16);
    return {jobFromJson(textOf(json), std::move(assets), fonts), std::string(textOf(path))};
}

} // namespace hasami
