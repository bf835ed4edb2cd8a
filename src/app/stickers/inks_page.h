#pragma once

#include "app/stickers/step_page.h"

class QCheckBox;
class QComboBox;
class QHBoxLayout;
class QLabel;
class QListWidget;
class QPushButton;

namespace hasami {

/// What a sticker is printed on, for the eye.
enum class MediumLook { white, clear, black, kraft };

/// What the work is for, and its special inks: where each is printed, and its choke.
class InksPage : public StepPage {
    Q_OBJECT
public:
    explicit InksPage(Document& document, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override { return *choke_; }
    QuantityRow* secondNumber() override { return threshold_; }

    /// The ink that is chosen in the list; nothing where there is none.
    std::optional<InkKind> ink() const;
    /// A click on the artwork adds its colour, or takes it away.
    void takeColour(Rgba colour);

Q_SIGNALS:
    void lookChanged(hasami::MediumLook look);
    void inkChosen();

private:
    void addUse();
    void addList();
    void addInk(InkKind ink);
    void removeInk();
    void showList(const Recipe& recipe);
    void showColours(const InkLayer& layer);
    void showWithLabel(QComboBox& box, bool isShown);
    void showMade(const Design& design, const MadeDesign* made);
    void changeLayer(const QString& label, const std::function<void(InkLayer&)>& change);

    QComboBox *use_ = nullptr, *white_ = nullptr, *area_ = nullptr, *look_ = nullptr;
    QCheckBox* mirrored_;
    QListWidget* list_;
    QPushButton *add_, *remove_;
    QuantityRow *choke_ = nullptr, *threshold_ = nullptr;
    QWidget* colours_;
    QHBoxLayout* chips_;
    QLabel* text_;
};

} // namespace hasami
