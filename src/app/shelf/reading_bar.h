#pragma once

#include "app/document/document.h"

#include <QWidget>

class QLabel;
class QProgressBar;
class QPushButton;

namespace hasami {

/// What is being read for the job, how far it is, and a way to stop it; hidden while there is nothing, or
/// nothing that takes long enough to be noticed.
class ReadingBar : public QWidget {
    Q_OBJECT
public:
    explicit ReadingBar(Document& document, QWidget* parent = nullptr);

private:
    void follow();
    void showWork();

    Document& document_;
    QLabel* text_;
    QProgressBar* progress_;
    QPushButton* stop_;
    QTimer refresh_;
};

} // namespace hasami
