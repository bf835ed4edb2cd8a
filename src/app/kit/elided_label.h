#pragma once

#include <QLabel>

namespace hasami {

/// A line of text that is shortened to the room it has, and whole in its tooltip.
class ElidedLabel : public QLabel {
    Q_OBJECT
public:
    explicit ElidedLabel(Qt::TextElideMode mode, QWidget* parent = nullptr) : QLabel(parent), mode_(mode) {}

    void setWhole(const QString& text);
    const QString& whole() const { return whole_; }

    QSize minimumSizeHint() const override { return {40, QLabel::minimumSizeHint().height()}; }
    QSize sizeHint() const override;

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    void shorten();

    Qt::TextElideMode mode_;
    QString whole_;
};

} // namespace hasami
