#include "files/reader_process.h"

#include "artwork/refusal_text.h"
#include "artwork/shared_picture.h"
#include "base/error.h"
#include "files/file_name.h"
#include "files/read_file.h"

#include <QDeadlineTimer>
#include <QProcess>

#include <algorithm>
#include <chrono>
#include <fcntl.h>
#include <filesystem>
#include <functional>
#include <new>
#include <span>
#include <sys/mman.h>
#include <unistd.h>

namespace hasami {

namespace {

/// Beside the program, where it is installed, or in the build's tree.
QString readerPath() {
    std::error_code unreadable;
    const std::filesystem::path here =
        std::filesystem::read_symlink("/proc/self/exe", unreadable).parent_path();
    for (const char* place : {"hasami-reader", "../libexec/hasami/hasami-reader", "../hasami-reader",
                              "../src/hasami-reader", "../../src/hasami-reader"})
        if (std::filesystem::is_regular_file(here / place, unreadable))
            return toQString(here / place);
    return {};
}

QProcessEnvironment environment(const QString& temporary) {
    QProcessEnvironment kept;
    const QProcessEnvironment own = QProcessEnvironment::systemEnvironment();
    for (const char* name : {"PATH", "HOME", "XDG_CACHE_HOME", "FONTCONFIG_FILE", "FONTCONFIG_PATH"})
        if (own.contains(name))
            kept.insert(name, own.value(name));
    kept.insert("LC_ALL", "C.UTF-8");
    kept.insert("G_DEBUG", "");
    if (!temporary.isEmpty())
        kept.insert("TMPDIR", temporary);
    return kept;
}

/// Waits for a process to end, and ends it at once when a stop is requested. False if it takes too long.
bool waitFor(QProcess& process, int seconds, const std::stop_token& stop) {
    constexpr int lookEvery = 10; // ms
    const QDeadlineTimer end(std::chrono::seconds{seconds});
    while (!process.waitForFinished(lookEvery) && process.state() != QProcess::NotRunning) {
        if (!end.hasExpired() && !stop.stop_requested())
            continue;
        process.kill();
        process.waitForFinished(1000);
        throwIfStopped(stop);
        return false;
    }
    return true;
}

/// `inChild` is called in the new process, before it becomes the reader.
QByteArray answerOf(const Asset& asset, const QStringList& question, const QByteArray& input, int seconds,
                    const std::stop_token& stop, const QString& temporary = {},
                    const std::function<void()>& inChild = {}) {
    const QString reader = readerPath();
    if (reader.isEmpty())
        refuse(asset, "%1 can't be read: the program hasami-reader is missing beside Hasami");
    QProcess process;
    process.setProcessEnvironment(environment(temporary));
    if (inChild)
        process.setChildProcessModifier(inChild);
    process.start(reader, question);
    if (!process.waitForStarted(10'000))
        refuse(asset, "%1 can't be read: hasami-reader can't be started");
    process.write(input);
    process.closeWriteChannel();
    if (!waitFor(process, seconds, stop))
        refuse(asset, "%1 takes longer than %2 seconds to read: make it simpler, or export it again",
               std::to_string(seconds));
    if (process.exitStatus() != QProcess::NormalExit)
        refuse(asset, "%1 is too damaged or too large to be read");
    if (process.exitCode() != 0) {
        const QStringList why =
            QString::fromUtf8(process.readAllStandardError().trimmed()).split(refusalSeparator);
        if (why.front().isEmpty() || process.exitCode() != 3)
            refuse(asset, "%1 is too damaged to be read");
        refuse(asset, why.front().toStdString().c_str(), why.value(1).toStdString(),
               why.value(2).toStdString());
    }
    return process.readAllStandardOutput();
}

/// Memory that another process can be given.
class SharedMemory {
public:
    SharedMemory() : handle_(memfd_create("hasami-picture", MFD_CLOEXEC)) {
        if (handle_ < 0)
            throw std::bad_alloc();
    }
    ~SharedMemory() { ::close(handle_); }
    SharedMemory(const SharedMemory&) = delete;
    SharedMemory& operator=(const SharedMemory&) = delete;

    /// For the new process: it sees the memory as that descriptor.
    void giveAs(int descriptor) const {
        if (handle_ == descriptor)
            fcntl(handle_, F_SETFD, 0);
        else
            dup2(handle_, descriptor);
    }

    /// The next bytes of what the other process, which has ended, left there; they are freed there. False
    /// where there are less.
    bool take(std::span<std::byte> to) {
        constexpr std::size_t most = 16 << 20; // at once
        while (!to.empty()) {
            const ssize_t count = pread(handle_, to.data(), std::min(to.size(), most), at_);
            if (count <= 0)
                return false;
            fallocate(handle_, FALLOC_FL_PUNCH_HOLE | FALLOC_FL_KEEP_SIZE, at_, count);
            at_ += count;
            to = to.subspan(std::size_t(count));
        }
        return true;
    }

private:
    int handle_;
    off_t at_ = 0;
};

} // namespace

QByteArray askReader(const Asset& asset, const QStringList& question, const QByteArray& input,
                     const std::stop_token& stop, int seconds, const QString& temporary) {
    return answerOf(asset, question, input, seconds, stop, temporary);
}

Picture askReaderForPicture(const Asset& asset, const char* kind, int page, const QByteArray& bytes,
                            const std::stop_token& stop) {
    constexpr int seconds = 60, sharedDescriptor = 3; // as src/reader/picture_answer.h
    SharedMemory memory;
    answerOf(asset, {"picture", kind, QString::number(page)}, bytes, seconds, stop, {},
             [&memory] { memory.giveAs(sharedDescriptor); });
    return takeShared(asset.name, [&memory](std::span<std::byte> to) { return memory.take(to); });
}

} // namespace hasami
