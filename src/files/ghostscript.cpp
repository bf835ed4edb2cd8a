#include "files/ghostscript.h"

#include "files/read_file.h"
#include "files/reader_process.h"

#include <QFile>
#include <QStandardPaths>
#include <QTemporaryDir>

namespace hasami {

QByteArray fromGhostscript(const Asset& asset, const QByteArray& bytes, const QStringList& device,
                           const std::stop_token& stop, int seconds) {
    const QString ghostscript = QStandardPaths::findExecutable("gs");
    if (ghostscript.isEmpty())
        refuse(asset, "%1 can't be read: Ghostscript is not installed");
    // -dSAFER leaves the folder of temporary files open to a stranger's program, to delete and to overwrite
    // in: it gets one of its own, which is empty, and not /tmp.
    const QTemporaryDir folder, temporary;
    QFile in(folder.filePath("in")), out(folder.filePath("out"));
    if (!in.open(QIODevice::WriteOnly) || in.write(bytes) != bytes.size() || !in.flush())
        refuse(asset, "%1 can't be read: %2", in.errorString().toStdString());
    in.close();
    askReader(asset,
              QStringList{"confined", ghostscript, "-q", "-dSAFER", "-dBATCH", "-dNOPAUSE"} + device +
                  QStringList{"-sOutputFile=" + out.fileName(), in.fileName()},
              {}, stop, seconds, temporary.path());
    return out.open(QIODevice::ReadOnly) ? out.readAll() : QByteArray();
}

} // namespace hasami
