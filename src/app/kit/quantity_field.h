#pragma once

#include "geometry/length_text.h"

#include <QLineEdit>

#include <optional>

namespace hasami {

/// What a number is: how it is read and shown.
enum class QuantityKind { length, percent, count, area, number, angle };

/// A number's text as the user's locale writes it: "2,5" for "2.5" in German.
QString inLocale(const QString& number);

/// "2 mm", "50 %", "24", "1 mm²", "45°". Lengths are given in mm and shown in the unit.
QString quantityText(double value, QuantityKind kind, LengthUnit unit = LengthUnit::millimetre);

/// "51.5 × 45.5 mm": as fine as one compares sizes by. Given in mm.
QString sizeText(double width, double height, LengthUnit unit);

/// Reads what people type for that kind (lengths: see parseLength; a bare number is in the unit). Nothing if
/// it makes no sense.
std::optional<double> readQuantity(const QString& text, QuantityKind kind,
                                   LengthUnit unit = LengthUnit::millimetre);

/// The one field for numbers. While one types, a note shows how it is understood. What is typed counts on
/// Enter or when the field is left; what makes no sense or is out of bounds is marked, the old value stays,
/// and Escape shows it again.
class QuantityField : public QLineEdit {
    Q_OBJECT
public:
    QuantityField(QuantityKind kind, double least, double most, QWidget* parent = nullptr);

    double value() const { return value_; }

    /// A value as the field shows it.
    QString words(double value) const;

    /// What is typed, if it makes sense and is within bounds.
    std::optional<double> typed() const;

    /// What stands in place of 0, where that is no amount: "none", "automatic". It may be typed as well.
    void setZeroWord(const QString& word);

    /// The unit that lengths are shown in.
    void setUnit(LengthUnit unit);

    /// Shows a value that came from elsewhere; what is being typed stays.
    void show(double value);

Q_SIGNALS:
    void entered(double value); ///< a new value was typed

protected:
    bool event(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

private:
    std::optional<double> read() const;
    void take();
    void mark(bool wrong);
    void showUnderstood();

    QuantityKind kind_;
    LengthUnit unit_ = LengthUnit::millimetre;
    QString zeroWord_;
    double least_, most_, value_ = 0;
};

} // namespace hasami
