#include "app/kit/prompt_line.h"

#include "app/kit/theme.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

namespace hasami {

PromptLine::PromptLine(QWidget* parent) : QWidget(parent), text_(new QLabel), button_(new QPushButton) {
    text_->setObjectName("Prompt");
    text_->setWordWrap(true);
    button_->setObjectName("Prompt button");
    button_->setProperty("role", "next");
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(4, 0, 0, 0);
    layout->setSpacing(12);
    layout->addWidget(text_, 1);
    layout->addWidget(button_);
    setMinimumHeight(36);
    connect(button_, &QPushButton::clicked, this, [this] {
        if (action_)
            action_();
    });
}

QString PromptLine::text() const {
    return text_->text();
}

void PromptLine::say(const QString& text, const QString& button, std::function<void()> action) {
    show(text, "", button, std::move(action));
}

void PromptLine::warn(const QString& text, const QString& button, std::function<void()> action) {
    show("▲ " + text, "trouble", button, std::move(action));
}

void PromptLine::show(const QString& text, const QString& role, const QString& button,
                      std::function<void()> action) {
    text_->setText(text);
    setStyled(*text_, "role", role);
    button_->setText(button);
    button_->setVisible(!button.isEmpty());
    action_ = std::move(action);
}

} // namespace hasami
