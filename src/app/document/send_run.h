#pragma once

#include "app/document/document.h"
#include "workshop/route_sheet.h"

#include <memory>
#include <stop_token>

namespace hasami {

struct SentSoFar;

/// Sends a sheet's cut lines to the machine of the job's profile, in the background.
class SendRun : public QObject {
    Q_OBJECT
public:
    enum class State { idle, sending, paused, done, failed };

    explicit SendRun(Document& document, QObject* parent = nullptr);
    ~SendRun() override;

    State state() const { return state_; }
    bool isOn() const { return state_ == State::sending || state_ == State::paused; }
    bool isStopping() const { return stop_.stop_requested(); }
    double share() const;                         ///< of what is sent, 0 to 1
    const QString& text() const { return text_; } ///< how far it is, what was sent, or why not

    /// The job as it is now, once it is made. Nothing if a run is on.
    void start(std::size_t sheet, const LineKinds& kinds);
    /// Nothing is sent from the end of the line under way on, or sending goes on.
    void setPaused(bool isPaused);
    /// The knife is lifted.
    void stop();

Q_SIGNALS:
    void changed();

private:
    void begin(const std::shared_ptr<const Made>& made, std::size_t sheet, const LineKinds& kinds);
    QString progress() const;
    void become(State state, const QString& text);

    Document& document_;
    State state_ = State::idle;
    QString text_, target_;
    std::shared_ptr<SentSoFar> sent_;
    std::stop_source stop_;
};

} // namespace hasami
