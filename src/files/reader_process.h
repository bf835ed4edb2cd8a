#pragma once

#include "artwork/artwork.h"
#include "artwork/picture.h"

#include <QByteArray>
#include <QStringList>

#include <stop_token>

namespace hasami {

/// Runs hasami-reader, a confined process (src/reader/confinement.h) that reads a stranger's file, with the
/// question as its arguments and `input` as its standard input, and gives what it wrote to its standard
/// output. Throws InputError with a sentence that names the asset: it can't be read, takes longer than
/// `seconds`, or the program is missing; and Stopped: the process is then ended at once. `temporary`: the
/// folder for its temporary files (TMPDIR); none: it has no such folder.
QByteArray askReader(const Asset& asset, const QStringList& question, const QByteArray& input,
                     const std::stop_token& stop, int seconds = 60, const QString& temporary = {});

/// The page of a picture of that kind ("tiff", "webp" or "gif"), decoded by hasami-reader into memory that
/// both share. `bytes`: the file. Throws as askReader.
Picture askReaderForPicture(const Asset& asset, const char* kind, int page, const QByteArray& bytes,
                            const std::stop_token& stop);

} // namespace hasami
