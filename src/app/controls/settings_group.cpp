#include "app/controls/settings_group.h"

namespace hasami {

QuantityField* SettingsGroup::addNumber(const char* name, const char* effect, QuantityKind kind, double least,
                                        double most, Set set) {
    return addField(name, effect, kind, least, most,
                    [this, set = std::move(set)](const QString& label, double value) {
                        document_.endRun();
                        document_.change(label, [&](Job& job) { set(job, value); });
                    });
}

QCheckBox* SettingsGroup::addCheck(const char* name, const char* effect,
                                   std::function<void(Job&, bool)> set) {
    return FieldGroup::addCheck(name, effect, [this, set = std::move(set)](const QString& label, bool isOn) {
        document_.endRun();
        document_.change(label, [&](Job& job) { set(job, isOn); });
    });
}

} // namespace hasami
