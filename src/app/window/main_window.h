#pragma once

#include "app/document/document.h"
#include "app/document/output_writer.h"

#include <QMainWindow>

#include <functional>

class QLabel;
class QPushButton;
class QStackedWidget;

namespace hasami {

class CanvasView;
class CutBar;
struct CutActions;
class NoticeBar;
class ArtworkWatch;
class FindingsWatch;
class ProofPlace;
class RunPlace;
class RunQueue;
class SendRun;
class RecoveryKeeper;
class SheetPlace;
class StickersPlace;

/// The window: places, menus, drops, and the questions that would else lose work.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    enum Place { stickers, sheet, proof, run };

    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;

    Document& document() { return document_; }
    StickersPlace& stickersPlace() { return *stickers_; }
    SheetPlace& sheetPlace(); ///< made when there are stickers, or when it is first asked for
    ProofPlace& proofPlace(); ///< made when it is first asked for
    RunPlace& runPlace();     ///< the same
    FindingsWatch& findings() { return *findings_; }
    RunQueue& queue() { return *queue_; }
    void goTo(Place place);

    /// Opens a job, or adds what is not one as artwork.
    void openPaths(const QStringList& paths);
    void openDemo();

    RecoveryKeeper& recovery() { return *recovery_; }

    /// For a system that ends the program: asks nothing, keeps unsaved work for the next start, stops what is
    /// sent to machines, and gives `ended` once their knives are lifted.
    void endNow();

Q_SIGNALS:
    void ended();

protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void makeMenus();
    void makeFileMenu();
    void makeEditMenu();
    void makeViewMenu();
    void makeHelpMenu();
    /// What can be done with the selected design.
    QList<QAction*> makeDesignActions();
    QWidget* makeTopBar();
    CanvasView& view();
    void stopNest();
    void prepareSheetPlace();
    void showState();
    void showWork();
    void showCounts();
    void tellFilesOutside();
    bool mayWriteWithErrors(const QStringList& errors);
    void showKeys();
    void offerRecovery();
    void offerNewer();
    void copy();
    void paste();

    void askForArtwork();
    void askForPictureInside();
    void askForMoreArtwork();
    void askForReplacement();
    void applyRecipeToAll();
    void rename();
    void askForJob();
    void writeOutputs();
    void planOutputs(); ///< shows their panel, or hides it
    void save();
    void saveAs();
    /// Asks what to do with unsaved changes, then goes on with `then` unless the user stays.
    void leaveJob(const std::function<void()>& then);
    void saveThen(const std::function<void()>& then);
    bool mayStopMachines();
    QString askForJobPath();
    QString pathToSaveTo();
    bool isCutting();
    void stopMachines();
    void showCut();
    CutActions actionsOfSending();
    CutActions actionsOfRun();

    Document document_;
    std::unique_ptr<RunQueue> queue_; ///< before document_ goes
    OutputWriter* writer_;
    QWidget* centre_;
    QStackedWidget* places_;
    StickersPlace* stickers_;
    SheetPlace* sheet_ = nullptr; ///< none until it is needed
    ProofPlace* proof_ = nullptr;
    RunPlace* run_ = nullptr;
    FindingsWatch* findings_;
    QList<QPushButton*> placeButtons_;
    QList<QAction*> designActions_, recipeActions_, unitActions_;
    QLabel* state_;
    NoticeBar* notice_;
    CutBar* cut_;
    std::function<void()> onceCutEnded_; ///< closes or ends, after the knife is lifted
    RecoveryKeeper* recovery_;
    ArtworkWatch* watch_;
    bool offersNewer_ = false;
    QAction *undo_ = nullptr, *redo_ = nullptr, *save_ = nullptr, *writeOutputs_ = nullptr;
    QString rememberedPath_; ///< the last one put among the recent jobs
    QString folder_;         ///< where files were read or written last
    bool leaving_ = false;
};

} // namespace hasami
