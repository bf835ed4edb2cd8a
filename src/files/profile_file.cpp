#include "files/profile_file.h"

#include "base/error.h"
#include "base/json_reader.h"
#include "base/translation.h"
#include "files/file_name.h"
#include "files/read_file.h"
#include "profile/unknown_fields.h"

namespace hasami {

Profile readProfile(const std::filesystem::path& path, std::vector<std::string>* remarks) {
    constexpr std::size_t mostBytes = std::size_t{1} << 20;
    const std::vector<std::byte> bytes = readFile(path, mostBytes);
    try {
        nlohmann::json json = parseJson({reinterpret_cast<const char*>(bytes.data()), bytes.size()});
        const JsonReader in(json, "profile");
        if (in.has("format") && in.at("format").wholeNumber(1, 1'000'000) > profileFormat)
            throw InputError(translated("it is of a newer version of Hasami"));
        json.erase("format");
        Profile profile = profileFromJson({json, "profile"});
        if (remarks)
            for (const std::string& field : unknownFields(json))
                remarks->push_back(
                    sentence("%1: \"%2\" is no field of a profile, and is ignored", fileName(path), field));
        return profile;
    } catch (const InputError& error) {
        throw InputError(sentence("%1 is not a machine profile: %2", fileName(path), error.what()));
    }
}

std::string profileText(const Profile& profile) {
    nlohmann::json json = toJson(profile);
    json["format"] = profileFormat;
    return json.dump(2) + "\n";
}

} // namespace hasami
