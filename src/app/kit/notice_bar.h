#pragma once

#include <QWidget>

#include <functional>

class QLabel;
class QPushButton;

namespace hasami {

/// A line below the places for what went wrong with files, and for an offer that waits for an answer.
class NoticeBar : public QWidget {
    Q_OBJECT
public:
    explicit NoticeBar(QWidget* parent = nullptr);

    void warn(const QString& sentences);

    struct Answer {
        QString text;
        std::function<void()> act;
    };
    /// Stays until one of the two answers is given.
    void offer(const QString& sentence, const Answer& first, const Answer& second);

    bool offers() const { return offers_; }

    /// Takes a warning away; an offer stays.
    void clearWarning();

Q_SIGNALS:
    void answered(); ///< an offer

private:
private:
    void setAnswer(QPushButton* button, const Answer& answer);

    QLabel* text_;
    QPushButton *first_, *second_;
    QWidget* dismiss_;
    bool offers_ = false;
};

} // namespace hasami
