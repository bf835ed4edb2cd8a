#pragma once

#include "profile/ink_order.h"

#include <QWidget>

class QCheckBox;
class QListWidget;
class QPushButton;

namespace hasami {

/// The passes of a print as they lie, the topmost first. They are moved by dragging, by two buttons, or by
/// Alt and the arrow keys.
class InkOrderList : public QWidget {
    Q_OBJECT
public:
    explicit InkOrderList(QWidget* parent = nullptr);

    void show(const InkOrder& order);

Q_SIGNALS:
    void chosen(const hasami::InkOrder& order);

protected:
    bool eventFilter(QObject* object, QEvent* event) override;

private:
    void move(int by);
    void takeDragged();
    void setTwice(bool isTwice);
    void showButtons();
    void choose(std::vector<InkOrder::Pass> downwards);

    QListWidget* list_;
    QPushButton *up_, *down_;
    QCheckBox* twice_;
    std::vector<InkOrder::Pass> downwards_; ///< as in the list
};

} // namespace hasami
