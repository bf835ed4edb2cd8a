#pragma once

#include "app/document/document.h"
#include "machine/bed_program.h"

#include <atomic>
#include <memory>
#include <stop_token>

namespace hasami {

/// Cuts a sheet on the machine of the job's profile: the head is put over up to four marks by hand, which
/// says how the print lies, and the program is sent tool by tool. Or without marks, from the origin that is
/// set at the machine.
class MachineRun : public QObject {
    Q_OBJECT
public:
    enum class State {
        marks,   ///< the head is put over one after the other
        ready,   ///< to send what the next tool cuts
        sending, ///< or paused
        done,
    };

    explicit MachineRun(Document& document, QObject* parent = nullptr);
    ~MachineRun() override;

    /// Begins again, with a sheet of the job as it is now.
    void choose(std::size_t sheet);

    State state() const { return state_; }
    std::size_t sheetNumber() const { return sheet_; }
    bool isAsking() const { return isAsking_; } ///< the machine, or for the cutting order
    bool isPaused() const { return isPaused_ && *isPaused_; }
    const QString& target() const { return target_; } ///< the machine's name; empty: the profile has none
    const QString& trouble() const { return trouble_; }
    double share() const { return share_; } ///< of what is sent, 0 to 1

    const std::vector<MarkReading>& marks() const { return registration_.marks; }
    std::size_t current() const { return current_; } ///< mark that is being touched
    const Registration& registration() const { return registration_; }
    std::size_t passes() const { return passes_.size(); }
    std::size_t pass() const { return pass_; } ///< that is sent next, or now
    /// The kinds of line that it cuts.
    std::vector<LineKind> kinds() const;
    int holder() const; ///< whose tool it takes

    /// The head is over the present mark: the machine is asked where that is (HPGL's OA).
    void askPosition();
    /// The same by what the machine shows, mm along the sheet's axes.
    void setPosition(Point place);
    void touchAgain(); ///< all marks
    void cutWithoutMarks();

    void sendPass();
    void setPaused(bool isPaused);
    void stop(); ///< the knife is lifted; the pass can be sent again

Q_SIGNALS:
    void changed();

private:
    std::optional<Point> origin() const;
    void readMarks();

    Document& document_;
    std::shared_ptr<const Job> job_;
    std::shared_ptr<const Made> made_;
    std::size_t sheet_ = 0;
    State state_ = State::marks;
    bool isAsking_ = false;
    QString target_, trouble_;
    double share_ = 0;
    Registration registration_;
    std::size_t current_ = 0, pass_ = 0;
    std::vector<CutProgram> passes_;
    std::shared_ptr<std::atomic<bool>> isPaused_;
    std::stop_source stop_;
};

} // namespace hasami
