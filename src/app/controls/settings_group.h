#pragma once

#include "app/document/document.h"
#include "app/kit/quantity_field.h"
#include "app/words/words.h"

#include <QWidget>

#include <functional>

class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;
class QToolButton;

namespace hasami {

/// Texts of type const char* are English and marked by N_(). A group of the sheet's settings under its
/// heading: names to the left, fields to the right. Each change is one undo step.
class SettingsGroup : public QWidget {
    Q_OBJECT
public:
    SettingsGroup(Document& document, const char* heading, QWidget* parent = nullptr);

    using Set = std::function<void(Job&, double)>;
    /// A number under its name; its object's name is the name and " field".
    QuantityField* addNumber(const char* name, const char* effect, QuantityKind kind, double least,
                             double most, Set set);
    /// A number that changes something of its own: `entered` gets the label of the undo step, and the value.
    QuantityField* addField(const char* name, const char* effect, QuantityKind kind, double least,
                            double most, std::function<void(const QString&, double)> entered);
    QCheckBox* addCheck(const char* name, const char* effect, std::function<void(Job&, bool)> set);
    QComboBox* addChoice(const char* name, const char* effect, const QStringList& choices,
                         std::function<void(int)> chosen);
    /// A control of another kind under its name, as a line edit.
    QLabel* add(QWidget& control, const char* name, const char* effect);
    QLabel* addText();
    void addWide(QWidget* widget);

    /// Shows a number in the job's unit, or hides it with its name.
    void show(QuantityField* field, double value, bool isShown = true);
    void rename(QuantityField* field, const QString& name);

protected:
    Document& document_;

private:
    QLabel* labelBeside(QuantityField* field) const;

    QGridLayout* layout_;
    int rows_ = 0;
};

} // namespace hasami
