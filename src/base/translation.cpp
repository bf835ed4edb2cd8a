#include "base/translation.h"

#include <clocale>
#include <cstdlib>
#include <filesystem>
#include <libintl.h>
#include <string_view>

namespace hasami {

namespace {

constexpr const char* domain = "hasami";

/// What the environment asks for, or "" for English.
std::string wantedLocale() {
    for (const char* name : {"LC_ALL", "LC_MESSAGES", "LANG"})
        if (const char* value = std::getenv(name); value && *value) // NOLINT(concurrency-mt-unsafe)
            return value;
    return {};
}

bool isEnglish(std::string_view locale) {
    return locale.empty() || locale == "C" || locale == "POSIX";
}

} // namespace

void chooseLanguage(const std::string& catalogues) {
    const char* chosen = std::setlocale(LC_MESSAGES, "");
    if (!chosen || isEnglish(chosen)) {
        // gettext translates in any locale but "C", into what LANGUAGE names.
        if (const std::string wanted = wantedLocale(); !isEnglish(wanted))
            setenv("LANGUAGE", wanted.c_str(), 0);
        std::setlocale(LC_MESSAGES, "C.UTF-8");
    }
    std::setlocale(LC_NUMERIC, "C");
    bindtextdomain(domain, catalogues.c_str());
    bind_textdomain_codeset(domain, "UTF-8");
}

std::string catalogueFolder(const std::string& program) {
    const auto here = std::filesystem::path(program).parent_path();
    std::error_code unreadable;
    for (const char* place : {"../share/locale", "../po", "../../po", "../../../po"})
        if (std::filesystem::is_regular_file(here / place / "de/LC_MESSAGES/hasami.mo", unreadable))
            return (here / place).lexically_normal().string();
    return {};
}

std::string languageInUse() {
    const std::string header = dgettext(domain, ""), field = "Language: ";
    const auto begin = header.find(field);
    if (begin == std::string::npos)
        return "en";
    const auto from = begin + field.size();
    return header.substr(from, header.find('\n', from) - from);
}

std::string translated(const char* english) {
    return *english ? dgettext(domain, english) : "";
}

std::string translated(const char* one, const char* several, std::size_t count) {
    return dngettext(domain, one, several, count);
}

std::string filled(const std::string& text, std::initializer_list<std::string> values) {
    std::string result;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const std::size_t place = text[i] == '%' && i + 1 < text.size() ? std::size_t(text[i + 1] - '1') : 9;
        if (place < values.size()) {
            result += values.begin()[place];
            ++i;
        } else {
            result += text[i];
        }
    }
    return result;
}

} // namespace hasami
