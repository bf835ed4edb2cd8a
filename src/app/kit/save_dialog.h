#pragma once

#include <QList>
#include <QString>

class QWidget;

namespace hasami {

struct FileFormat {
    QString name, ending; ///< "Print file", ".pdf"
};

/// Asks whether files that are there already, by their names, may be replaced.
bool mayReplace(QWidget* parent, const QStringList& there);

/// Asks where to write a file, of several formats in which. A name typed without the ending of one of them
/// gets that of the format chosen; then, where there is such a file already, whether to replace it.
/// `suggested`: a path without an ending. The path with its ending; empty if it was cancelled.
QString askWhereToSave(QWidget* parent, const QString& title, const QString& suggested,
                       const QList<FileFormat>& formats);

} // namespace hasami
