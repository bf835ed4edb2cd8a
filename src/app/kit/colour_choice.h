#pragma once

#include "artwork/paint_colour.h"

#include <QPixmap>
#include <QWidget>

#include <vector>

class QComboBox;
class QHBoxLayout;
class QLabel;
class QLineEdit;

namespace hasami {

/// A small picture of a colour.
QPixmap chipOf(Rgba colour, QSize size, const QColor& rim);

/// A colour: typed as #RRGGBB or as four inks in percent, what it is printed in, the name of a spot colour,
/// and chips of colours that suit.
class ColourChoice : public QWidget {
    Q_OBJECT
public:
    enum class Colours {
        printed, ///< RGB, CMYK and spot colours
        seen,    ///< RGB alone
    };
    ColourChoice(const char* name, const char* effect, Colours colours, QWidget* parent = nullptr);

    void show(const PaintColour& colour, const std::vector<PaintColour>& suiting);

Q_SIGNALS:
    void chosen(const hasami::PaintColour& colour);

private:
    void addKind(const char* name);
    void showKind();
    void showChips();
    void take();
    void takeKind(int kind);
    void takeName();
    void choose(const PaintColour& colour);

    PaintColour colour_;
    std::vector<PaintColour> suiting_;
    QLineEdit* field_;
    QLabel* sample_;
    QComboBox* kind_ = nullptr; // of printed ones
    QLineEdit* spot_ = nullptr;
    QHBoxLayout* chips_;
    bool isNaming_ = false; ///< a spot colour was asked for that has no name yet
};

} // namespace hasami
