#include "app/kit/notice_bar.h"

#include "app/kit/theme.h"
#include "app/words/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStyle>
#include <QToolButton>

namespace hasami {

NoticeBar::NoticeBar(QWidget* parent)
    : QWidget(parent), text_(new QLabel), first_(new QPushButton), second_(new QPushButton) {
    auto* dismiss = new QToolButton;
    dismiss_ = dismiss;
    text_->setObjectName("Notice");
    text_->setWordWrap(true);
    first_->setObjectName("First answer");
    first_->setProperty("role", "next");
    second_->setObjectName("Second answer");
    dismiss->setIcon(icon("close"));
    dismiss->setObjectName("Dismiss notice");
    dismiss->setAccessibleName(tr("Dismiss this message"));
    dismiss->setToolTip(tr("Dismiss this message"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(16, 4, 12, 4);
    layout->addWidget(text_, 1);
    layout->addWidget(first_);
    layout->addWidget(second_);
    layout->addWidget(dismiss, 0, Qt::AlignTop);
    connect(dismiss, &QToolButton::clicked, this, &QWidget::hide);
    hide();
}

void NoticeBar::warn(const QString& sentences) {
    if (offers_ && isVisible())
        return text_->setText(text_->text() + "\n▲ " + sentences);
    offers_ = false;
    text_->setProperty("role", "trouble");
    text_->style()->polish(text_);
    text_->setText("▲ " + sentences);
    first_->hide();
    second_->hide();
    dismiss_->show();
    show();
}

void NoticeBar::offer(const QString& sentence, const Answer& first, const Answer& second) {
    offers_ = true;
    text_->setProperty("role", "");
    text_->style()->polish(text_);
    text_->setText(sentence);
    setAnswer(first_, first);
    setAnswer(second_, second);
    dismiss_->hide();
    show();
}

void NoticeBar::setAnswer(QPushButton* button, const Answer& answer) {
    button->disconnect();
    button->setText(answer.text);
    button->setToolTip(answer.text);
    button->show();
    connect(button, &QPushButton::clicked, this, [this, act = answer.act] {
        offers_ = false;
        hide();
        act();
        Q_EMIT answered();
    });
}

void NoticeBar::clearWarning() {
    if (!offers_)
        hide();
}

} // namespace hasami
