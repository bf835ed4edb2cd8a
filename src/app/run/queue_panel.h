#pragma once

#include "app/document/guided_run.h"
#include "app/run/queue_list.h"

#include <QFrame>

#include <map>

class QComboBox;
class QLineEdit;
class QMenu;
class QPushButton;

namespace hasami {

class QuantityField;

/// The sheets of the job and the queue, and what is done with the one that is selected.
class QueuePanel : public QFrame {
    Q_OBJECT
public:
    QueuePanel(Document& document, RunQueue& queue, GuidedRun& run, QWidget* parent = nullptr);

    /// Whether the sheet that is run lies on the cutter of the profile.
    void showRealMachine(bool isReal);

Q_SIGNALS:
    void sheetWanted(std::size_t sheet); ///< of the job, to be run
    void entryWanted(const std::string& id);
    void told(const QString& sentence);
    void done(const QString& sentence); ///< something that takes its time

private:
    QWidget* makeWork();
    QWidget* makeButtons();
    QPushButton* addButton(QWidget& box, const char* text, const char* name, const char* effect,
                           void (QueuePanel::*act)());
    std::vector<QueueRow> rows() const;
    void listJob();
    QueueRow rowOfJob(const QueueEntry& sheet) const;
    QueueRow rowOf(const QueueEntry& entry) const;
    QString stateOf(const QueueEntry& entry) const;
    QString statusOf(const QueueEntry& entry) const;
    QString statusOfRun() const;
    QString countOf(const QueueEntry& entry, bool isRun) const;
    const QueueEntry* selectedEntry() const;
    bool isSelectedRun() const; ///< whether the selected row is the sheet that is run
    void showQueue();
    void showSelected();
    void choose();
    void setWork(int which);
    void setCopies(double copies);
    std::vector<std::string> listed() const;
    void move(const std::string& id, std::size_t place);
    void moveBy(int by);
    void moveUp();
    void moveDown();
    void holdOrAgain();
    void removeSelected();
    void remove(const std::string& id);
    void addFiles();
    void addSheets();
    void findCode();
    void showHistory();
    void fillMenu();
    void saveFiles();
    void writeFiles(const QString& folder, const std::vector<Output>& files);

    Document& document_;
    RunQueue& queue_;
    GuidedRun& run_;
    QueueList* list_;
    QComboBox* work_;
    QuantityField* copies_;
    QLineEdit* code_;
    QPushButton *up_ = nullptr, *down_ = nullptr, *hold_ = nullptr, *remove_ = nullptr;
    QMenu* menu_;
    std::vector<QueueEntry> ofJob_;      ///< its sheets that have work
    std::shared_ptr<const Made> listed_; ///< and what they are of
    bool isReal_ = false;
    std::pair<std::string, std::size_t> shownRun_;
    std::map<std::size_t, double>
        done_; ///< sheets of the job that were cut, and how far off the print at most
};

} // namespace hasami
