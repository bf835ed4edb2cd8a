#pragma once

#include "app/document/document.h"
#include "app/runs/cutting_machine.h"
#include "machine/cut_memory.h"

#include <QElapsedTimer>
#include <QTimer>

#include <functional>
#include <map>
#include <stop_token>

namespace hasami {

/// The simulated printer and cutter. Each copy of a sheet is printed and lies otherwise, by its seed, and
/// something that goes wrong can be chosen, to see how it is noticed.
class SimulatedMachine : public CuttingMachine {
    Q_OBJECT
public:
    explicit SimulatedMachine(Document& document, QObject* parent = nullptr);
    ~SimulatedMachine() override;

    /// What a copy of the sheet is like. `hasSlipped`: it has moved while it was cut.
    struct Copy {
        std::uint32_t seed = 1;
        TrainingFault fault = TrainingFault::none;
        bool hasSlipped = false;
    };
    void setCopy(const Copy& copy);
    const Copy& copy() const { return copy_; }
    /// The print of another sheet lies in the machine, of that seed; none: the right one.
    void putIn(const RunSheet& sheet, std::uint32_t seed);
    void setSpeed(double times) { speed_ = times; } ///< of the machine's own

    MachineAbilities abilities() const override { return {true, true, true, mayLoseLines(copy_.fault)}; }
    QString name() const override;
    void setSheet(const RunSheet& sheet) override;
    void prepare(std::uint64_t question) override;
    void readMarks(std::uint64_t question) override;
    void askHead(std::uint64_t) override {}
    void cut(const run_effect::StartCut& order) override;
    void cutTest(const run_effect::StartTest& order) override;
    void setPaused(bool isPaused) override;
    void stop() override;
    void check(std::uint64_t question, const RunModel& run) override;
    void giveUp() override;
    void reload() override;
    double share() const override;
    std::optional<double> secondsLeft() const override;
    const CutHead* head() const override { return head_.get(); }
    const CutRecord* knife() const override { return memory_ ? &memory_->knife() : nullptr; }
    const BedPicture* bed() const override { return bed_.get(); }
    SensorView look(Point bed, double side) const override;
    std::optional<CutDepth> depthOf(double force) const override;

private:
    /// A print as it was rendered, for all copies of a sheet.
    struct Render {
        RunSheet of;
        bool isOfOtherJob = false;
        std::shared_ptr<const SheetPicture> picture;
    };
    struct Printed {
        std::shared_ptr<const BedPicture> bed;
        std::shared_ptr<const CutLines> lines;
        Render render;
    };
    struct Order;
    static Printed printedBy(const Order& order, const std::stop_token& stop,
                             const std::function<void(double)>& progress);
    template <class Then>
    auto ifWantedStill(Then then);

    RehearsalFaults faults() const;
    double usualForce() const;
    Box medium() const;
    void layPrint(std::function<void(const Outcome<Printed>&)> then);
    void advance();
    void noteSlip(const CutLengths& news);
    void tell(const CutLengths& news);
    void end(bool isWhole);
    void failPower();
    struct Inspection;
    void inspect(std::uint64_t question, const Inspection& what);

    Document& document_;
    RunSheet sheet_, other_; ///< that is run; whose print was put in by mistake
    Copy copy_;
    std::uint32_t otherSeed_ = 0;
    Render render_;
    std::shared_ptr<const BedPicture> bed_;
    std::shared_ptr<CutHead> head_;
    std::optional<CutMemory> memory_;
    bool hasFailed_ = false; ///< the power
    bool isPaused_ = false;
    std::optional<double> advised_;    ///< force, g, with which a sheet should be cut again
    std::uint64_t question_ = 0;       ///< of the cut under way
    std::uint64_t task_ = 0;           ///< in the background: what another one brings is dropped
    std::map<CutKey, bool> afterSlip_; ///< cuts that were begun after the sheet had moved
    double speed_ = 1, printShare_ = 0;
    std::stop_source stop_;
    QTimer timer_;
    QElapsedTimer clock_;
};

} // namespace hasami
