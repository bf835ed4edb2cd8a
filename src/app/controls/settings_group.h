#pragma once

#include "app/document/document.h"
#include "app/kit/field_group.h"

namespace hasami {

/// A group of the sheet's settings. Each change is one undo step.
class SettingsGroup : public FieldGroup {
    Q_OBJECT
public:
    SettingsGroup(Document& document, const char* heading, QWidget* parent = nullptr)
        : FieldGroup(heading, parent), document_(document) {}

    using Set = std::function<void(Job&, double)>;
    QuantityField* addNumber(const char* name, const char* effect, QuantityKind kind, double least,
                             double most, Set set);
    QCheckBox* addCheck(const char* name, const char* effect, std::function<void(Job&, bool)> set);

    /// In the job's unit.
    void show(QuantityField* field, double value, bool isShown = true) {
        FieldGroup::show(field, value, document_.job().unit, isShown);
    }

protected:
    Document& document_;
};

} // namespace hasami
