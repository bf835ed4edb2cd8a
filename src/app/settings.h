#pragma once

#include "app/theme.h"

#include <QStringList>

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
};

} // namespace hasami
