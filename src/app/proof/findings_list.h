#pragma once

#include "app/document/findings_watch.h"

#include <QScrollArea>

class QLabel;
class QVBoxLayout;

namespace hasami {

/// The findings, most severe first, each a row with its sentence and its fix. A click shows the place.
class FindingsList : public QScrollArea {
    Q_OBJECT
public:
    FindingsList(Document& document, FindingsWatch& watch, QWidget* parent = nullptr);

Q_SIGNALS:
    void chosen(const hasami::Finding& finding);
    void told(const QString& sentence); ///< why a fix can't be done

protected:
    void showEvent(QShowEvent* event) override;

private:
    void showFindings();
    QWidget* rowOf(const Finding& finding, int number);

    Document& document_;
    FindingsWatch& watch_;
    QWidget* page_;
    QVBoxLayout* rows_;
    std::vector<Finding> shown_;
    bool isStale_ = true; ///< brought up to date when it is seen again
};

} // namespace hasami
