#pragma once

#include "app/kit/theme.h"

#include <QStringList>

#include <optional>

class QScreen;

namespace hasami {

/// What the program remembers between runs, in $XDG_CONFIG_HOME/hasami/hasami.ini. Read and written at once,
/// so that two running programs see each other's.
class Settings {
public:
    /// Paths of jobs opened or saved, the newest first, at most eight; only those that are still there.
    static QStringList recentJobs();
    static void rememberJob(const QString& path);

    /// What was chosen, or how the system looks.
    static Appearance appearance(Appearance ofSystem);
    static void setAppearance(Appearance appearance);

    /// How many of the screen's (logical) pixels a millimetre takes on its glass: measured by the user, or
    /// what the screen reports of itself, or 96 an inch where it reports nothing.
    static double screenScale(const QScreen& screen);
    static double screenScaleTold(const QScreen& screen);
    /// Nothing: goes back to what the screen reports.
    static void setScreenScale(const QScreen& screen, std::optional<double> pixelsPerMillimetre);
};

} // namespace hasami
