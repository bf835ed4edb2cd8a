#pragma once

#include "app/document/document.h"
#include "app/kit/quantity_field.h"

#include <QWidget>

#include <functional>

class QCheckBox;
class QComboBox;
class QGridLayout;
class QLabel;
class QToolButton;

namespace hasami {

/// A group of the sheet's settings under its heading: names to the left, fields to the right. Each change is
/// one undo step.
class SettingsGroup : public QWidget {
    Q_OBJECT
public:
    SettingsGroup(Document& document, const QString& heading, QWidget* parent = nullptr);

    using Set = std::function<void(Job&, double)>;
    /// A number under its name; its object's name is the name and " field".
    QuantityField* addNumber(const QString& name, const QString& effect, QuantityKind kind, double least,
                             double most, Set set);
    QCheckBox* addCheck(const QString& name, const QString& effect, std::function<void(Job&, bool)> set);
    QComboBox* addChoice(const QString& name, const QString& effect, const QStringList& choices,
                         std::function<void(int)> chosen);
    QLabel* addText();
    void addWide(QWidget* widget);

    /// Shows a number in the job's unit, or hides it with its name.
    void show(QuantityField* field, double value, bool isShown = true);
    void rename(QuantityField* field, const QString& name);

protected:
    Document& document_;

private:
    QLabel* nameOf(QuantityField* field) const;

    QGridLayout* layout_;
    int rows_ = 0;
};

} // namespace hasami
