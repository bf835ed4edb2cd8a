#pragma once

#include "profile/profile.h"

#include <QListWidget>

#include <string>
#include <vector>

namespace hasami {

/// A row of the queue's list: a heading, a sheet of the job, or an entry of the queue.
struct QueueRow {
    enum class Kind { heading, hint, sheet, entry };
    Kind kind = Kind::heading;
    std::size_t sheet = 0;       ///< its number
    std::string id;              ///< of an entry
    QString title, status;       ///< the status in a few words
    QString count;               ///< of copies
    std::vector<LineKind> kinds; ///< of lines
    std::vector<InkKind> inks;   ///< beside the colours
    bool isRun = false;          ///< now, by this window
    bool isQuiet = false;        ///< held or done

    friend bool operator==(const QueueRow&, const QueueRow&) = default;
};

/// The sheets of the job and the queue, each with the kinds of line and the inks that it holds. Entries are
/// moved by dragging, or with Alt and the arrow keys.
class QueueList : public QListWidget {
    Q_OBJECT
public:
    explicit QueueList(QWidget* parent = nullptr);

    void showRows(const std::vector<QueueRow>& rows);
    const std::vector<QueueRow>& rows() const { return rows_; }
    /// The row that is selected; nullptr where there is none.
    const QueueRow* selected() const;
    void selectSheet(std::size_t sheet);
    void selectEntry(const std::string& id);
    /// Moves the selected entry to where that point of the list is, as a drop does.
    void dropAt(QPoint place);

Q_SIGNALS:
    void chosen();                                             ///< selected() by click, or by the Enter key
    void moveWanted(const std::string& id, std::size_t place); ///< before the entry at that place
    void removeWanted(const std::string& id);

protected:
    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    std::size_t entriesBefore(int row) const;
    void select(const QueueRow& row);

    std::vector<QueueRow> rows_;
};

} // namespace hasami
