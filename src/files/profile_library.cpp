#include "files/profile_library.h"

#include "base/error.h"
#include "base/translation.h"
#include "files/file_name.h"
#include "files/profile_file.h"
#include "files/safe_write.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace hasami {

namespace {

/// "Wide roll, left" is in "wide-roll-left.json".
std::string plainFileName(const std::string& name) {
    std::string plain;
    for (const char c : name) {
        const bool isPlain = (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9');
        const bool isCapital = c >= 'A' && c <= 'Z';
        if (isPlain || isCapital)
            plain += isCapital ? char(c - 'A' + 'a') : c;
        else if (!plain.empty() && plain.back() != '-')
            plain += '-';
    }
    while (!plain.empty() && plain.back() == '-')
        plain.pop_back();
    return plain.empty() ? "profile" : plain.substr(0, 60);
}

} // namespace

ProfileLibrary::ProfileLibrary(std::filesystem::path folder) : folder_(std::move(folder)) {
    read();
}

void ProfileLibrary::read() {
    entries_.clear();
    troubles_.clear();
    for (Profile& profile : knownProfiles())
        entries_.push_back({std::move(profile), true});
    const std::size_t coming = entries_.size();
    std::error_code none;
    std::vector<std::filesystem::path> files;
    for (std::filesystem::directory_iterator at(folder_, none), end; !none && at != end; at.increment(none))
        if (at->path().extension() == ".json")
            files.push_back(at->path());
    std::sort(files.begin(), files.end());
    for (const std::filesystem::path& file : files)
        try {
            Profile profile = readProfile(file, &troubles_);
            const auto same = std::ranges::find(entries_, profile.name,
                                                [](const Entry& entry) { return entry.profile.name; });
            if (same == entries_.end())
                entries_.push_back({std::move(profile), false, file});
            else if (!same->isOwn())
                *same = {std::move(profile), true, file};
        } catch (const InputError& error) {
            troubles_.emplace_back(error.what());
        }
    std::sort(entries_.begin() + std::ptrdiff_t(coming), entries_.end(),
              [](const Entry& a, const Entry& b) { return a.profile.name < b.profile.name; });
}

const ProfileLibrary::Entry* ProfileLibrary::find(const std::string& name) const {
    const auto found =
        std::ranges::find(entries_, name, [](const Entry& entry) { return entry.profile.name; });
    return found == entries_.end() ? nullptr : &*found;
}

std::string ProfileLibrary::freeName(const std::string& name) const {
    std::string free = name;
    for (int number = 2; find(free); ++number)
        free = name + " " + std::to_string(number);
    return free;
}

void ProfileLibrary::keep(const Profile& profile, const std::string& before) {
    const Entry* old = find(before);
    std::filesystem::path file = old && old->isOwn() ? old->file : std::filesystem::path();
    std::error_code failed;
    std::filesystem::create_directories(folder_, failed);
    if (failed)
        throw OutputError(sentence("The folder %1 can't be made: %2", folder_.string(), failed.message()));
    if (file.empty() || before != profile.name) {
        const std::string plain = plainFileName(profile.name);
        std::filesystem::path fresh = folder_ / (plain + ".json");
        for (int number = 2; std::filesystem::exists(fresh, failed); ++number)
            fresh = folder_ / (plain + "-" + std::to_string(number) + ".json");
        writeSafely(fresh, profileText(profile));
        if (!file.empty())
            std::filesystem::remove(file, failed);
    } else {
        writeSafely(file, profileText(profile));
    }
    read();
}

void ProfileLibrary::forget(const std::string& name) {
    const Entry* entry = find(name);
    if (!entry || !entry->isOwn())
        return;
    std::error_code failed;
    std::filesystem::remove(entry->file, failed);
    if (failed)
        throw OutputError(sentence("%1 can't be removed: %2", fileName(entry->file), failed.message()));
    read();
}

} // namespace hasami
