#pragma once

#include "app/stickers/step_page.h"

#include <functional>
#include <optional>

class QComboBox;
class QLabel;
class QPushButton;
class QVBoxLayout;

namespace hasami {

/// How one cut line of a recipe follows: its kind, its course, its tabs and its lift tab.
class CutLinePanel : public StepPage {
    Q_OBJECT
public:
    /// `line`: the number of the line that is shown, of the selected design.
    CutLinePanel(Document& document, std::function<std::size_t()> line, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made) override;
    QuantityRow& mainNumber() override;
    QuantityRow* secondNumber() override;

private:
    using Set = std::function<void(LineRecipe&, double)>;
    QuantityRow* row(const QuantityRow::Description& description, const Set& set);
    QComboBox* choice(const char* name, const char* effect, const QStringList& names,
                      std::function<void(Design&, LineRecipe&, int)> chosen);
    void addCourse();
    void addTabs();
    LineRecipe& lineOf(Design& design) const;
    void showFor(QWidget* control, bool isShown);

    std::function<std::size_t()> line_;
    QVBoxLayout* layout_;
    QComboBox *kind_ = nullptr, *course_ = nullptr, *corners_ = nullptr, *shape_ = nullptr, *fold_ = nullptr,
              *tabs_ = nullptr;
    std::optional<double> limitForAll(double limit);
    void keepCorners();

    QPushButton* keepCorners_ = nullptr;
    QLabel* drawing_ = nullptr;
    QuantityRow *offset_ = nullptr, *limit_ = nullptr, *margin_ = nullptr, *radius_ = nullptr,
                *sides_ = nullptr, *foldAt_ = nullptr, *count_ = nullptr, *cut_ = nullptr, *tab_ = nullptr,
                *lift_ = nullptr, *liftAt_ = nullptr;
};

} // namespace hasami
