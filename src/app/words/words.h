#pragma once

#include "base/translation.h"

#include <QString>
#include <QStringList>
#include <QTranslator>

#include <initializer_list>

namespace hasami {

/// A text of the window in the user's language. Within a QObject its own tr() takes this place: Translator
/// answers both from the same catalogue.
QString tr(const char* english);

/// A text by number, which chooses the plural form; "%1" is the number: "%1 sticker", "%1 stickers".
QString counted(std::size_t count, const char* one, const char* several);

/// Several texts, marked by N_().
QStringList translatedList(std::initializer_list<const char*> english);

/// Lets Qt's tr() find its texts where the core finds its own.
class Translator : public QTranslator {
    Q_OBJECT
public:
    using QTranslator::QTranslator;
    QString translate(const char* context, const char* english, const char* remark, int count) const override;
    bool isEmpty() const override { return false; }
};

/// Chooses the language of the window, also of what Qt itself says. Call it once, after the application
/// object was made.
void useSystemLanguage();

} // namespace hasami
