#pragma once

#include "app/document/document.h"
#include "files/print_look.h"

#include <QDateTime>

#include <filesystem>
#include <set>
#include <stop_token>
#include <vector>

namespace hasami {

/// Writes the outputs that the job plans, in the background, always of the job as it is when asked, once all
/// of it is made.
class OutputWriter : public QObject {
    Q_OBJECT
public:
    enum class State { idle, working, done, failed };

    explicit OutputWriter(Document& document);
    ~OutputWriter() override;

    State state() const { return state_; }
    const QString& text() const { return text_; } ///< what was written, or why not

    /// Where files go: the folder chosen, or the job's file's. Empty where there is none yet.
    QString folder() const;

    /// Writes some of the outputs, by their places in the plan, or nothing where one fails. Files that this
    /// did not write itself are replaced once the user agreed. REQUIRES: there is a folder.
    void write(const std::vector<std::size_t>& places);
    void writeAll();
    void stop();

    /// What a print file was found to hold when it was read again.
    struct Look {
        PrintLook found;         ///< of all its files
        QStringList differences; ///< from what the job asks for, in sentences; or why it can't be read
        bool isDone = false;     ///< else it is being read
    };

    /// What became of an output when it was last written as it is planned now.
    struct Written {
        PlannedOutput output;
        OutputPlan plan;
        QStringList paths;
        qint64 bytes = 0;
        QDateTime at;
        std::shared_ptr<const Job> job;
        std::optional<Look> look = {}; ///< of PDF and EPS files
        std::stop_source looking = {}; ///< until then
    };
    const Written* lastOf(const PlannedOutput& output) const;
    bool isOutOfDate(const Written& written) const;

    /// Files that were written as they are planned now, of an older state of the job.
    QStringList outOfDate() const;

    /// Where print files of the job as it is were found to differ from what it asks for.
    QStringList differences() const;

    /// Asks whether to write although the job has errors, given as sentences: once for the same ones. Without
    /// it nothing is asked.
    std::function<bool(const QStringList& errors)> mayWriteWithErrors;

    /// Asks whether the files of these names may be replaced. Without it nothing is asked.
    std::function<bool(const QStringList& names)> mayReplace;

Q_SIGNALS:
    void changed();

private:
    struct Task;
    void begin(const Task& task);
    void lookAt(const Task& task, std::size_t i);
    Written* writtenOf(const PlannedOutput& output);
    void forget(const PlannedOutput& output);
    bool mayWrite(const Task& task);
    bool agreesToErrors(const Task& task);
    void become(State state, const QString& text);

    Document& document_;
    State state_ = State::idle;
    QString text_;
    std::vector<Written> written_; ///< of the job that has that number
    std::set<std::filesystem::path> ours_;
    std::uint64_t number_ = 0;
    std::stop_source stop_;
    QStringList agreedErrors_;
};

} // namespace hasami
