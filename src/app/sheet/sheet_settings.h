#pragma once

#include "app/document/document.h"

#include <QFrame>
#include <QVBoxLayout>

namespace hasami {

class MachinePanel;
class MediumPanel;
class NestRun;

/// The sheet's settings in groups: medium, packing, the box that its stickers share, marks, machine.
class SheetSettings : public QFrame {
    Q_OBJECT
public:
    SheetSettings(Document& document, NestRun& nest, QWidget* parent = nullptr);

    MediumPanel& medium() { return *medium_; }
    MachinePanel& machine() { return *machine_; }

    /// Puts a panel above all others.
    void addOnTop(QWidget* panel) { layout_->insertWidget(0, panel); }

private:
    MediumPanel* medium_;
    MachinePanel* machine_;
    QVBoxLayout* layout_ = nullptr;
};

} // namespace hasami
