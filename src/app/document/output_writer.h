#pragma once

#include "app/document/document.h"

#include <stop_token>

namespace hasami {

/// Writes print and cut files in the background, always of the job as it is when asked, once all of it is
/// made.
class OutputWriter : public QObject {
    Q_OBJECT
public:
    enum class State { idle, working, done, failed };

    explicit OutputWriter(Document& document);
    ~OutputWriter() override;

    State state() const { return state_; }
    const QString& text() const { return text_; } ///< what was written, or why not

    void writePrint(const QString& path, bool withCutLines);
    /// Further sheets go beside the path (sheetPath). The user agreed to replace the files of that many
    /// sheets; where there are more by now, and a file of theirs is there already, nothing is written.
    void writeCut(const QString& path, std::size_t sheetsAskedAbout);
    void stop();

Q_SIGNALS:
    void changed();

private:
    using Make = std::function<QStringList(const Job&, const Made&, const PictureSource&, std::stop_token)>;

    void start(const QString& what, Make make);
    void become(State state, const QString& text);

    Document& document_;
    State state_ = State::idle;
    QString text_;
    std::stop_source stop_;
};

} // namespace hasami
