#pragma once

#include "app/run/queue_list.h"
#include "app/runs/run_control.h"

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
    QueuePanel(Document& document, RunQueue& queue, RunControl& run, QWidget* parent = nullptr);

Q_SIGNALS:
    void messageRaised(const QString& sentence);
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
    RunControl& run_;
    QueueList* list_;
    QComboBox* work_;
    QuantityField* copies_;
    QLineEdit* code_;
    QPushButton *up_ = nullptr, *down_ = nullptr, *hold_ = nullptr, *remove_ = nullptr;
    QMenu* menu_;
    std::vector<QueueEntry> ofJob_;      ///< its sheets that have work
    std::shared_ptr<const Made> listed_; ///< and what they are of
    std::pair<std::string, std::size_t> shownRun_;
    std::map<std::size_t, double>
        done_; ///< sheets of the job that were cut, and how far off the print at most
};

} // namespace hasami
