#pragma once

#include "app/controls/settings_group.h"
#include "app/document/nest_run.h"

class QPushButton;

namespace hasami {

/// How many of each, and how they lie: in rows by rules, or in a nest.
class PackingPanel : public SettingsGroup {
    Q_OBJECT
public:
    PackingPanel(Document& document, NestRun& nest, QWidget* parent = nullptr);

private:
    void addCopies();
    void addRows();
    void addNest();
    QPushButton* addWay(const char* name, const char* effect, Packing packing);
    void fillWithSets();
    void changeSelected(const QString& label, const std::function<void(Design&)>& change);
    void layInRows();
    void layInNest();
    void showJob();

    NestRun& nest_;
    QPushButton *inRows_, *inNest_;
    QuantityField *count_, *sets_, *across_, *along_, *most_, *gap_;
    QPushButton* fillSets_;
    QCheckBox *fills_, *staggered_, *turned_, *centred_;
    QComboBox* turning_;
    QLabel* turningName_;
    bool showedSearch_ = false;
};

} // namespace hasami
