#include "app/sheet/options_row.h"

#include <QHBoxLayout>

namespace hasami {

OptionsRow::OptionsRow(QWidget* parent)
    : QFrame(parent), options_(new QWidget), optionsLayout_(new QHBoxLayout(options_)),
      line_(new QHBoxLayout(this)) {
    constexpr int spacing = 12;
    optionsLayout_->setContentsMargins(0, 0, 0, 0);
    optionsLayout_->setSpacing(spacing);
    line_->setContentsMargins(0, 4, 0, 4);
    line_->setSpacing(spacing);
    line_->addWidget(options_);
}

int OptionsRow::widthOfOptions() const {
    return optionsLayout_->sizeHint().width();
}

void OptionsRow::setWidthOfOptions(int width) {
    options_->setFixedWidth(width);
}

} // namespace hasami
