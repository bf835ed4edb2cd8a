#pragma once

#include <QWidget>

#include <functional>

class QLabel;
class QPushButton;

namespace hasami {

/// One line at the top of a place: what is missing or what comes next, with a button that goes there.
class PromptLine : public QWidget {
    Q_OBJECT
public:
    explicit PromptLine(QWidget* parent = nullptr);

    void say(const QString& text, const QString& button = {}, std::function<void()> action = {});
    /// The same for what went wrong.
    void warn(const QString& text, const QString& button = {}, std::function<void()> action = {});
    QString text() const;

private:
    void show(const QString& text, const QString& role, const QString& button, std::function<void()> action);

    QLabel* text_;
    QPushButton* button_;
    std::function<void()> action_;
};

} // namespace hasami
