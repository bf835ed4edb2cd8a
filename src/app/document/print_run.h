#pragma once

#include "app/document/document.h"
#include "files/print_scale.h"
#include "files/printer.h"

#include <stop_token>

namespace hasami {

/// Prints the job's sheets on a printer, in the background.
class PrintRun : public QObject {
    Q_OBJECT
public:
    enum class State { idle, printing, done, failed };

    explicit PrintRun(Document& document, QObject* parent = nullptr);
    ~PrintRun() override;

    State state() const { return state_; }
    bool isOn() const { return state_ == State::printing; }
    bool isStopping() const { return stop_.stop_requested(); }
    const QString& text() const { return text_; } ///< how far it is, what was printed, or why not

    struct Wish {
        QString printer;   ///< a queue, or an address
        QString mediaType; ///< one of the printer's; empty: as it is set
        int copies = 1;
        bool withCutLines = true;
        bool inTiles = false; ///< sheets that are larger than every medium
    };
    /// The job as it is now, once it is made. Nothing if a run is on.
    void start(const Wish& wish);
    /// A page that shows the printer's scale, which is not compensated for.
    void start(const ScaleTest& test, const QString& printer);
    /// What is not printed yet is cancelled.
    void stop();

Q_SIGNALS:
    void changed();

private:
    void become(State state, const QString& text);
    using MakeRequest = std::function<PrintRequest(const std::stop_token&)>;
    void begin(const QString& printer, std::size_t pages, const MakeRequest& make);

    Document& document_;
    State state_ = State::idle;
    QString text_;
    std::stop_source stop_;
};

} // namespace hasami
