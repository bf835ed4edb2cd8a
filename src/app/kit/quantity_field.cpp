#include "app/kit/quantity_field.h"

#include "app/kit/theme.h"
#include "app/words/words.h"
#include "geometry/length_text.h"

#include <QKeyEvent>
#include <QLocale>
#include <QToolTip>

#include <cmath>

namespace hasami {

QString inLocale(const QString& number) {
    return QString(number).replace('.', QLocale().decimalPoint());
}

namespace {

QString plainText(double value, QuantityKind kind, LengthUnit unit) {
    switch (kind) {
    case QuantityKind::length:
        return QString::fromStdString(lengthText(value, unit));
    case QuantityKind::percent:
        return QString::number(std::round(value * 10) / 10) + " %";
    case QuantityKind::count:
        return QString::number(std::llround(value));
    case QuantityKind::number:
        return QString::number(std::round(value * 100) / 100);
    case QuantityKind::angle:
        return QString::number(std::round(value * 10) / 10) + "°";
    case QuantityKind::area:
        return QString::number(std::round(value * 100) / 100) + " mm²";
    }
    return {};
}

} // namespace

QString quantityText(double value, QuantityKind kind, LengthUnit unit) {
    return inLocale(plainText(value, kind, unit));
}

QString sizeText(double width, double height, LengthUnit unit) {
    const auto number = [unit](double millimetres) {
        const double factor = unit == LengthUnit::millimetre || unit == LengthUnit::point ? 10 : 100;
        return inLocale(QString::number(std::round(millimetres / millimetresIn(unit) * factor) / factor));
    };
    return QString("%1 × %2 %3").arg(number(width), number(height), QString::fromUtf8(unitName(unit)));
}

std::optional<double> readQuantity(const QString& text, QuantityKind kind, LengthUnit unit) {
    if (kind == QuantityKind::length)
        return parseLength(text.toStdString(), unit);
    QString digits = text.trimmed();
    if (kind == QuantityKind::percent && digits.endsWith('%'))
        digits.chop(1);
    if (kind == QuantityKind::angle && digits.endsWith(u'°'))
        digits.chop(1);
    if (kind == QuantityKind::area)
        for (const char* unit : {"mm²", "mm2"})
            if (const QString name = QString::fromUtf8(unit); digits.endsWith(name))
                digits.chop(name.size());
    bool isNumber = false;
    const double value = digits.trimmed().replace(',', '.').toDouble(&isNumber);
    const bool fits =
        isNumber && std::isfinite(value) && (kind != QuantityKind::count || value == std::floor(value));
    return fits ? std::optional(value) : std::nullopt;
}

QuantityField::QuantityField(QuantityKind kind, double least, double most, QWidget* parent)
    : QLineEdit(parent), kind_(kind), least_(least), most_(most) {
    setAlignment(Qt::AlignRight);
    setFixedWidth(88);
    connect(this, &QLineEdit::editingFinished, this, &QuantityField::take);
    connect(this, &QLineEdit::textEdited, this, [this] {
        mark(false);
        showUnderstood();
    });
}

void QuantityField::setUnit(LengthUnit unit) {
    if (unit == unit_)
        return;
    unit_ = unit;
    show(value_);
}

void QuantityField::setZeroWord(const QString& word) {
    zeroWord_ = word;
    show(value_);
}

QString QuantityField::words(double value) const {
    return value == 0 && !zeroWord_.isEmpty() ? zeroWord_ : quantityText(value, kind_, unit_);
}

std::optional<double> QuantityField::read() const {
    if (!zeroWord_.isEmpty() && text().trimmed().compare(zeroWord_, Qt::CaseInsensitive) == 0)
        return 0;
    return readQuantity(text(), kind_, unit_);
}

void QuantityField::showUnderstood() {
    const auto value = read();
    const QString understood = value ? "= " + words(*value) : tr("not a number yet");
    QToolTip::showText(mapToGlobal(QPoint(0, height())), text().isEmpty() ? QString() : understood, this);
}

void QuantityField::show(double value) {
    value_ = value;
    if (hasFocus() && isModified())
        return;
    setText(words(value));
    mark(false);
}

std::optional<double> QuantityField::typed() const {
    const auto value = read();
    return value && *value >= least_ && *value <= most_ ? value : std::nullopt;
}

void QuantityField::take() {
    if (!isModified())
        return;
    const auto value = typed();
    if (!value) {
        setToolTip(tr("Takes %1 to %2").arg(words(least_), words(most_)));
        mark(true);
        return;
    }
    setModified(false);
    const double before = value_;
    show(*value);
    if (*value != before)
        Q_EMIT entered(*value);
}

void QuantityField::mark(bool wrong) {
    setStyled(*this, "wrong", wrong);
}

/// Undo and redo are the typing's as long as one types, then the job's.
bool QuantityField::event(QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride && !isModified()) {
        const auto& key = static_cast<QKeyEvent&>(*event);
        if (key.matches(QKeySequence::Undo) || key.matches(QKeySequence::Redo)) {
            event->ignore();
            return false;
        }
    }
    return QLineEdit::event(event);
}

void QuantityField::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape && isModified()) {
        setModified(false);
        show(value_);
        selectAll();
        return;
    }
    QLineEdit::keyPressEvent(event);
}

} // namespace hasami
