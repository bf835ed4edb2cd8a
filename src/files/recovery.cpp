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

void keepForRecovery(const std::filesystem::path& folder, const Job& given, const std::string& jobPath) {
    const Job job = withoutUnusedAssets(given);
    std::error_code failure;
    std::filesystem::create_directories(folder / "assets", failure);
    if (failure)
        throw OutputError(sentence("the recovery copy can't be written: %1", failure.message()));
    for (const auto& [sha256, asset] : *job.assets)
        if (!std::filesystem::exists(folder / "assets" / sha256))
            writeSafely(folder / "assets" / sha256,
                        {reinterpret_cast<const char*>(asset->bytes.data()), asset->bytes.size()});
    const std::string json = jobToJson(job);
    if (json.size() > mostKeptBytes)
        throw OutputError(translated("the job is larger than what can be read again"));
    writeSafely(folder / "path", jobPath);
    writeSafely(folder / "job.json", json); // last: it stands for a whole copy
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
