#include "app/kit/settings.h"

#include <QDir>
#include <QFileInfo>
#include <QScreen>
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

/// A screen, and how it is set: with other pixels or another zoom of the desktop it needs another measure.
QString keyOf(const QScreen& screen) {
    const QString name =
        QStringList{screen.manufacturer(), screen.model(), screen.serialNumber(), screen.name()}
            .join(' ')
            .simplified();
    const QSize size = screen.geometry().size();
    return QString("screens/%1 %2x%3")
        .arg(QString(name).replace('/', ' '))
        .arg(size.width())
        .arg(size.height());
}

bool isSensible(double pixelsPerMillimetre) {
    return pixelsPerMillimetre >= 0.5 && pixelsPerMillimetre <= 50;
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

double Settings::screenScale(const QScreen& screen) {
    const double measured = QSettings(file(), QSettings::IniFormat).value(keyOf(screen)).toDouble();
    return isSensible(measured) ? measured : screenScaleTold(screen);
}

double Settings::screenScaleTold(const QScreen& screen) {
    constexpr double usual = 96 / 25.4;
    const double width = screen.physicalSize().width();
    const double told = width > 0 ? screen.geometry().width() / width : usual;
    return isSensible(told) ? told : usual;
}

void Settings::setScreenScale(const QScreen& screen, std::optional<double> pixelsPerMillimetre) {
    QSettings settings(file(), QSettings::IniFormat);
    if (pixelsPerMillimetre)
        settings.setValue(keyOf(screen), *pixelsPerMillimetre);
    else
        settings.remove(keyOf(screen));
}

void Settings::setAppearance(Appearance appearance) {
    QSettings(file(), QSettings::IniFormat)
        .setValue("appearance", appearance == Appearance::dark ? "dark" : "light");
}

} // namespace hasami
