#pragma once

#include "app/document/document.h"
#include "app/kit/quantity_field.h"

#include <QFrame>
#include <QVBoxLayout>

#include <functional>

class QComboBox;
class QGridLayout;
class QLabel;

namespace hasami {

class MediumPanel;
class NestRun;

/// The sheet's settings in groups: medium, packing, the box that its stickers share, marks, machine.
class SheetSettings : public QFrame {
    Q_OBJECT
public:
    SheetSettings(Document& document, NestRun& nest, QWidget* parent = nullptr);

    MediumPanel& medium() { return *medium_; }

    /// Puts a panel above all others.
    void addOnTop(QWidget* panel) { layout_->insertWidget(0, panel); }

private:
    QWidget* boxGroup();
    QWidget* marksGroup();
    void chooseBox(int place);
    void changeBox(const QString& label, const std::function<void(SharedBox&)>& change);
    void showJob();
    void showBox();

    Document& document_;
    MediumPanel* medium_;
    QVBoxLayout* layout_ = nullptr;
    QComboBox* box_;
    QuantityField *boxMargin_ = nullptr, *boxRadius_ = nullptr, *boxTabs_ = nullptr, *boxTab_ = nullptr;
    QLabel* marks_;
};

} // namespace hasami
