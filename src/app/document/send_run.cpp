#include "app/document/send_run.h"

#include "app/document/sent_so_far.h"
#include "app/words/words.h"
#include "base/error.h"
#include "files/output_names.h"

#include <QPointer>

namespace hasami {

SendRun::SendRun(Document& document, QObject* parent) : QObject(parent), document_(document) {}

SendRun::~SendRun() {
    stop_.request_stop();
}

void SendRun::become(State state, const QString& text) {
    state_ = state;
    text_ = text;
    Q_EMIT changed();
}

double SendRun::share() const {
    return sent_ ? double(sent_->share) : 0;
}

QString SendRun::progress() const {
    const int percent = int(share() * 100);
    return state_ == State::paused ? tr("Paused at %1 %: the machine ends what it has, knife up").arg(percent)
                                   : tr("%1 % sent to %2").arg(percent).arg(target_);
}

void SendRun::start(std::size_t sheet, const LineKinds& kinds) {
    if (isOn())
        return;
    stop_ = {};
    sent_ = std::make_shared<SentSoFar>();
    become(State::sending, tr("Preparing the cut…"));
    document_.whenMade(
        [this, sheet, kinds, number = document_.jobNumber()](const std::shared_ptr<const Made>& made) {
            if (number != document_.jobNumber() || stop_.stop_requested())
                return become(State::idle, tr("Stopped: nothing was sent"));
            if (sheet >= made->layout.sheets.size())
                return become(State::failed, tr("There is nothing on the sheet to cut"));
            begin(made, sheet, kinds);
        });
}

void SendRun::begin(const std::shared_ptr<const Made>& made, std::size_t sheet, const LineKinds& kinds) {
    const auto job = document_.namedJob();
    SendTarget target;
    try {
        target = SendTarget::parse(job->profile.cutter.connection);
    } catch (const InputError& error) {
        return become(State::failed, QString::fromUtf8(error.what()));
    }
    target_ = QString::fromStdString(target.name());
    const auto show = [context = QPointer<SendRun>(this), soFar = sent_] {
        if (context && context->isOn() && context->sent_ == soFar)
            context->become(context->state_, context->progress());
    };
    const auto send = [job, made, sheet, kinds, target, show, soFar = sent_](const std::stop_token& stop) {
        const std::string hpgl = cutHpgl(*job, *made, sheet, kinds);
        throwIfStopped(stop);
        sendTo(target, cutNameOf(*job, sheet, made->layout.sheets.size()), hpgl,
               followed(soFar, hpgl.size(), show), stop, &soFar->isPaused);
        return true;
    };
    stop_ = runInBackground(
        document_.background().sending, this, tr("The cut can't be sent"), send,
        [this](const Outcome<bool>& sent) {
            if (sent.value) {
                become(State::done, tr("Sent to %1: it cuts what it has").arg(target_));
            } else if (sent.isStopped()) {
                become(State::idle,
                       tr("Stopped: %1 has a part of the sheet, its knife was lifted").arg(target_));
            } else {
                become(State::failed, QString::fromStdString(sent.failure));
            }
        });
}

void SendRun::setPaused(bool isPaused) {
    if (!isOn())
        return;
    sent_->isPaused = isPaused;
    state_ = isPaused ? State::paused : State::sending;
    become(state_, progress());
}

void SendRun::stop() {
    stop_.request_stop();
}

} // namespace hasami
