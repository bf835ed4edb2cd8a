#pragma once

#include "app/document/document.h"
#include "app/runs/cutting_machine.h"

#include <functional>
#include <stop_token>

namespace hasami {

struct SentSoFar;

/// The machine that the job's profile has a connection to: it is sent HPGL, and asked where its head is.
class ConnectedMachine : public CuttingMachine {
    Q_OBJECT
public:
    explicit ConnectedMachine(Document& document, QObject* parent = nullptr);
    ~ConnectedMachine() override;

    MachineAbilities abilities() const override { return {false, false, false, true}; }
    bool isReachable() const override { return !name_.isEmpty(); }
    QString name() const override { return name_; }
    void setSheet(const RunSheet& sheet) override;
    void prepare(std::uint64_t question) override;
    void readMarks(std::uint64_t) override {}
    void askHead(std::uint64_t question) override;
    void cut(const run_effect::StartCut& order) override;
    void cutTest(const run_effect::StartTest& order) override;
    void setPaused(bool isPaused) override;
    void stop() override;
    void check(std::uint64_t question, const RunModel& run) override;
    void giveUp() override;
    double share() const override;

private:
    /// What is being sent.
    struct Sending {
        std::uint64_t question = 0;
        std::shared_ptr<const CutLengths> lines; ///< in order, each with its length: once some are received
        std::size_t told = 0;
        std::shared_ptr<SentSoFar> soFar;
        std::stop_source stop;
    };
    std::optional<Point> origin() const;
    void begin(std::uint64_t question, std::shared_ptr<const CutLengths> lines,
               const std::function<std::string()>& hpgl);
    void send(const std::function<std::string()>& hpgl);
    CutLengths received();
    void tellReceived();
    void askForEnd(std::uint64_t question);
    void whenFree(std::function<void()> act);
    void endAsking();

    Document& document_;
    RunSheet sheet_;
    QString name_;
    std::optional<Sending> sending_;
    std::stop_source preparing_, asking_;
    bool isAsking_ = false;         ///< the machine, over a connection of its own,
    std::function<void()> waiting_; ///< and what is done once that has ended
    bool answers_ = false;          ///< it has said where its head is
};

} // namespace hasami
