#pragma once

#include "app/document/document.h"
#include "app/document/run_sheet.h"
#include "machine/bed_program.h"

#include <atomic>
#include <memory>
#include <optional>
#include <set>
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

    /// Begins again, with all lines of a sheet, or those of some pieces or of one kind alone. REQUIRES: there
    /// is one.
    void choose(const RunSheet& sheet, const std::set<std::size_t>& pieces = {},
                std::optional<LineKind> kind = {});
    /// The same sheet and lines once more.
    void chooseAgain();

    State state() const { return state_; }
    const RunSheet& sheet() const { return sheet_; }
    std::size_t lines() const;                  ///< that are cut
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
    RunSheet sheet_;
    std::set<std::size_t> pieces_; ///< that are cut alone; empty: all
    std::optional<LineKind> kind_; ///< the same
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
