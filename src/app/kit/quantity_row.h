#pragma once

#include "app/kit/quantity_field.h"
#include "app/words/words.h"

#include <QWidget>

class QSlider;
class QToolButton;

namespace hasami {

/// A number of a recipe: name, slider, field, and a button that resets it.
class QuantityRow : public QWidget {
    Q_OBJECT
public:
    struct Description {
        const char* name;   ///< English, marked by N_(), as all texts here
        const char* effect; ///< tooltip: what it does to the sticker
        QuantityKind kind = QuantityKind::length;
        double least = 0, most = 100;             ///< of the field
        double sliderLeast = 0, sliderMost = 100; ///< the part that the slider covers
        double step = 1;                          ///< of the slider
        const char* zeroWord = "";                ///< what the field shows in place of 0
    };
    explicit QuantityRow(const Description& description, QWidget* parent = nullptr);

    void setUnit(LengthUnit unit);
    QString words(double value) const { return field_->words(value); }
    void show(double value);
    /// The slider goes no lower.
    void limitSlider(double least);
    /// As an arrow key on the slider does.
    void step(int by);
    /// The value that the reset button goes to.
    void setStart(double value);
    double start() const { return start_; }
    /// The same, with a mark at the slider: a value that suits what is at hand.
    void showStart(double value);

Q_SIGNALS:
    /// The user's value; while a slider is dragged or stepped by keys, many follow each other before
    /// `rested`.
    void chosen(double value);
    void rested();

protected:
    void paintEvent(QPaintEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void choose(double value);

    Description description_;
    LengthUnit unit_ = LengthUnit::millimetre;
    double value_ = 0, start_ = 0;
    bool marksStart_ = false;
    QuantityField* field_;
    QSlider* slider_;
    QToolButton* reset_;
};

} // namespace hasami
