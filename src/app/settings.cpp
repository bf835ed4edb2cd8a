#include "app/settings.h"

#include <QDir>
#include <QFileInfo>
#include <QSettings>

namespace hasami {

namespace {

constexpr qsizetype mostRecent = 8;

QString file() {
    const QString base = qEnvironmentVariable("XDG_CONFIG_HOME", QDir::homePath() + "/.config");
    return base + "/hasami/hasami.ini";
}

QStringList allRecent() {
    return QSettings(file(), QSettings::IniFormat).value("recentJobs").toStringList();
}

} // namespace

QStringList Settings::recentJobs() {
    QStringList there;
    for (const QString& path : allRecent())
        if (QFileInfo::exists(path))
            there << path;
    return there;
}

void Settings::rememberJob(const QString& path) {
    QStringList all = allRecent();
    const QString absolute = QFileInfo(path).absoluteFilePath();
    all.removeAll(absolute);
    all.prepend(absolute);
    QSettings(file(), QSettings::IniFormat).setValue("recentJobs", all.mid(0, mostRecent));
}

Appearance Settings::appearance(Appearance ofSystem) {
    const QString chosen = QSettings(file(), QSettings::IniFormat).value("appearance").toString();
    return chosen == "dark" ? Appearance::dark : chosen == "light" ? Appearance::light : ofSystem;
}

void Settings::setAppearance(Appearance appearance) {
    QSettings(file(), QSettings::IniFormat)
        .setValue("appearance", appearance == Appearance::dark ? "dark" : "light");
}

} // namespace hasami
