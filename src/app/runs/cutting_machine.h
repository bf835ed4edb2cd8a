#pragma once

#include "app/runs/bed_picture.h"
#include "app/runs/run_sheet.h"
#include "machine/sensor.h"
#include "rehearsal/training.h"
#include "run/run_model.h"

#include <QObject>
#include <QString>

#include <cstdint>
#include <optional>

namespace hasami {

/// A machine that a run cuts its sheet on. What it is asked it answers later, once, by `answered` with the
/// question's number; what was given up, or belongs to another sheet, it does not answer any more. All in the
/// interface's thread.
class CuttingMachine : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    virtual MachineAbilities abilities() const = 0;
    virtual bool isReachable() const { return true; }
    virtual QString name() const = 0; ///< in sentences

    /// The sheet that lies in it from now on. REQUIRES: it is not cutting.
    virtual void setSheet(const RunSheet& sheet) = 0;
    /// Makes all ready for the sheet's cut, and prints it where it prints.
    virtual void prepare(std::uint64_t question) = 0;
    virtual void readMarks(std::uint64_t question) = 0; ///< REQUIRES: it finds marks
    virtual void askHead(std::uint64_t question) = 0;   ///< REQUIRES: it does not
    virtual void cut(const run_effect::StartCut& order) = 0;
    virtual void cutTest(const run_effect::StartTest& order) = 0;
    virtual void setPaused(bool isPaused) = 0;
    /// Lifts the knife, and ends the cut: the end is answered.
    virtual void stop() = 0;
    virtual void check(std::uint64_t question, const RunModel& run) = 0;
    virtual void giveUp() = 0; ///< all but a cut
    virtual void reload() {}   ///< the sheet is put in as it should lie

    /// Of the cut under way, or of what it prepares: 0 to 1; 0 while that is not known.
    virtual double share() const = 0;

    // What one sees who stands beside it.
    virtual std::optional<double> secondsLeft() const { return {}; }
    virtual const CutHead* head() const { return nullptr; } ///< of the cut under way
    /// What its knife has cut, where that may be other lines than it was given.
    virtual const CutRecord* knife() const { return nullptr; }
    virtual const BedPicture* bed() const { return nullptr; }            ///< with the printed sheet
    virtual SensorView look(Point, double) const { return {}; }          ///< of a side, mm, around a place
    virtual std::optional<CutDepth> depthOf(double) const { return {}; } ///< of a cut with a force, g

Q_SIGNALS:
    void answered(const RunEvent& event);
    /// Its share, or its head; `cut`: what its knife has cut since, where it says that (knife).
    void moved(const CutLengths& cut);
};

} // namespace hasami
