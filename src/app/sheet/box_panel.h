#pragma once

#include "app/controls/settings_group.h"

namespace hasami {

/// The box that the stickers of a sheet share: one line around all of them.
class BoxPanel : public SettingsGroup {
    Q_OBJECT
public:
    explicit BoxPanel(Document& document, QWidget* parent = nullptr);

private:
    void choose(int place);
    void showJob();

    QComboBox* kind_;
    QuantityField *margin_, *radius_, *tabs_, *tab_;
};

} // namespace hasami
