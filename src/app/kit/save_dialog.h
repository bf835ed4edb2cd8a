#pragma once

#include <QList>
#include <QString>

#include <cstddef>

class QWidget;

namespace hasami {

struct FileFormat {
    QString name, ending; ///< "Print file", ".pdf"
};

/// Asks where to write a file, of several formats in which. A name typed without the ending of one of them
/// gets that of the format chosen; then, where such files are there already, whether to replace them.
/// `suggested`: a path without an ending. `sheets`: how many files are written, the second and later ones
/// beside the first (sheetPath). The path with its ending; empty if it was cancelled.
QString askWhereToSave(QWidget* parent, const QString& title, const QString& suggested,
                       const QList<FileFormat>& formats, std::size_t sheets = 1);

} // namespace hasami
