#pragma once

#include "app/kit/quantity_field.h"
#include "app/words/words.h"

#include <QWidget>

#include <functional>

class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;

namespace hasami {

/// Fields under a heading: names to the left, fields to the right. Texts of type const char* are English and
/// marked by N_().
class FieldGroup : public QWidget {
    Q_OBJECT
public:
    /// `heading` may be nullptr.
    explicit FieldGroup(const char* heading, QWidget* parent = nullptr);

    /// A number under its name; its object's name is the name and " field". `entered` gets what was entered
    /// in words, "Gap 3 mm", and the value.
    QuantityField* addField(const char* name, const char* effect, QuantityKind kind, double least,
                            double most, std::function<void(const QString&, double)> entered);
    /// `clicked` gets what was chosen in words, "On: Shared box", and whether it is on.
    QCheckBox* addCheck(const char* name, const char* effect,
                        std::function<void(const QString&, bool)> clicked);
    QComboBox* addChoice(const char* name, const char* effect, const QStringList& choices,
                         std::function<void(int)> chosen);
    /// A control of another kind under its name, as a line edit.
    QLabel* add(QWidget& control, const char* name, const char* effect);
    QLabel* addText();
    void addWide(QWidget* widget);

    /// Shows a number in a unit, or hides it with its name.
    void show(QuantityField* field, double value, LengthUnit unit, bool isShown = true);
    void rename(QuantityField* field, const QString& name);

protected:
    QLabel* labelBeside(const QWidget* control) const;

private:
    QGridLayout* layout_;
    int rows_ = 0;
};

} // namespace hasami
