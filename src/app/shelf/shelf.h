#pragma once

#include "app/document/findings_watch.h"

#include <QAbstractListModel>
#include <QFrame>

class QListView;
class QMenu;

namespace hasami {

/// The job's designs, for views.
class ShelfModel : public QAbstractListModel {
    Q_OBJECT
public:
    explicit ShelfModel(Document& document);

    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    QStringList mimeTypes() const override;
    QMimeData* mimeData(const QModelIndexList& indexes) const override;
    bool dropMimeData(const QMimeData* data, Qt::DropAction action, int row, int column,
                      const QModelIndex& parent) override;
    Qt::DropActions supportedDropActions() const override { return Qt::MoveAction; }

private:
    void update();

    Document& document_;
    int rows_ = 0;
};

/// A card for each design: picture as it will look when peeled, name, finished size, count, a word on
/// trouble.
class Shelf : public QFrame {
    Q_OBJECT
public:
    explicit Shelf(Document& document, QWidget* parent = nullptr);

    /// Cards say how many findings there are about them. `watch` outlives the shelf.
    void showFindings(const FindingsWatch& watch);

    /// What can be done with the selected design, for the cards' menu.
    void setDesignActions(const QList<QAction*>& actions);

    /// A button below the cards for designs that are made in the program.
    void offerToMake(QMenu* kinds);

    /// Lets one type how often the selected design is laid out.
    void editCount();

Q_SIGNALS:
    void artworkWanted(); ///< the user asks for a file dialog

private:
    void showSelection();

    Document& document_;
    QListView* list_;
};

} // namespace hasami
