#pragma once

#include "profile/profile.h"

#include <filesystem>
#include <string>
#include <vector>

namespace hasami {

/// The machine profiles that come with the program, and the user's own, one JSON file each in a folder. An
/// own one stands in place of one that comes with the program and has its name.
class ProfileLibrary {
public:
    /// Reads the folder, which may be missing until something is kept. Files that can't be read are left
    /// alone.
    explicit ProfileLibrary(std::filesystem::path folder);

    struct Entry {
        Profile profile;
        bool comes = false;              ///< with the program, be it changed or not
        std::filesystem::path file = {}; ///< of an own one; none: as it comes with the program
        bool isOwn() const { return !file.empty(); }
    };
    /// Those that come with the program in their order, then the others by their names.
    const std::vector<Entry>& entries() const { return entries_; }
    const Entry* find(const std::string& name) const;
    /// Sentences on files in the folder that are no profiles.
    const std::vector<std::string>& troubles() const { return troubles_; }

    /// A name that no profile has yet: the name, or it with the next number.
    std::string freeName(const std::string& name) const;

    /// Keeps a profile under its name, in place of the one that was called `before`. Throws OutputError; all
    /// is as before then. REQUIRES: no other profile has its name.
    void keep(const Profile& profile, const std::string& before);
    /// Takes an own one out; what came with the program is back then. Throws OutputError.
    void forget(const std::string& name);

private:
    void read();

    std::filesystem::path folder_;
    std::vector<Entry> entries_;
    std::vector<std::string> troubles_;
};

} // namespace hasami
