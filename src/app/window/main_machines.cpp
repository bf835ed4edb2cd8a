// What is sent to machines: kept in sight, and never left by accident.

#include "app/document/print_run.h"
#include "app/document/recovery_keeper.h"
#include "app/document/send_run.h"
#include "app/run/run_place.h"
#include "app/sheet/outputs_panel.h"
#include "app/sheet/sheet_place.h"
#include "app/window/cut_bar.h"
#include "app/window/main_window.h"
#include "app/words/words.h"

#include <QMessageBox>
#include <QPushButton>
#include <QStackedWidget>

#include <utility>

namespace hasami {

bool MainWindow::isSendingCut() {
    return (sheet_ && sheet_->outputs().sending().isOn()) || (run_ && run_->machine().isSending());
}

void MainWindow::stopMachines() {
    if (sheet_) {
        sheet_->outputs().sending().stop();
        sheet_->outputs().printing().stop();
    }
    if (run_)
        run_->machine().stop();
}

void MainWindow::showCut() {
    cut_->refresh();
    if (onceCutEnded_ && !isSendingCut()) // not inside the change that is being shown
        QMetaObject::invokeMethod(this, std::exchange(onceCutEnded_, {}), Qt::QueuedConnection);
}

CutActions MainWindow::actionsOfSending() {
    SendRun* run = &sheet_->outputs().sending();
    return {[run]() -> std::optional<CutUnderWay> {
                if (!run->isOn())
                    return {};
                return CutUnderWay{run->text(), run->state() == SendRun::State::paused, run->isStopping()};
            },
            [run](bool isPaused) { run->setPaused(isPaused); }, [run] { run->stop(); },
            [this] { goTo(sheet); }};
}

/// In Run the steps themselves show it.
CutActions MainWindow::actionsOfMachine() {
    MachineRun* run = &run_->machine();
    return {[this, run]() -> std::optional<CutUnderWay> {
                if (!run->isSending() || places_->currentWidget() == run_)
                    return {};
                return CutUnderWay{
                    (run->isPaused() ? tr("%1 is paused at %2 %") : tr("%1 is cutting: %2 % sent"))
                        .arg(run->target())
                        .arg(int(run->share() * 100)),
                    run->isPaused(), run->state() == MachineRun::State::stopping};
            },
            [run](bool isPaused) { run->setPaused(isPaused); }, [run] { run->stop(); },
            [this] { goTo(MainWindow::run); }};
}

CutActions MainWindow::actionsOfSimulation() {
    GuidedRun* run = &run_->run();
    return {[this, run]() -> std::optional<CutUnderWay> {
                if (!run->isMoving() || places_->currentWidget() == run_)
                    return {};
                return CutUnderWay{tr("The simulated cutter is cutting"), false, false};
            },
            [run](bool) { run->pause(); }, [run] { run->stop(); }, [this] { goTo(MainWindow::run); }};
}

/// A machine or printer at work is not left by accident.
bool MainWindow::mayStopMachines() {
    const PrintRun* printing = sheet_ ? &sheet_->outputs().printing() : nullptr;
    const bool isCutting = isSendingCut();
    if (!isCutting && (!printing || !printing->isOn() || printing->isStopping()))
        return true;
    QMessageBox question(QMessageBox::Question, "Hasami",
                         isCutting
                             ? tr("The cut is still being sent to the machine. Stop it, and lift the knife?")
                             : tr("The print is not done yet. Stop it, and cancel what is not printed?"),
                         QMessageBox::NoButton, this);
    auto* stop = question.addButton(tr("Stop and close"), QMessageBox::AcceptRole);
    auto* goOn = question.addButton(tr("Go on"), QMessageBox::RejectRole);
    question.setDefaultButton(goOn);
    question.setEscapeButton(goOn);
    question.exec();
    if (question.clickedButton() != stop)
        return false;
    stopMachines();
    return true;
}

void MainWindow::endNow() {
    stopNest();
    document_.endRun();
    recovery_->keepNow();
    stopMachines();
    onceCutEnded_ = [this] { Q_EMIT ended(); };
    showCut();
}

} // namespace hasami
