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

bool MainWindow::isCutting() {
    return (sheet_ && sheet_->outputs().sending().isOn()) || (run_ && run_->run().model().isCutting());
}

void MainWindow::stopMachines() {
    if (sheet_) {
        sheet_->outputs().sending().stop();
        sheet_->outputs().printing().stop();
    }
    if (run_)
        run_->run().act(RunAction::stop);
}

void MainWindow::showCut() {
    cut_->refresh();
    if (onceCutEnded_ && !isCutting()) // not inside the change that is being shown
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
CutActions MainWindow::actionsOfRun() {
    RunControl* run = &run_->run();
    return {[this, run]() -> std::optional<CutUnderWay> {
                const RunActivity activity = run->model().activity();
                if (!run->model().isCutting() || places_->currentWidget() == run_)
                    return {};
                const bool isPaused = activity == RunActivity::paused;
                return CutUnderWay{(isPaused ? tr("%1 is paused at %2 %") : tr("%1 is cutting: %2 %"))
                                       .arg(run->machine().name())
                                       .arg(int(run->machine().share() * 100)),
                                   isPaused, activity == RunActivity::stopping};
            },
            [run](bool isPaused) { run->act(isPaused ? RunAction::pause : RunAction::resume); },
            [run] { run->act(RunAction::stop); }, [this] { goTo(MainWindow::run); }};
}

/// A machine or printer at work is not left by accident.
bool MainWindow::mayStopMachines() {
    const PrintRun* printing = sheet_ ? &sheet_->outputs().printing() : nullptr;
    const bool cuts = isCutting();
    if (!cuts && (!printing || !printing->isOn() || printing->isStopping()))
        return true;
    QMessageBox question(QMessageBox::Question, "Hasami",
                         cuts ? tr("The machine is still cutting. Stop it, and lift the knife?")
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
