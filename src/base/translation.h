#pragma once

#include "base/translation.h"

#include <cstddef>
#include <initializer_list>
#include <string>

/// Marks a text that people see where it can't be translated yet: in tables, and in arguments that name an
/// object as well. xgettext finds it by this name.
#define N_(english) english // NOLINT(cppcoreguidelines-macro-usage): the name that translators' tools know

namespace hasami {

/// Chooses the language of messages from the environment: LANGUAGE, LC_ALL, LC_MESSAGES, LANG, as gettext
/// does, also where the system has not generated that locale. Numbers keep their point. Call it once, before
/// other threads are started and after Qt's application object was made, which sets the locale as well.
/// `catalogues` is the folder that holds <language>/LC_MESSAGES/hasami.mo.
void chooseLanguage(const std::string& catalogues);

/// The folder of the catalogues for a program at `program`: those that are installed with it, else those of
/// its build.
std::string catalogueFolder(const std::string& program);

/// The language of the catalogue in use, as "de"; "en" without one.
std::string languageInUse();

/// A text in the user's language, English where it has no translation.
std::string translated(const char* english);
/// The same by number, which chooses the plural form: "%1 sheet", "%1 sheets".
std::string translated(const char* one, const char* several, std::size_t count);

/// A text with "%1" to "%9" replaced by `values`, each once for all its places.
std::string filled(const std::string& text, std::initializer_list<std::string> values);

/// A sentence in the user's language, with its values in place.
template <typename... Values>
std::string sentence(const char* english, const Values&... values) {
    return filled(translated(english), {std::string(values)...});
}

/// The same by number: "%1" is the number, "%2" and on are `values`.
template <typename... Values>
std::string countedSentence(const char* one, const char* several, std::size_t count,
                            const Values&... values) {
    return filled(translated(one, several, count), {std::to_string(count), std::string(values)...});
}

} // namespace hasami
