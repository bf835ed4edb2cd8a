#pragma once

#include "artwork/artwork.h"

#include <QByteArray>
#include <QStringList>

#include <stop_token>

namespace hasami {

/// What Ghostscript, which hasami-reader confines and which may read nothing but the file, makes of it on
/// some device. Throws InputError with a sentence that names the asset: it can't be read, takes longer than
/// `seconds`, or Ghostscript is not installed; and Stopped.
QByteArray fromGhostscript(const Asset& asset, const QByteArray& bytes, const QStringList& device,
                           const std::stop_token& stop, int seconds = 30);

} // namespace hasami
