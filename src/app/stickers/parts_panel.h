#pragma once

#include "app/document/document.h"

#include <QWidget>

class QLabel;
class QMenu;
class QPushButton;

namespace hasami {

class QuantityField;

/// Splits the selected design into its parts, those closer than a distance (mm) kept together, as one undo
/// step.
void splitSelected(Document& document, double together);

/// Artwork that falls into separate parts is split into designs; other designs are gathered into this one.
class PartsPanel : public QWidget {
    Q_OBJECT
public:
    explicit PartsPanel(Document& document, QWidget* parent = nullptr);

    void showDesign(const Design& design, const MadeDesign* made);

private:
    void listOthers();
    void gather(const std::vector<std::string>& others, const QString& label);

    Document& document_;
    QLabel* count_;
    QWidget* parts_; ///< what there is to choose where there are several
    QuantityField* together_;
    QPushButton *split_, *gather_;
    QMenu* others_;
    /// Counting takes a pass over the outlines: what was counted last.
    std::shared_ptr<const Sticker> counted_;
    double countedWithin_ = 0;
    std::size_t found_ = 0;
};

} // namespace hasami
