#include "app/words/words.h"

#include <QCoreApplication>
#include <QLibraryInfo>

namespace hasami {

QString tr(const char* english) {
    return QString::fromStdString(translated(english));
}

QString counted(std::size_t count, const char* one, const char* several) {
    return QString::fromStdString(countedSentence(one, several, count));
}

QStringList translatedList(std::initializer_list<const char*> english) {
    QStringList all;
    for (const char* text : english)
        all << tr(text);
    return all;
}

QString Translator::translate(const char*, const char* english, const char*, int) const {
    const QString text = hasami::tr(english);
    return text == QString::fromUtf8(english) ? QString() : text; // Qt's own catalogue may know it
}

void useSystemLanguage() {
    chooseLanguage(catalogueFolder(QCoreApplication::applicationFilePath().toStdString()));
    auto* qt = new QTranslator(QCoreApplication::instance());
    if (qt->load("qtbase_" + QString::fromStdString(languageInUse()),
                 QLibraryInfo::path(QLibraryInfo::TranslationsPath)))
        QCoreApplication::installTranslator(qt);
    QCoreApplication::installTranslator(new Translator(QCoreApplication::instance()));
}

} // namespace hasami
