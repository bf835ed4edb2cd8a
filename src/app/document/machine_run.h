#pragma once

#include "app/document/document.h"
#include "app/document/run_sheet.h"
#include "machine/bed_program.h"
#include "machine/test_cut.h"
#include "queue/run_state.h"

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
    /// Continues a cut that was interrupted: its marks are known, and how far it came. REQUIRES: a sheet
    /// was just chosen.
    void goOnWith(const RunState& kept);
    /// How far it came; nothing where nothing was sent.
    std::optional<RunState> progress() const;

    State state() const { return state_; }
    const RunSheet& sheet() const { return sheet_; }
    const std::set<std::size_t>& pieces() const { return pieces_; }
    std::optional<LineKind> kind() const { return kind_; }
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
    /// Lines of the pass, and the one that it begins with, from 0 on: another than the first where it was
    /// stopped. What was sent before is cut, unless the machine lost it.
    std::size_t linesOfPass() const;
    std::size_t firstLine() const { return firstLine_; }
    void setFirstLine(std::size_t line);
    /// Where that line begins, mm of the sheet.
    std::optional<Point> startOfLine() const;

    /// Cuts a row of drops with rising forces where the sheet is free. REQUIRES: state() is ready.
    void cutTest();
    const std::optional<TestCut>& testCut() const { return testCut_; } ///< that was sent
    /// The kiss cut's force and its blade's depth (0: as it is set) from now on.
    void takeForce(double force);
    void takeBladeDepth(double depth);
    /// The profile's, with those.
    Cutter cutter() const;

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
    void send(const std::function<std::string()>& hpgl);
    void endSending(const Outcome<bool>& sent);

    Document& document_;
    RunSheet sheet_;
    std::set<std::size_t> pieces_; ///< that are cut alone; empty: all
    std::optional<LineKind> kind_; ///< the same
    State state_ = State::marks;
    bool isAsking_ = false;
    QString target_, trouble_;
    double share_ = 0;
    Registration registration_;
    std::size_t current_ = 0, pass_ = 0, firstLine_ = 0;
    std::size_t sentLines_ = 0;             ///< of what is being sent
    bool wasSent_ = false;                  ///< something of the sheet
    std::optional<TestCut> test_, testCut_; ///< that is being sent; that was
    std::optional<double> force_;           ///< g, of the kiss cut: from a test cut
    std::optional<double> bladeDepth_;      ///< mm, the same
    std::vector<CutProgram> passes_;
    std::shared_ptr<std::atomic<bool>> isPaused_;
    std::stop_source stop_;
};

} // namespace hasami
