#pragma once

#include "app/document/document.h"
#include "app/document/run_sheet.h"
#include "machine/bed_program.h"
#include "machine/cut_run.h"
#include "machine/test_cut.h"
#include "queue/run_state.h"

#include <cstdint>
#include <memory>
#include <optional>
#include <set>
#include <stop_token>
#include <string>
#include <utility>
#include <vector>

namespace hasami {

struct SentSoFar;

/// Cuts a sheet on the machine of the job's profile: the head is put over up to four marks by hand, which
/// says how the print lies, and the program is sent tool by tool. Or without marks, from the origin that is
/// set at the machine. What was sent is recorded line by line, so that another choice of stickers, a stop or
/// a restart never sends a line again unasked. While something is sent, only setPaused and stop change the
/// run.
class MachineRun : public QObject {
    Q_OBJECT
public:
    enum class State {
        marks,    ///< the head is put over one after the other
        ready,    ///< to send what the next tool cuts
        sending,  ///< or paused
        stopping, ///< the knife is being lifted
        done,
    };

    explicit MachineRun(Document& document, QObject* parent = nullptr);
    ~MachineRun() override;

    /// Begins again, with all lines of a sheet, or those of some pieces or of one kind alone. REQUIRES: there
    /// is one; !isSending().
    void choose(const RunSheet& sheet, const std::set<std::size_t>& pieces = {},
                std::optional<LineKind> kind = {});
    /// Other lines of the same sheet: marks stay, and so does what was sent. REQUIRES: !isSending().
    void setChoice(const std::set<std::size_t>& pieces, std::optional<LineKind> kind);
    /// Another print of the same sheet: its marks are touched; the tested force and depth stay. REQUIRES:
    /// !isSending().
    void chooseAgain();
    /// The chosen lines of the same print once more. REQUIRES: state() is done.
    void cutAgain();
    /// Continues a cut that was interrupted: its marks are known, and what was sent. REQUIRES: a sheet was
    /// just chosen.
    void goOnWith(const RunState& kept);
    /// What was sent so far; nothing where nothing was, or lines are repeated.
    std::optional<RunState> progress() const;
    bool isContinued() const { return isContinued_; } ///< after a stop or a restart
    bool isRepeating() const { return isRepeating_; } ///< lines of a sheet that was cut

    State state() const { return state_; }
    /// The machine is being sent something, or is to take the end of it.
    bool isSending() const { return state_ == State::sending || state_ == State::stopping; }
    const RunSheet& sheet() const { return sheet_; }
    const std::set<std::size_t>& pieces() const { return pieces_; }
    std::optional<LineKind> kind() const { return kind_; }
    std::size_t lines() const;                  ///< that are cut
    bool isAsking() const { return isAsking_; } ///< the machine, or for the cutting order
    bool isPaused() const;
    const QString& target() const { return target_; } ///< the machine's name; empty: the profile has none
    const QString& trouble() const { return trouble_; }
    double share() const; ///< of what is sent, 0 to 1

    const std::vector<MarkReading>& marks() const { return registration_.marks; }
    std::size_t current() const { return current_; } ///< mark that is being touched
    const Registration& registration() const { return registration_; }
    /// Why the sheet hardly lies as the marks say, a sentence; empty: it may. Nothing is cut until it is
    /// confirmed by acceptMarks.
    const QString& doubt() const { return doubt_; }
    void acceptMarks();
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
    void stop(); ///< the knife is lifted; what was not sent can be sent later

Q_SIGNALS:
    void changed();

private:
    std::optional<Point> origin() const;
    void prepare();
    void choosePasses();
    void goToNextPass();
    void readMarks();
    void forgetQuestion();
    void become(State state);
    void send(const std::function<std::string()>& hpgl, const std::vector<KeyedStep>& steps);
    void endSending(const Outcome<bool>& sent);
    void noteReceived();
    void fitToProgram(const RunState& kept);
    template <class Then>
    auto ifAskedNow(Then then);

    Document& document_;
    RunSheet sheet_;
    std::set<std::size_t> pieces_; ///< that are cut alone; empty: all
    std::optional<LineKind> kind_; ///< the same
    State state_ = State::marks;
    bool isAsking_ = false, hasBegun_ = false, isContinued_ = false, isRepeating_ = false;
    std::uint64_t question_ =
        0; ///< what is asked of machine or preparation: late answers to others are dropped
    QString target_, trouble_, doubt_;
    Registration registration_;
    std::size_t current_ = 0, pass_ = 0, firstLine_ = 0;
    CutProgram program_;             ///< of the whole sheet
    std::vector<CutProgram> passes_; ///< of what is chosen
    CutRecord received_;             ///< lines that the machine was sent
    std::vector<std::pair<CutKey, double>>
        sending_;                           ///< lines that are being sent, in order, and their lengths,
    std::shared_ptr<SentSoFar> sent_;       ///< and how many of them it has received
    std::optional<RunState> continued_;     ///< until the program that it is of is there
    std::string fingerprint_;               ///< of the program
    std::optional<TestCut> test_, testCut_; ///< that is being sent; that was
    std::optional<double> force_;           ///< g, of the kiss cut: from a test cut
    std::optional<double> bladeDepth_;      ///< mm, the same; 0: as it is set
    std::stop_source stop_;
};

} // namespace hasami
